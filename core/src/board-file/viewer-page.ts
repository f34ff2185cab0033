import { escapedMarkup } from '../formats/index.ts';

/** The page of a board file, beside its script and its pictures; it asks for nothing from elsewhere. */
export const viewerPage = (name: string, ground: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escapedMarkup(name)}</title>
<style>
html,body{height:100%;margin:0}
body{display:flex;flex-direction:column;background:#f0f0ee;color:#1d1d1b;font:15px/1.4 Georgia,serif}
header{display:flex;align-items:baseline;gap:18px;padding:7px 14px;border-bottom:1px solid #d5d5d2}
h1{font-size:18px;font-weight:400;margin:0;flex:1;min-width:0;overflow-wrap:anywhere}
header a,header button{font:inherit;font-size:14px;color:#44443f;background:none;border:0;padding:0;text-decoration:underline;cursor:pointer;white-space:nowrap}
main{position:relative;flex:1;min-height:0;background:${escapedMarkup(ground)}}
canvas{display:block;width:100%;height:100%;touch-action:none}
canvas:focus-visible{outline:2px solid #2c7a6b;outline-offset:-2px}
#label{position:absolute;left:12px;bottom:12px;max-width:min(420px,calc(100% - 24px));box-sizing:border-box;padding:8px 12px;background:#fafaf9;border:1px solid #d5d5d2;overflow-wrap:anywhere}
#label strong{display:block;font-weight:400;font-size:17px}
#label span{color:#55554f;font-size:14px}
#label[hidden]{display:none}
.unseen{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%)}
</style>
</head>
<body>
<header><h1 id="name"></h1><button id="before" type="button">before</button><button id="next" type="button">next</button><button id="whole" type="button">whole board</button><a href="credits.html">sources</a></header>
<main>
<canvas id="board" tabindex="0" role="img" aria-label="The board. Arrows move it, plus and minus zoom, 0 shows it whole; Page Down and Page Up go from picture to picture."></canvas>
<div id="label" role="status" hidden></div>
<ul id="words" class="unseen" aria-label="What stands on the board"></ul>
</main>
<script src="viewer.js"></script>
</body>
</html>
`;

/** The script of the page: the board, then the viewer. A text of the board can end neither of them. */
export const viewerScript = (board: object, viewer: string): string =>
  `globalThis.MIRADERO_BOARD=${JSON.stringify(board).replaceAll('<', '\\u003c').replaceAll('\u2028', '\\u2028').replaceAll('\u2029', '\\u2029')};\n${viewer}`;
