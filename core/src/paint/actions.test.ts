import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  BareGround,
  BRUSHES,
  coveredShare,
  createLayer,
  filledMask,
  fillFrom,
  type Layer,
  lassoMask,
  paintArea,
  Smudge,
  TILE_PX,
  tileKey,
} from './index.ts';

const SHEET = { x: 0, y: 0, width: 600, height: 500 };
const RED = { colour: [200, 30, 10] as const, opacity: 1 };
const square = (x: number, y: number, width: number, height: number) => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];
const pixelAt = (layer: Layer, x: number, y: number): number[] => {
  const tile = layer.tiles.get(tileKey({ column: Math.floor(x / TILE_PX), row: Math.floor(y / TILE_PX) }));
  const at = ((y % TILE_PX) * TILE_PX + (x % TILE_PX)) * 4;
  return tile ? [...tile.subarray(at, at + 4)] : [0, 0, 0, 0];
};

describe('a lasso', () => {
  it('covers the area that it encloses, across tiles and within the frame alone', () => {
    const corner = fc.record({
      x: fc.integer({ min: -50, max: 650 }),
      y: fc.integer({ min: -50, max: 550 }),
    });
    fc.assert(
      fc.property(corner, corner, corner, (a, b, c) => {
        // Twice the area of the part of a triangle within the sheet is at most that of the triangle.
        const area = Math.abs((b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y)) / 2;
        const share = coveredShare(lassoMask([a, b, c], SHEET), SHEET);
        expect(share * SHEET.width * SHEET.height).toBeLessThanOrEqual(area * 1.01 + 2);
        const isInside = [a, b, c].every(({ x, y }) => x >= 0 && y >= 0 && x <= 600 && y <= 500);
        if (isInside && area > 200)
          expect(Math.abs((share * SHEET.width * SHEET.height) / area - 1)).toBeLessThan(0.02);
      }),
      { numRuns: 40 },
    );
    expect(coveredShare(lassoMask(square(10, 10, 5, 5).slice(0, 2), SHEET), SHEET)).toBe(0);
  });

  it('is painted as one action, solid or away again', () => {
    const layer = createLayer('l', 'colour');
    const step = paintArea(layer, lassoMask(square(200, 200, 120, 120), SHEET), RED, SHEET);
    expect(step).toHaveLength(4);
    expect([pixelAt(layer, 200, 200), pixelAt(layer, 319, 319), pixelAt(layer, 320, 260)]).toEqual([
      ...[
        [200, 30, 10, 255],
        [200, 30, 10, 255],
        [0, 0, 0, 0],
      ],
    ]);
    paintArea(layer, lassoMask(square(240, 240, 40, 40), SHEET), { colour: null, opacity: 1 }, SHEET);
    expect([pixelAt(layer, 260, 260), pixelAt(layer, 210, 260)]).toEqual([
      [0, 0, 0, 0],
      [200, 30, 10, 255],
    ]);
    expect(() =>
      paintArea({ ...layer, isLocked: true }, lassoMask(square(0, 0, 9, 9), SHEET), RED, SHEET),
    ).toThrow(RangeError);
  });
});

describe('a fill that is painted', () => {
  it('covers what was found, and nothing else', () => {
    const data = new Uint8ClampedArray(SHEET.width * SHEET.height * 4).fill(255);
    for (let y = 0; y < SHEET.height; y += 1) data.set([0, 0, 0, 255], (y * SHEET.width + 300) * 4);
    const filled = fillFrom({ ...SHEET, data }, { x: 10, y: 10, tolerance: 10, gapPx: 0 });
    const layer = createLayer('l', 'colour');
    paintArea(layer, filledMask(filled, SHEET.width, SHEET), RED, SHEET);
    expect([pixelAt(layer, 299, 400), pixelAt(layer, 300, 400), pixelAt(layer, 301, 400)]).toEqual([
      ...[
        [200, 30, 10, 255],
        [0, 0, 0, 0],
        [0, 0, 0, 0],
      ],
    ]);
  });
});

describe('bare ground', () => {
  it('is what no layer that is seen covers, of a frame', () => {
    const bare = new BareGround({ x: 100, y: 100, width: 400, height: 300 });
    const [colour, ink] = [createLayer('c', 'colour'), createLayer('i', 'ink')];
    expect(bare.shareIn([colour, ink])).toBe(1);
    paintArea(colour, lassoMask(square(100, 100, 200, 300), SHEET), RED, SHEET);
    expect(bare.shareIn([colour, ink])).toBe(0.5);
    paintArea(ink, lassoMask(square(0, 0, 600, 250), SHEET), RED, SHEET);
    expect(bare.shareIn([colour, ink])).toBe(0.25);
    expect(bare.shareIn([colour, { ...ink, isHidden: true }])).toBe(0.5);
    // What is hardly to be seen leaves it bare.
    expect(bare.shareIn([{ ...colour, opacity: 0.02 }])).toBe(1);
    // What altered is counted anew.
    paintArea(ink, lassoMask(square(0, 0, 600, 600), SHEET), { colour: null, opacity: 1 }, SHEET);
    expect(bare.shareIn([colour, ink])).toBe(0.5);
  });
});

describe('smudging', () => {
  const smudge = (layer: Layer, points: readonly [number, number][]) => {
    const action = new Smudge(layer, { ...BRUSHES.round, sizePx: 40, opacity: 0.9 }, SHEET);
    for (const [x, y] of points) action.to([{ x, y, pressure: 1 }]);
    return action;
  };

  it('draws paint along the way, and adds none where there was none', () => {
    const layer = createLayer('l', 'colour');
    paintArea(layer, lassoMask(square(100, 100, 120, 200), SHEET), RED, SHEET);
    smudge(layer, [
      [180, 200],
      [300, 200],
    ]).end();
    const along = [230, 245, 260, 290].map((x) => pixelAt(layer, x, 200)[3]!);
    expect(along[0]).toBeGreaterThan(100);
    for (const [index, alpha] of along.entries())
      if (index > 0) expect(alpha).toBeLessThanOrEqual(along[index - 1]!);
    // Its colour is the paint's: nothing is not black.
    const [red, green, blue] = pixelAt(layer, 245, 200);
    expect([red, green, blue].map((value, part) => Math.abs(value! - RED.colour[part]!) <= 2)).toEqual([
      true,
      true,
      true,
    ]);
    const empty = createLayer('e', 'colour');
    expect(
      smudge(empty, [
        [50, 50],
        [200, 50],
      ])
        .end()
        .filter(({ after }) => after),
    ).toEqual([]);
  });

  it('leaves an even colour as it is, and is taken back whole', () => {
    const layer = createLayer('l', 'colour');
    paintArea(layer, lassoMask(square(50, 50, 500, 400), SHEET), RED, SHEET);
    const before = [pixelAt(layer, 300, 250), pixelAt(layer, 256, 256)];
    smudge(layer, [
      [200, 200],
      [400, 300],
    ]).end();
    expect([pixelAt(layer, 300, 250), pixelAt(layer, 256, 256)]).toEqual(before);
    const edge = pixelAt(layer, 560, 250);
    const action = smudge(layer, [
      [530, 250],
      [580, 250],
    ]);
    expect(pixelAt(layer, 560, 250)).not.toEqual(edge);
    action.cancel();
    expect(pixelAt(layer, 560, 250)).toEqual(edge);
  });
});
