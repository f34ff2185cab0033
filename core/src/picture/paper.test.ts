import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyProjective, projectiveFromQuads, type Quad } from '../geometry/index.ts';
import { findPaper, sizeOfPaper, squarePaper, whitenPaper } from './index.ts';

const UNIT: Quad = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

/** A photograph of a sheet on a dark table: light falls off across it; a cross of strokes is drawn on it. */
function photograph(corners: Quad, width = 640, height = 480) {
  const toSheet = projectiveFromQuads(corners, UNIT);
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const { x: u, y: v } = applyProjective(toSheet, { x: x + 0.5, y: y + 0.5 });
      const isOn = u >= 0 && u <= 1 && v >= 0 && v <= 1;
      const isStroke =
        (Math.abs(u - 0.5) < 0.01 && v > 0.1 && v < 0.9) || (Math.abs(v - 0.25) < 0.01 && u > 0.1 && u < 0.9);
      const light = 1 - 0.35 * (x / width);
      const tone = isOn ? (isStroke ? 60 : 225) * light : 55 + 10 * Math.sin(x / 9);
      data.set([tone, tone * 0.97, tone * 0.9, 255], (y * width + x) * 4);
    }
  return { width, height, data };
}

const CORNERS: Quad = [
  { x: 150, y: 60 },
  { x: 520, y: 110 },
  { x: 560, y: 420 },
  { x: 90, y: 380 },
];

describe('a sheet on a table', () => {
  it('has its corners found, clockwise from the top left, within three pixels', () => {
    const found = findPaper(photograph(CORNERS))!;
    for (const [index, { x, y }] of found.entries())
      expect(Math.hypot(x - CORNERS[index]!.x, y - CORNERS[index]!.y)).toBeLessThan(3);
  });

  it('is not found where there is none', () => {
    const bare = { width: 90, height: 60, data: new Uint8ClampedArray(90 * 60 * 4).fill(70) };
    expect(findPaper(bare)).toBeUndefined();
  });

  it('squared, has its strokes where they were drawn', () => {
    const flat = squarePaper(photograph(CORNERS), CORNERS, { width: 400, height: 300 });
    const tone = (x: number, y: number) => flat.data[(y * 400 + x) * 4]!;
    expect(tone(200, 150)).toBeLessThan(90);
    expect(tone(100, 75)).toBeLessThan(90);
    expect(tone(100, 150)).toBeGreaterThan(140);
    expect(tone(300, 30)).toBeGreaterThan(120);
  });

  it('whitened, is white everywhere, and its strokes stay dark', () => {
    const white = whitenPaper(squarePaper(photograph(CORNERS), CORNERS, { width: 400, height: 300 }));
    for (const [x, y] of [
      [30, 30],
      [370, 280],
      [370, 30],
      [100, 200],
    ] as const) {
      expect(white.data[(y * 400 + x) * 4]).toBeGreaterThan(240);
      expect(white.data[(y * 400 + x) * 4 + 2]).toBeGreaterThan(240);
    }
    expect(white.data[(150 * 400 + 200) * 4]).toBeLessThan(100);
  });

  it('keeps the pixels of its photograph, in its own aspect', () => {
    const { width, height } = sizeOfPaper(CORNERS, 297 / 210);
    expect(width / height).toBeCloseTo(297 / 210, 2);
    expect(width).toBeGreaterThanOrEqual(420);
  });
});

describe('projective transform', () => {
  it('brings the four points where they should be, and back', () => {
    const side = fc.double({ min: 0.05, max: 0.45, noNaN: true });
    fc.assert(
      fc.property(side, side, side, side, (a, b, c, d) => {
        const quad: Quad = [
          { x: a, y: b },
          { x: 1 - c, y: d },
          { x: 1 - a, y: 1 - b },
          { x: c, y: 1 - d },
        ];
        const there = projectiveFromQuads(UNIT, quad);
        const back = projectiveFromQuads(quad, UNIT);
        for (const point of [...UNIT, { x: 0.3, y: 0.7 }]) {
          const { x, y } = applyProjective(back, applyProjective(there, point));
          expect(x).toBeCloseTo(point.x, 6);
          expect(y).toBeCloseTo(point.y, 6);
        }
      }),
    );
  });

  it('refuses points on one line', () => {
    const line: Quad = [UNIT[0], UNIT[1], { x: 2, y: 0 }, UNIT[3]];
    expect(() => projectiveFromQuads(line, UNIT)).toThrow(RangeError);
  });
});
