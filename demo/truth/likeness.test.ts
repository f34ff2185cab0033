import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { copyBetween, type Print, printOf } from '@miradero/core/picture';
import sharp from 'sharp';
import { beforeAll, expect, it } from 'vitest';
import type { Truth } from './truth.ts';

/** Near copies against the scenario: every known one is found, and none of the others is taken for one. */
const PICTURES = fileURLToPath(new URL('../pictures/', import.meta.url));

interface Known {
  readonly file: string;
  /** What it is a copy of; itself for an original. */
  readonly family: string;
  readonly isMirrored: boolean;
  readonly print: Print;
}

/** Four drawings of one page are one drawing, redrawn. */
const familyOf = (file: string, truth: Truth): string =>
  file.startsWith('page-7-') ? 'page-7' : ('from' in truth && truth.from?.file) || file;

async function known(file: string): Promise<Known> {
  const truth = JSON.parse(readFileSync(`${PICTURES}${file}.truth.json`, 'utf8')) as Truth;
  const { data, info } = await sharp(`${PICTURES}${file}`, { limitInputPixels: false })
    .autoOrient()
    .resize(128, 128, { fit: 'inside' })
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const print = printOf({ width: info.width, height: info.height, data });
  return { file, family: familyOf(file, truth), isMirrored: file.includes('-mirrored'), print };
}

let all: Known[];
beforeAll(async () => {
  all = [];
  const files = readdirSync(PICTURES).filter(
    (file) => /\.(?:jpe?g|png|webp|gif)$/i.test(file) && !file.endsWith('.poster.webp'),
  );
  for (const file of files) all.push(await known(file));
}, 180_000);

const pairs = () => all.flatMap((one, index) => all.slice(0, index).map((other) => [one, other] as const));
const name = ([one, other]: readonly [Known, Known]) => `${one.file} and ${other.file}`;

it('finds every known copy, and says which are turned over', () => {
  const families = pairs().filter(([one, other]) => one.family === other.family && one.family !== 'page-7');
  expect(families.length).toBeGreaterThan(50);
  for (const pair of families) {
    const copy = copyBetween(pair[0].print, pair[1].print);
    expect(copy, name(pair)).toBeDefined();
    expect(copy!.isMirrored, name(pair)).toBe(pair[0].isMirrored !== pair[1].isMirrored);
  }
}, 180_000);

it('takes no two others for copies', () => {
  const strangers = pairs().filter(([one, other]) => one.family !== other.family);
  expect(strangers.length).toBeGreaterThan(4_000);
  const mistaken = strangers.filter(([one, other]) => copyBetween(one.print, other.print) !== undefined);
  expect(mistaken.map(name)).toEqual([]);
}, 300_000);
