import { boardToScreen, type Rectangle, type Viewport } from '@miradero/core/geometry';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  alongScreen,
  alongView,
  fillingAlong,
  type Orientation,
  roomIn,
  showingTurned,
  turnedSize,
} from './orientation.ts';

const length = fc.double({ min: 20, max: 4_000, noNaN: true });
const size: fc.Arbitrary<Viewport> = fc.record({ width: length, height: length });
const part: fc.Arbitrary<Rectangle> = fc.record({
  ...{ x: fc.double({ min: -9_000, max: 9_000, noNaN: true }), width: length },
  ...{ y: fc.double({ min: -9_000, max: 9_000, noNaN: true }), height: length },
});
const orientation: fc.Arbitrary<Orientation> = fc.record({
  degrees: fc.oneof(fc.constantFrom(0, 90, 180, 270), fc.double({ min: 0, max: 359.9, noNaN: true })),
  isMirrored: fc.boolean(),
});

/** Where the corners of a part of the board are seen, from the middle of the holder. */
function seen(r: Rectangle, camera: ReturnType<typeof showingTurned>, held: Orientation) {
  const viewport = { width: 0, height: 0 };
  const corners = [0, 1].flatMap((i) => [0, 1].map((j) => ({ x: r.x + i * r.width, y: r.y + j * r.height })));
  return corners.map((corner) => alongScreen(boardToScreen(camera, viewport, corner), held));
}
const NEAR = 1e-6;

it('turns a way on the screen into one of the view, and back', () => {
  fc.assert(
    fc.property(orientation, fc.double({ noNaN: true, min: -1e4, max: 1e4 }), (held, x) => {
      const back = alongScreen(alongView({ x, y: 7 }, held), held);
      expect(Math.hypot(back.x - x, back.y - 7)).toBeLessThan(NEAR);
    }),
  );
  // To the right on the screen is up along a picture that is turned clockwise by a quarter.
  const up = alongView({ x: 1, y: 0 }, { degrees: 90, isMirrored: false });
  expect(up.x).toBeCloseTo(0);
  expect(up.y).toBeCloseTo(-1);
});

it('covers its holder to the corners, and swaps its sides by a quarter exactly', () => {
  expect(turnedSize({ width: 480, height: 361 }, 90)).toEqual({ width: 361, height: 480 });
  expect(turnedSize({ width: 480, height: 361 }, 180)).toEqual({ width: 480, height: 361 });
  fc.assert(
    fc.property(size, orientation, (holder, held) => {
      const viewport = turnedSize(holder, held.degrees);
      for (const x of [-holder.width / 2, holder.width / 2])
        for (const y of [-holder.height / 2, holder.height / 2]) {
          const corner = alongView({ x, y }, held);
          expect(Math.abs(corner.x)).toBeLessThanOrEqual(viewport.width / 2 + NEAR);
          expect(Math.abs(corner.y)).toBeLessThanOrEqual(viewport.height / 2 + NEAR);
        }
    }),
  );
});

it('shows a part whole, touching two sides, however it is turned', () => {
  fc.assert(
    fc.property(size, part, orientation, (holder, r, held) => {
      const camera = showingTurned(r, holder, held, 0);
      fc.pre(camera.scale > 0.01 && camera.scale < 32);
      const corners = seen(r, camera, held);
      const reach = {
        x: Math.max(...corners.map(({ x }) => Math.abs(x))) / (holder.width / 2),
        y: Math.max(...corners.map(({ y }) => Math.abs(y))) / (holder.height / 2),
      };
      expect(Math.max(reach.x, reach.y)).toBeCloseTo(1, 6);
    }),
  );
});

it('knows the room of which nothing is beyond the holder', () => {
  fc.assert(
    fc.property(size, orientation, (holder, { degrees }) => {
      const turned = turnedSize(roomIn(holder, turnedSize(holder, degrees), degrees), degrees);
      expect(turned.width).toBeLessThanOrEqual(holder.width + NEAR);
      expect(turned.height).toBeLessThanOrEqual(holder.height + NEAR);
    }),
  );
  const upright = { width: 480, height: 361 };
  expect(roomIn(upright, upright, 0)).toEqual(upright);
});

it('fills a holder along its width or height, and begins at the beginning', () => {
  fc.assert(
    fc.property(size, part, orientation, fc.constantFrom('width', 'height'), (holder, r, held, along) => {
      const camera = fillingAlong(r, holder, held, along as 'width' | 'height');
      fc.pre(camera.scale > 0.01 && camera.scale < 32);
      const corners = seen(r, camera, held);
      const [axis, other] = along === 'width' ? (['x', 'y'] as const) : (['y', 'x'] as const);
      const across = along === 'width' ? holder.height : holder.width;
      const ends = (at: 'x' | 'y') => [
        Math.min(...corners.map((corner) => corner[at])),
        Math.max(...corners.map((corner) => corner[at])),
      ];
      const [from, to] = ends(axis);
      expect(to! - from!).toBeCloseTo(holder[along as 'width' | 'height'], 4);
      const [first, last] = ends(other);
      if (last! - first! > across) expect(first).toBeCloseTo(-across / 2, 4);
      else expect(first! + last!).toBeCloseTo(0, 4);
    }),
  );
});
