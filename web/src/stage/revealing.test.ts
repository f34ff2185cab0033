import { type Camera, cameraShowing, type Rectangle } from '@miradero/core/geometry';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { FIT_MARGIN_PX, revealing, revealingBeside } from './revealing.ts';

const ROOM = { width: 1_280, height: 760 };
const place = fc.double({ min: -3_000, max: 3_000, noNaN: true });
const part = fc.record({
  ...{ x: place, y: place },
  width: fc.double({ min: 20, max: 4_000, noNaN: true }),
  height: fc.double({ min: 20, max: 4_000, noNaN: true }),
});
const camera: fc.Arbitrary<Camera> = fc.record({
  centre: fc.record({ x: place, y: place }),
  scale: fc.double({ min: 0.05, max: 8, noNaN: true }),
});
const covered = fc.integer({ min: 0, max: 600 });

/** Its sides on the screen, CSS pixels from the left and the top of the view. */
function onScreen({ x, y, width, height }: Rectangle, { centre, scale }: Camera) {
  const left = (x - centre.x) * scale + ROOM.width / 2;
  const top = (y - centre.y) * scale + ROOM.height / 2;
  return { left, top, right: left + width * scale, bottom: top + height * scale };
}
const beside = (one: Rectangle, from: Camera, coveredPx: number) =>
  revealingBeside(one, from, ROOM, {
    coveredPx,
    wholeIn: (free) => cameraShowing(one, free, FIT_MARGIN_PX),
  });

it('brings a part into view whole, beside what covers the left', () => {
  fc.assert(
    fc.property(part, camera, covered, (one, from, coveredPx) => {
      const to = beside(one, from, coveredPx) ?? from;
      const { left, top, right, bottom } = onScreen(one, to);
      expect(left).toBeGreaterThan(coveredPx - 1e-6);
      expect(top).toBeGreaterThan(-1e-6);
      expect(right).toBeLessThan(ROOM.width + 1e-6);
      expect(bottom).toBeLessThan(ROOM.height + 1e-6);
      expect(Math.max(right - left, bottom - top)).toBeGreaterThan(11.9);
    }),
  );
});

it('stays where it is in view whole already, and keeps its scale where there is room', () => {
  fc.assert(
    fc.property(part, camera, covered, (one, from, coveredPx) => {
      const to = beside(one, from, coveredPx);
      if (to) expect(beside(one, to, coveredPx)).toBeUndefined();
      const { scale } = from;
      const longest = Math.max(one.width, one.height) * scale;
      const isRoom = one.width * scale <= ROOM.width - coveredPx && one.height * scale <= ROOM.height;
      if (to && isRoom && longest > 12) expect(to.scale).toBe(scale);
    }),
  );
});

it('is the same as ever where nothing covers it', () => {
  fc.assert(
    fc.property(part, camera, (one, from) => {
      expect(beside(one, from, 0)).toEqual(
        revealing(one, from, ROOM, cameraShowing(one, ROOM, FIT_MARGIN_PX)),
      );
    }),
  );
});
