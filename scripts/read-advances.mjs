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
/** Faces that text is set in: the files of the variable serif hold its two at 400, those of one weight the bold ones. */
const FACES = {
  roman: 'fontsource-variable/newsreader/files/newsreader-{}-wght-normal',
  italic: 'fontsource-variable/newsreader/files/newsreader-{}-wght-italic',
  bold: 'fontsource/newsreader/files/newsreader-{}-700-normal',
  boldItalic: 'fontsource/newsreader/files/newsreader-{}-700-italic',
};
const SUBSETS = ['latin', 'latin-ext', 'vietnamese'];
/** Weight of running text: what the files hold without being varied. */
const WEIGHT = 400;

/** Runs of neighbouring code points: the first one's number, then the advance of each in thousandths of an em. */
function runs(pattern) {
  const { create } = require('fontkit');
  const advances = new Map();
  for (const subset of SUBSETS) {
    const path = require.resolve(`@${pattern.replace('{}', subset)}.woff2`);
    const font = create(readFileSync(path));
    if (font.variationAxes.wght && font.variationAxes.wght.default !== WEIGHT)
      throw new Error(`${path} is not of weight ${WEIGHT}`);
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
  return found.map(({ first, advances }) => `${first}:${advances.join(' ')}`);
}

export function advancesSource() {
  return [
    '/** Made by `scripts/read-advances.mjs` from the shipped serif at weights 400 and 700; not to be edited. */',
    '/** One run a line: `first code point:advance of it and of each that follows`, thousandths of an em. */',
    'export const SERIF_ADVANCES = {',
    ...Object.entries(FACES).flatMap(([face, pattern]) => [`  ${face}: \``, ...runs(pattern), '`,']),
    '} as const;',
    '',
  ].join('\n');
}

export const advancesFile = OUT;

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(OUT, advancesSource());
