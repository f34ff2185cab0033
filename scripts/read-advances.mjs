import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/**
 * Reads how far each character of the shipped serif advances, so that text is laid out alike wherever it is drawn:
 * `node scripts/read-advances.mjs` writes `core/src/typesetting/advances.ts`. A test holds it to the fonts.
 */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const OUT = join(ROOT, 'core/src/typesetting/advances.ts');
const require = createRequire(join(ROOT, 'server/package.json'));
const FILES = ['latin', 'latin-ext', 'vietnamese'].map((subset) =>
  require.resolve(`@fontsource-variable/newsreader/files/newsreader-${subset}-wght-normal.woff2`),
);
/** Weight of running text: what the files hold without being varied. */
const WEIGHT = 400;

/** Runs of neighbouring code points: the first one's number, then the advance of each in thousandths of an em. */
function runs() {
  const { create } = require('fontkit');
  const advances = new Map();
  for (const path of FILES) {
    const font = create(readFileSync(path));
    if (font.variationAxes.wght.default !== WEIGHT) throw new Error(`${path} is not of weight ${WEIGHT}`);
    for (const codePoint of font.characterSet) {
      if (advances.has(codePoint) || codePoint < 32) continue;
      const { advanceWidth } = font.glyphForCodePoint(codePoint);
      advances.set(codePoint, Math.round((advanceWidth * 1000) / font.unitsPerEm));
    }
  }
  const found = [];
  for (const codePoint of [...advances.keys()].sort((a, b) => a - b)) {
    const last = found.at(-1);
    if (last && last.first + last.advances.length === codePoint) last.advances.push(advances.get(codePoint));
    else found.push({ first: codePoint, advances: [advances.get(codePoint)] });
  }
  return found;
}

export function advancesSource() {
  const lines = runs().map(({ first, advances }) => `${first}:${advances.join(' ')}`);
  return [
    '/** Made by `scripts/read-advances.mjs` from the shipped serif at weight 400; not to be edited. */',
    '/** One run a line: `first code point:advance of it and of each that follows`, thousandths of an em. */',
    'export const SERIF_ADVANCES = `',
    ...lines,
    '`;',
    '',
  ].join('\n');
}

export const advancesFile = OUT;

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(OUT, advancesSource());
