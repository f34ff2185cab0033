import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyAffine, invertAffine, type Point } from '../../geometry/index.ts';
import { frameOf } from '../frame.ts';
import { areaOf, isWithinOutline, outlinePolygon } from './outline.ts';
import { createPlacement, type Placement, pictureToBoard, placementKind, WHOLE } from './placement.ts';
import {
  frameOfTrim,
  keptOnBoard,
  leanOfLine,
  shapeFrame,
  slideTrim,
  straighten,
  trimBetween,
  trimByHandle,
  trimByLasso,
  trimByStep,
  trimTo,
  uncover,
} from './trimming.ts';

// Shrinking what is computed with takes minutes and tells little.
fc.configureGlobal({ endOnFailure: true });

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const point = fc.record({ x: between(-400, 400), y: between(-400, 400) });
const upright = fc
  .record({
    ...{ flipX: fc.boolean(), flipY: fc.boolean(), turn: between(-180, 180) },
    ...{
      pictureWidth: fc.integer({ min: 400, max: 4000 }),
      pictureHeight: fc.integer({ min: 400, max: 4000 }),
    },
    ...{ x: between(0, 0.4), y: between(0, 0.4), width: between(0.2, 0.6), height: between(0.2, 0.6) },
    size: between(20, 900),
  })
  .map(({ x, y, width, height, size, ...rest }) =>
    createPlacement({
      ...{ id: 'p', stack: 'a0', picture: crypto.randomUUID(), centre: { x: 30, y: -70 }, width: size },
      ...rest,
      trim: { x, y, width, height },
    }),
  );
const line = fc
  .tuple(point, point)
  .filter(([from, to]) => Math.hypot(from.x - to.x, from.y - to.y) > 20) as fc.Arbitrary<[Point, Point]>;
/** Pictures whose trims lean, as a drawn line made them. */
const leaning = fc.tuple(upright, line).map(([one, [from, to]]) => after(one, straighten(one, from, to)));
const any = fc.oneof(upright, leaning);

const after = (one: Placement, { set }: { set: Partial<Placement> }): Placement => ({ ...one, ...set });

const near = (a: Point, b: Point, digits = 4) => {
  expect(a.x).toBeCloseTo(b.x, digits);
  expect(a.y).toBeCloseTo(b.y, digits);
};

/** Where the corners of the frame lie in the picture, fractions. */
const cornersInPicture = (one: Placement): Point[] => {
  const frame = frameOf(one, placementKind.heightOf(one), placementKind.flipOf!(one));
  const back = invertAffine(pictureToBoard(one));
  return [
    { x: 0, y: 0 },
    { x: one.width, y: 0 },
    { x: one.width, y: placementKind.heightOf(one) },
    { x: 0, y: placementKind.heightOf(one) },
  ].map((corner) => applyAffine(back, applyAffine(frame, corner)));
};

const hasPictureEverywhere = (one: Placement) => {
  for (const { x, y } of cornersInPicture(one)) {
    expect(Math.min(x, y)).toBeGreaterThan(-1e-6);
    expect(Math.max(x, y)).toBeLessThan(1 + 1e-6);
  }
};

/** Board units per pixel of the picture. */
const scaleOf = ({ width, trim, pictureWidth }: Placement) => width / (trim.width * pictureWidth);

const staysInPlace = (one: Placement, next: Placement) => {
  for (const at of [
    { x: 0, y: 0 },
    { x: 1, y: 0 },
    { x: 0.3, y: 0.8 },
  ])
    near(applyAffine(pictureToBoard(next), at), applyAffine(pictureToBoard(one), at), 3);
};

describe('straightening', () => {
  it('brings what a line was drawn along level or upright, in an upright frame full of picture, at its scale', () => {
    fc.assert(
      fc.property(upright, line, (one, [from, to]) => {
        const back = invertAffine(pictureToBoard(one));
        const [a, b] = [applyAffine(back, from), applyAffine(back, to)];
        const next = after(one, straighten(one, from, to));
        const toBoard = pictureToBoard(next);
        expect(leanOfLine(applyAffine(toBoard, a), applyAffine(toBoard, b))).toBeCloseTo(0, 5);
        expect(next.turn).toBe(one.turn);
        expect(next.centre).toEqual(one.centre);
        hasPictureEverywhere(next);
        // The smallest trim that there is may have to be larger than what would fit.
        if (next.trim.width > 0.01) expect(scaleOf(next)).toBeCloseTo(scaleOf(one), 5);
        expect(next.width / placementKind.heightOf(next)).toBeCloseTo(
          one.width / placementKind.heightOf(one),
          4,
        );
      }),
    );
  });

  it('asks for no lean where a line is level or upright, and never for more than half a right angle', () => {
    expect(leanOfLine({ x: 0, y: 0 }, { x: -9, y: 0 })).toBeCloseTo(0, 12);
    expect(leanOfLine({ x: 3, y: 0 }, { x: 3, y: 9 })).toBeCloseTo(0, 12);
    expect(leanOfLine({ x: 0, y: 0 }, { x: 100, y: 10 })).toBeCloseTo(5.7106, 3);
    fc.assert(fc.property(line, ([from, to]) => Math.abs(leanOfLine(from, to)) <= 45 + 1e-9));
  });
});

