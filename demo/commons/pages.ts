import { found, GALLERIES, type Gallery, LICENCES, WORKS, type Work } from './catalog.ts';

/** Widths that a page offers beside the largest one, pixels. */
export const WIDTHS = [320, 640, 1280] as const;
export const THUMB = 200;
export const PREVIEW = 480;

const safe = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

export const pictureAddress = (work: Work, width: number | 'full'): string =>
  `/file/${width}/${work.file.replace(/\.\w+$/, '')}.jpg`;

const STYLE = `
  body { margin: 0 auto; max-width: 62rem; padding: 1.5rem; background: #eceee6; color: #22302c; font: 16px/1.5 Georgia, serif; }
  header { display: flex; gap: 1.5rem; align-items: baseline; border-bottom: 3px double #5d7068; padding-bottom: .6rem; }
  header a { color: inherit; text-decoration: none; } header strong { font-size: 1.5rem; letter-spacing: .02em; }
  ul.works { list-style: none; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(12rem, 1fr)); gap: 1.2rem; }
  ul.works img { width: 100%; height: 9rem; object-fit: cover; display: block; background: #cfd5cb; }
  figure { margin: 1.5rem 0; } figure img { max-width: 100%; height: auto; }
  dl { display: grid; grid-template-columns: max-content 1fr; gap: .2rem 1rem; } dt { font-style: italic; } dd { margin: 0; }
  footer { margin-top: 3rem; padding-top: .6rem; border-top: 1px solid #5d7068; font-size: .85rem; color: #4a5a53; }
  .price { color: #8a3a1f; } a { color: #1f5a52; }
`;

export const INVENTED =
  'Tidewrack Commons is invented: it ships with a demo. Nobody named here exists, nor does any licence.';

/** A whole page; it says that it is invented. */
export function page(title: string, body: string, head = ''): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>${safe(title)} · Tidewrack Commons</title>${head}<style>${STYLE}</style></head><body>
<header><a href="/"><strong>Tidewrack Commons</strong></a><form action="/search"><input name="q" aria-label="Look for"> <button>Look</button></form></header>
${body}
<footer><img src="/crest.png" width="16" height="16" alt=""> ${INVENTED}</footer></body></html>`;
}

const card = (work: Work, picture: string): string =>
  `<li><a href="/work/${work.id}">${picture}<span>${safe(work.title)}</span></a><br><small>${safe(work.author)}${
    work.offer === 'paid' ? ' · <span class="price">nine shells</span>' : ''
  }</small></li>`;

export function homePage(): string {
  const galleries = Object.entries(GALLERIES)
    .map(([key, name]) => `<li><a href="/gallery/${key}">${name}</a></li>`)
    .join('');
  const corners = [
    ['/lazy', 'A long page, its pictures loaded when one comes to them'],
    ['/slow', 'From a slow server'],
    ['/broken', 'After the flood: broken pictures'],
    ['/old/wheel', 'The wheel, at its old address'],
    ['/odd', 'Odd ends'],
    ['/search?q=ferry', 'Looked for: ferry'],
  ]
    .map(([to, name]) => `<li><a href="${to}">${name}</a></li>`)
    .join('');
  return page(
    'Pictures for makers',
    `<h1>Pictures for makers</h1><h2>Galleries</h2><ul>${galleries}</ul><h2>Corners</h2><ul>${corners}</ul>`,
  );
}

export function galleryPage(gallery: Gallery): string {
  const works = WORKS.filter((work) => work.gallery === gallery)
    .map((work) => {
      const sizes = WIDTHS.map((width) => `${pictureAddress(work, width)} ${width}w`).join(', ');
      const only = work.offer === 'sizes' ? ` srcset="${sizes}" sizes="12rem"` : '';
      return card(work, `<img src="${pictureAddress(work, 320)}"${only} alt="${safe(work.title)}">`);
    })
    .join('');
  return page(GALLERIES[gallery], `<h1>${GALLERIES[gallery]}</h1><ul class="works">${works}</ul>`);
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

/** Open Graph and JSON-LD as they stand on a page of one work. */
function headOf(work: Work, shown: string, origin: string, { width, height }: Size): string {
  const licence = LICENCES[work.licence];
  const linked = {
    ...{ '@context': 'https://schema.org', '@type': 'ImageObject', name: work.title },
    ...{ contentUrl: `${origin}${shown}`, url: `${origin}/work/${work.id}`, width, height },
    creator: { '@type': 'Person', name: work.author },
    license: `${origin}/licence/${work.licence}`,
    ...{ creditText: `${work.author}, Tidewrack Commons`, copyrightNotice: licence.name },
    keywords: work.words.join(', '),
  };
  const graph: [string, string][] = [
    ['og:site_name', 'Tidewrack Commons'],
    ['og:type', 'article'],
    ['og:title', work.title],
    ['og:url', `${origin}/work/${work.id}`],
    ['og:image', `${origin}${shown}`],
    ['og:image:width', String(width)],
    ['og:image:height', String(height)],
    ['og:image:alt', work.title],
  ];
  return `${graph.map(([name, content]) => `<meta property="${name}" content="${safe(content)}">`).join('')}
