import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyAffine, compose, type Point, rotation, scaling, translation } from '../geometry/index.ts';
import { markedSheet, straightened } from './marked-sheet.ts';

const SHEET = { width: 1_200, height: 960 };
const CAPTURE = { width: 1_000, height: 700 };
const CORNERS = [
  { x: 0, y: 0 },
  { x: SHEET.width, y: SHEET.height },
  { x: SHEET.width, y: 0 },
];
const near = (one: Point, other: Point, within = 1e-6) => {
  expect(Math.abs(one.x - other.x)).toBeLessThan(within);
  expect(Math.abs(one.y - other.y)).toBeLessThan(within);
};
const placed = fc
  .record({
    turn: fc.double({ min: -179, max: 179, noNaN: true }),
    x: fc.double({ min: -100, max: 900, noNaN: true }),
    y: fc.double({ min: -100, max: 600, noNaN: true }),
    scale: fc.double({ min: 0.05, max: 2, noNaN: true }),
    stretch: fc.double({ min: 0.7, max: 1.4, noNaN: true }),
    isMirrored: fc.boolean(),
  })
  .map(({ turn, x, y, scale, stretch, isMirrored }) => ({
    turn,
    plain: compose(translation(x, y), rotation(turn), scaling(scale, scale)),
    odd: compose(translation(x, y), rotation(turn), scaling(isMirrored ? -scale : scale, scale * stretch)),
  }));

describe('a sheet that is marked by hand', () => {
  it('lies where two corners say, turned; and where three say, mirrored and stretched', () => {
    fc.assert(
      fc.property(placed, ({ turn, plain, odd }) => {
        const [first, second] = CORNERS.map((corner) => applyAffine(plain, corner)) as [Point, Point];
        const beyond = Math.abs(turn - 180 * Math.round(turn / 180));
        const two = markedSheet(SHEET, [first, second])!;
        if (beyond > 2.01)
          for (const corner of CORNERS) near(applyAffine(two, corner), applyAffine(plain, corner));
        if (beyond < 1.99) expect([two[1], two[2]]).toEqual([0, 0]);
        const three = markedSheet(
          SHEET,
          CORNERS.map((corner) => applyAffine(odd, corner)),
        )!;
        for (const corner of CORNERS) near(applyAffine(three, corner), applyAffine(odd, corner));
      }),
    );
  });

  it('is upright whichever of its corners was pressed first, and nothing where they lie on one another', () => {
    const [first, second] = [
      { x: 100, y: 80 },
      { x: 700, y: 560 },
    ];
    expect(markedSheet(SHEET, [first, second])).toEqual([0.5, 0, 0, 0.5, 100, 80]);
    expect(markedSheet(SHEET, [second, first])).toEqual([0.5, 0, 0, 0.5, 100, 80]);
    expect(markedSheet(SHEET, [first, { x: 103, y: 82 }])).toBeUndefined();
    expect(markedSheet(SHEET, [first])).toBeUndefined();
    expect(markedSheet(SHEET, [first, second, { x: 400, y: 320 }])).toBeUndefined();
  });
});

describe('a capture', () => {
  it('is turned so that the sheet lies upright, and all of it is there', () => {
    fc.assert(
      fc.property(placed, ({ odd }) => {
        const { toUpright, size, rectangle } = straightened(CAPTURE, SHEET, odd);
        const { x, y, width, height } = rectangle;
        const wanted = [
          { x, y },
          { x: x + width, y: y + height },
          { x: x + width, y },
        ];
        for (const [index, corner] of CORNERS.entries())
          near(applyAffine(toUpright, applyAffine(odd, corner)), wanted[index]!, 1e-4);
        expect(Math.abs((width * SHEET.height) / (height * SHEET.width) - 1)).toBeLessThan(0.021);
        for (const corner of [0, CAPTURE.width].flatMap((x) => [0, CAPTURE.height].map((y) => ({ x, y })))) {
          const at = applyAffine(toUpright, corner);
          for (const side of [at.x, at.y]) expect(side).toBeGreaterThan(-1e-6);
          expect(at.x).toBeLessThan(size.width + 1e-6);
          expect(at.y).toBeLessThan(size.height + 1e-6);
        }
      }),
    );
  });

  it('in which it does so already stays as it is', () => {
    expect(straightened(CAPTURE, SHEET, [0.5, 0, 0, 0.5, 100, 80])).toEqual({
      toUpright: [1, 0, 0, 1, 0, 0],
      size: CAPTURE,
      rectangle: { x: 100, y: 80, width: 600, height: 480 },
    });
  });
});