describe('a trim that leans', () => {
  it('is trimmed further without moving or scaling what stays visible', () => {
    fc.assert(
      fc.property(
        leaning,
        between(0, 0.45),
        between(0.55, 1),
        between(0, 0.4),
        between(0.6, 1),
        (one, a, b, c, d) => {
          const height = placementKind.heightOf(one);
          const frame = frameOf(one, height, placementKind.flipOf!(one));
          const at = (x: number, y: number) => applyAffine(frame, { x: x * one.width, y: y * height });
          const next = after(one, trimTo(one, trimBetween(one, at(a, c), at(b, d))));
          staysInPlace(one, next);
          hasPictureEverywhere(next);
        },
      ),
    );
  });

  it('has handles and steps that stop at the edge of the picture', () => {
    const sign = fc.constantFrom<-1 | 0 | 1>(-1, 0, 1);
    fc.assert(
      fc.property(leaning, sign, sign, point, (one, x, y, to) => {
        const next = after(one, trimTo(one, trimByHandle(one, { x, y }, to)));
        staysInPlace(one, next);
        hasPictureEverywhere(next);
      }),
    );
    fc.assert(
      fc.property(
        leaning,
        fc.constantFrom('left', 'right', 'up', 'down' as const),
        between(-0.5, 0.5),
        (one, side, by) => {
          const next = after(one, trimTo(one, trimByStep(one, side as 'left', by)));
          staysInPlace(one, next);
          hasPictureEverywhere(next);
        },
      ),
    );
  });

  it('is uncovered to the whole picture where it lies', () => {
    fc.assert(
      fc.property(any, (one) => {
        const next = after(one, uncover(one));
        expect(next.trim).toEqual(WHOLE);
        staysInPlace(one, next);
      }),
    );
  });
});

describe('sliding', () => {
  it('takes the picture along with the hand and leaves the frame, as far as there is picture', () => {
    fc.assert(
      fc.property(any, point, (one, by) => {
        const next = after(one, slideTrim(one, by));
        expect(next.centre).toEqual(one.centre);
        expect(next.width).toBe(one.width);
        expect(next.trim.width).toBe(one.trim.width);
        hasPictureEverywhere(next);
      }),
    );
  });

  it('follows the hand exactly where it may', () => {
    fc.assert(
      fc.property(upright, between(-0.1, 0.1), between(-0.1, 0.1), (given, dx, dy) => {
        const one = { ...given, trim: { x: 0.3, y: 0.3, width: 0.4, height: 0.4 } };
        const before = pictureToBoard(one);
        const [from, to] = [
          applyAffine(before, { x: 0.5, y: 0.5 }),
          applyAffine(before, { x: 0.5 + dx, y: 0.5 + dy }),
        ];
        const next = after(one, slideTrim(one, { x: to.x - from.x, y: to.y - from.y }));
        near(applyAffine(pictureToBoard(next), { x: 0.5, y: 0.5 }), to);
      }),
    );
  });
});

describe('an aspect', () => {
  it('is that of the largest frame about the same middle', () => {
    fc.assert(
      fc.property(any, between(0.2, 5), (one, aspect) => {
        const frame = shapeFrame(one, frameOfTrim(one), aspect);
        const next = after(one, trimTo(one, frame));
        fc.pre(next.trim.width > 0.01 && next.trim.height > 0.01);
        expect(next.width / placementKind.heightOf(next)).toBeCloseTo(aspect, 5);
        near(next.centre, one.centre);
        const isFull =
          Math.abs(frame.width - frameOfTrim(one).width) < 1e-9 ||
          Math.abs(frame.height - frameOfTrim(one).height) < 1e-9;
        expect(isFull).toBe(true);
      }),
    );
  });

  it('is kept by handles and by what is marked, within the picture', () => {
    const sign = fc.constantFrom<-1 | 0 | 1>(-1, 0, 1);
    const shapeOf = (one: Placement) => one.width / placementKind.heightOf(one);
    fc.assert(
      fc.property(any, sign, sign, point, between(0.4, 2.5), (given, x, y, to, aspect) => {
        const one = after(given, trimTo(given, shapeFrame(given, frameOfTrim(given), aspect)));
        fc.pre(x !== 0 || y !== 0);
        const next = after(one, trimTo(one, trimByHandle(one, { x, y }, to, aspect)));
        fc.pre(next.trim.width > 0.01 && next.trim.height > 0.01);
        expect(shapeOf(next)).toBeCloseTo(aspect, 4);
        staysInPlace(one, next);
        hasPictureEverywhere(next);
      }),
    );
    fc.assert(
      fc.property(
        upright,
        between(0.1, 0.4),
        between(0.6, 0.9),
        between(0.4, 2.5),
        (one, low, high, aspect) => {
          const height = placementKind.heightOf(one);
          const frame = frameOf(one, height, placementKind.flipOf!(one));
          const at = (share: number) => applyAffine(frame, { x: share * one.width, y: share * height });
          const next = after(one, trimTo(one, trimBetween(one, at(high), at(low), aspect)));
          // Nothing is trimmed to less than the least there is.
          fc.pre(next.trim.width > 0.01 && next.trim.height > 0.01);
          expect(shapeOf(next)).toBeCloseTo(aspect, 4);
          // The corner at which the drag began is one of its own.
          const corner = Math.min(
            ...keptOnBoard(next).map((p) => Math.hypot(p.x - at(high).x, p.y - at(high).y)),
          );
          expect(corner).toBeCloseTo(0, 3);
        },
      ),
    );
  });
});

