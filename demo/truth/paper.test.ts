import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Quad } from '@miradero/core/geometry';
import { findPaper, sizeOfPaper, squarePaper, whitenPaper } from '@miradero/core/picture';
import sharp from 'sharp';
import { beforeAll, expect, it } from 'vitest';

/** The sheet that the simulated camera sees, against where it was put. */
const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const truth = JSON.parse(readFileSync(here('simulated-camera.json'), 'utf8')) as {
  width: number;
  height: number;
  sheet: Quad;
  paperMm: { width: number; height: number };
};

let photo: { width: number; height: number; data: Uint8ClampedArray };
beforeAll(async () => {
  const { data, info } = await sharp(here('../../web/public/simulated-camera/paper.jpg'))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  photo = { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
});

it('has its corners found within 0.6 % of the photograph', () => {
  const found = findPaper(photo)!;
  for (const [index, { x, y }] of found.entries()) {
    const { x: wantedX, y: wantedY } = truth.sheet[index]!;
    expect(Math.hypot(x - wantedX, y - wantedY)).toBeLessThan(0.006 * photo.width);
  }
});

it('squared and whitened, has a white margin all round and its strokes within', () => {
  const size = sizeOfPaper(truth.sheet, truth.paperMm.width / truth.paperMm.height);
  const { width, height, data } = whitenPaper(squarePaper(photo, truth.sheet, size));
  const tone = (u: number, v: number) =>
    data[(Math.floor(v * height) * width + Math.floor(u * width)) * 4 + 1]!;
  for (const at of [0.1, 0.3, 0.5, 0.7, 0.9])
    for (const margin of [0.025, 0.975]) {
      expect(tone(at, margin), `${at}, ${margin}`).toBeGreaterThan(236);
      expect(tone(margin, at), `${margin}, ${at}`).toBeGreaterThan(236);
    }
  const dark = Array.from({ length: 10_000 }, (_, index) =>
    tone(0.1 + 0.008 * (index % 100), 0.1 + 0.008 * Math.floor(index / 100)),
  );
  expect(dark.filter((one) => one < 170).length).toBeGreaterThan(100);
});
