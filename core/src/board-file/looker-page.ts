/** The page of somebody who looks at a board by a link: its script asks for everything that it shows. */
export const LOOKER_PAGE = `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="referrer" content="no-referrer">
<title>A board</title>
<link rel="stylesheet" href="looker.css">
</head>
<body>
<header><h1 id="name">A board</h1><button id="before" type="button">before</button><button id="next" type="button">next</button><button id="whole" type="button">whole board</button></header>
<main>
<canvas id="board" tabindex="0" role="img" aria-label="The board. Arrows move it, plus and minus zoom, 0 shows it whole; Page Down and Page Up go from picture to picture, Y lays one on yes, N on no."></canvas>
<ul id="words" class="unseen" aria-label="What stands on the board"></ul>
</main>
<aside aria-label="What you say of it">
<p id="tasks" hidden></p>
<p id="give" class="line" hidden><button id="take" class="word" type="button">take the board as a file</button> <span id="making" role="status"></span></p>
<form id="enter" hidden><label>Your name <input id="guest" maxlength="60" autocomplete="name" required></label><button class="primary" type="submit">Begin</button></form>
<div id="saying" hidden>
<p class="line"><span id="who"></span> <span id="count"></span></p>
<h2 id="picture"></h2><p id="credit"></p><p id="fetch" class="line" hidden><a id="original" class="word" download>fetch its original</a></p>
<div id="choices"><button id="yes" type="button" aria-pressed="false">yes</button><button id="no" type="button" aria-pressed="false">no</button></div>
<ul id="remarks" aria-label="Your remarks on it"></ul>
<form id="remark"><label>A remark <textarea id="text" rows="3" maxlength="2000" required></textarea></label><button type="submit">Keep it</button></form>
<button id="send" class="primary" type="button">Hand in</button>
</div>
<p id="told" role="status"></p>
</aside>
<script src="looker.js"></script>
</body>
</html>
`;

export const LOOKER_CSS = `html,body{height:100%;margin:0}
body{display:grid;grid-template:auto minmax(0,1fr)/minmax(0,1fr) 280px;background:#f0f0ee;color:#1d1d1b;font:15px/1.4 Georgia,serif}
header{grid-column:1/-1;display:flex;align-items:baseline;gap:18px;padding:7px 14px;border-bottom:1px solid #d5d5d2}
h1{font-size:18px;font-weight:400;margin:0;flex:1;min-width:0;overflow-wrap:anywhere}
h2{font-size:17px;font-weight:400;margin:12px 0 0;overflow-wrap:anywhere}
button{font:inherit;font-size:14px;color:inherit;background:none;border:1px solid #8c8c89;padding:5px 14px;cursor:pointer}
header button,.word{font-size:14px;border:0;padding:0;text-decoration:underline;color:#44443f}
.primary,[aria-pressed=true]{background:#1d1d1b;border-color:#1d1d1b;color:#f0f0ee}
main{position:relative;min-height:0;background:#797979}
canvas{display:block;width:100%;height:100%;touch-action:none}
:focus-visible{outline:2px solid #2c7a6b;outline-offset:1px}
aside{padding:12px 14px;border-left:1px solid #d5d5d2;overflow:auto}
#tasks{white-space:pre-wrap;overflow-wrap:anywhere;border-bottom:1px solid #d5d5d2;padding-bottom:10px;margin-top:0}
#credit,.line{color:#55554f;font-size:14px;margin:2px 0;overflow-wrap:anywhere}
#choices{display:flex;gap:8px;margin:10px 0}
#remarks{padding-left:18px;margin:8px 0;overflow-wrap:anywhere}
form{margin:10px 0}
label{display:block;font-size:14px;color:#55554f}
input,textarea{display:block;box-sizing:border-box;width:100%;margin:3px 0 8px;padding:6px 8px;font:inherit;color:#1d1d1b;background:#fafaf9;border:1px solid #d5d5d2;resize:vertical}
#told{min-height:1.4em;overflow-wrap:anywhere}
.trouble{color:#a83220}
.unseen{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%)}
[hidden]{display:none!important}
@media(max-width:760px){body{grid-template:auto minmax(0,1fr) auto/minmax(0,1fr)}aside{border-left:0;border-top:1px solid #d5d5d2;max-height:46vh}button{min-height:40px}}
`;