describe('a lasso', () => {
  it('keeps what it goes around, where it lies on the board', () => {
    fc.assert(
      fc.property(any, between(0.1, 0.45), (one, radius) => {
        const height = placementKind.heightOf(one);
        const frame = frameOf(one, height, placementKind.flipOf!(one));
        const drawn = Array.from({ length: 24 }, (_, index) => {
          const angle = (index * Math.PI) / 12;
          const at = {
            x: (0.5 + radius * Math.cos(angle)) * one.width,
            y: (0.5 + radius * Math.sin(angle)) * height,
          };
          return applyAffine(frame, at);
        });
        const lasso = trimByLasso(one, drawn)!;
        const next = after(one, trimTo(one, lasso.frame, lasso.outline));
        staysInPlace(one, next);
        const now = frameOf(next, placementKind.heightOf(next), placementKind.flipOf!(next));
        const kept = outlinePolygon(next.trim.outline!).map(({ x, y }) =>
          applyAffine(now, { x: x * next.width, y: y * placementKind.heightOf(next) }),
        );
        expect(kept).toHaveLength(drawn.length);
        for (const [index, corner] of kept.entries()) near(corner, drawn[index]!, 3);
        expect(placementKind.covers!(next, { x: 0.5, y: 0.5 })).toBe(true);
        expect(placementKind.covers!(next, { x: 0.01, y: 0.01 })).toBe(false);
      }),
    );
  });

  it('of no area, or beside the picture, keeps nothing', () => {
    const one = createPlacement({
      ...{ id: 'p', stack: 'a0', picture: 'x', pictureWidth: 200, pictureHeight: 100 },
      ...{ centre: { x: 0, y: 0 }, width: 200 },
    });
    expect(
      trimByLasso(one, [
        { x: 0, y: 0 },
        { x: 50, y: 0 },
      ]),
    ).toBeUndefined();
    expect(
      trimByLasso(one, [
        { x: 0, y: 0 },
        { x: 50, y: 20 },
        { x: 0, y: 0 },
      ]),
    ).toBeUndefined();
    expect(
      trimByLasso(one, [
        { x: 300, y: 0 },
        { x: 350, y: 20 },
        { x: 340, y: 40 },
      ]),
    ).toBeUndefined();
    expect(
      trimByLasso(one, [
        { x: 0, y: 0 },
        { x: 50, y: 20 },
        { x: 0, y: 20 },
      ]),
    ).toBeDefined();
  });

  it('of thousands of points is thinned', () => {
    const one = createPlacement({
      ...{ id: 'p', stack: 'a0', picture: 'x', pictureWidth: 200, pictureHeight: 100 },
      ...{ centre: { x: 0, y: 0 }, width: 200 },
    });
    const drawn = Array.from({ length: 5_000 }, (_, index) => ({
      x: 40 * Math.cos((index * Math.PI) / 2_500),
      y: 40 * Math.sin((index * Math.PI) / 2_500),
    }));
    const { outline } = trimByLasso(one, drawn)!;
    expect(outline.length).toBeLessThanOrEqual(400);
    expect(areaOf(outlinePolygon(outline))).toBeCloseTo(Math.PI / 4, 2);
  });
});

describe('an outline', () => {
  it('of an ellipse holds what its equation does, as a polygon too', () => {
    expect(areaOf(outlinePolygon('ellipse'))).toBeCloseTo(Math.PI / 4, 3);
    fc.assert(
      fc.property(between(0, 1), between(0, 1), (x, y) => {
        const away = (2 * x - 1) ** 2 + (2 * y - 1) ** 2;
        fc.pre(Math.abs(away - 1) > 1e-2);
        expect(isWithinOutline('ellipse', { x, y })).toBe(away < 1);
        const polygon = outlinePolygon('ellipse').map(({ x, y }) => [x, y]);
        expect(isWithinOutline(polygon, { x, y })).toBe(away < 1);
      }),
    );
  });
});