<meta name="author" content="${safe(work.author)}"><link rel="license" href="/licence/${work.licence}">
<script type="application/ld+json">${JSON.stringify(linked).replaceAll('<', '\\u003c')}</script>`;
}

export function workPage(work: Work, origin: string, full: Size): string {
  const licence = LICENCES[work.licence];
  const within = WIDTHS.filter((width) => width < full.width);
  const sizes = [...within.map((width) => `${pictureAddress(work, width)} ${width}w`)];
  sizes.push(`${pictureAddress(work, 'full')} ${full.width}w`);
  const alt = safe(work.title);
  const preview = pictureAddress(work, PREVIEW);
  const picture = {
    sizes: `<img src="${pictureAddress(work, 640)}" srcset="${sizes.join(', ')}" sizes="60rem" alt="${alt}">`,
    linked: `<a href="${pictureAddress(work, 'full')}"><img src="${preview}" alt="${alt}"></a>
<figcaption><a href="${pictureAddress(work, 'full')}">Full size, ${full.width} × ${full.height}</a></figcaption>`,
    paid: `<img src="${preview}" alt="${alt}"><figcaption class="price">${licence.says} Only this small one is shown.</figcaption>`,
  }[work.offer];
  const facts = `<dl><dt>Made by</dt><dd rel="author">${safe(work.author)}</dd><dt>Licence</dt><dd><a rel="license" href="/licence/${work.licence}">${safe(licence.name)}</a></dd><dt>Words</dt><dd>${work.words.join(', ')}</dd></dl>`;
  const shown = work.offer === 'paid' ? preview : pictureAddress(work, 'full');
  const scaled = Math.round((full.height * PREVIEW) / full.width);
  const size = work.offer === 'paid' ? { width: PREVIEW, height: scaled } : full;
  return page(
    work.title,
    `<h1>${alt}</h1><figure>${picture}</figure>${facts}<p><a href="/gallery/${work.gallery}">More from ${GALLERIES[work.gallery]}</a></p>`,
    headOf(work, shown, origin, size),
  );
}

export function searchPage(question: string): string {
  const works = found(question);
  const list = works
    .map((work) =>
      card(work, `<img src="${pictureAddress(work, THUMB)}" width="${THUMB}" alt="${safe(work.title)}">`),
    )
    .join('');
  const words = question ? `${works.length} for “${safe(question)}”` : 'Everything';
  return page(`Looked for ${question || 'everything'}`, `<h1>${words}</h1><ul class="works">${list}</ul>`);
}

/** Pictures that a script puts in when they come into view; without one, they stand in `noscript`. */
export function lazyPage(): string {
  const works = WORKS.filter(({ offer }) => offer === 'sizes')
    .map((work, index) => {
      const alt = safe(work.title);
      const address = pictureAddress(work, 1280);
      if (index % 2 === 0) return card(work, `<img loading="lazy" src="${address}" alt="${alt}">`);
      const blank = 'data:image/gif;base64,R0lGODlhAQABAAAAACH5BAEKAAEALAAAAAABAAEAAAICTAEAOw==';
      return card(
        work,
        `<img class="later" src="${blank}" data-src="${address}" alt="${alt}"><noscript><img src="${address}" alt="${alt}"></noscript>`,
      );
    })
    .join('');
  const script = `<script>
    const seen = new IntersectionObserver((entries) => { for (const { target, isIntersecting } of entries)
      if (isIntersecting) { target.src = target.dataset.src; seen.unobserve(target); } });
    for (const picture of document.querySelectorAll('img.later')) seen.observe(picture);
  </script>`;
  return page('A long page', `<h1>A long page</h1><ul class="works">${works}</ul>${script}`);
}

export function slowPage(): string {
  return page(
    'From a slow server',
    '<h1>From a slow server</h1><figure><img src="/file/slow.jpg" alt="It comes, in a while"></figure>',
  );
}

export function brokenPage(): string {
  const rows = [
    ['/file/lost.jpg', 'Washed away'],
    ['/file/failing.jpg', 'The shelf fell down'],
    ['/file/torn.jpg', 'Torn in half'],
    ['/file/empty.jpg', 'Nothing in the envelope'],
  ];
  const list = rows.map(
    ([from, alt]) => `<figure><img src="${from}" alt="${alt}"><figcaption>${alt}</figcaption></figure>`,
  );
  return page('After the flood', `<h1>After the flood</h1>${list.join('')}`);
}

export function oddPage(): string {
  const rows = [
    ['/file/moved.jpg', 'Moved twice'],
    ['/file/around.jpg', 'Moved for ever'],
    ['/file/lying.jpg', 'Says it is a picture'],
    ['/file/modest.txt', 'Says it is a text'],
    ['/file/endless.jpg', 'Never ends'],
  ];
  const list = rows.map(([to, name]) => `<li><a href="${to}">${name}</a></li>`);
  return page('Odd ends', `<h1>Odd ends</h1><ul>${list.join('')}</ul>`);
}

export function licencePage(licence: keyof typeof LICENCES): string {
  const { name, says } = LICENCES[licence];
  return page(name, `<h1>${safe(name)}</h1><p>${safe(says)}</p>`);
}
