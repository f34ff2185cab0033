import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compose, rotation, scaling, translation } from '../geometry/index.ts';
import {
  createLayer,
  type Layer,
  lassoMask,
  Moving,
  PushPull,
  paintArea,
  TILE_PX,
  tileKey,
} from './index.ts';

const SHEET = { x: 0, y: 0, width: 700, height: 600 };
const square = (x: number, y: number, width: number, height: number) => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];
const painted = (): Layer => {
  const layer = createLayer('l', 'sketch');
  paintArea(layer, lassoMask(square(100, 100, 80, 60), SHEET), { colour: [200, 30, 10], opacity: 1 }, SHEET);
  return layer;
};
const pixelAt = (layer: Layer, x: number, y: number): number[] => {
  const tile = layer.tiles.get(tileKey({ column: Math.floor(x / TILE_PX), row: Math.floor(y / TILE_PX) }));
  const at = ((y % TILE_PX) * TILE_PX + (x % TILE_PX)) * 4;
  return tile ? [...tile.subarray(at, at + 4)] : [0, 0, 0, 0];
};
const coverOf = (layer: Layer): number => {
  let sum = 0;
  for (const key of layer.tiles.keys) {
    const tile = layer.tiles.get(key)!;
    for (let at = 3; at < tile.length; at += 4) sum += tile[at]! / 255;
  }
  return sum;
};
const all = lassoMask(square(0, 0, 700, 600), SHEET);

describe('what is selected', () => {
  it('is moved by whole pixels unaltered, and leaves nothing behind', () => {
    const layer = painted();
    const moving = Moving.of(layer, all, SHEET)!;
    expect(moving.bounds).toEqual({ x: 100, y: 100, width: 80, height: 60 });
    moving.show(translation(300, 250));
    moving.show(translation(200, 300));
    expect(pixelAt(layer, 100, 100)[3]).toBe(0);
    expect([
      pixelAt(layer, 300, 400),
      pixelAt(layer, 379, 459),
      pixelAt(layer, 380, 430),
      pixelAt(layer, 400, 350),
    ]).toEqual([
      ...[
        [200, 30, 10, 255],
        [200, 30, 10, 255],
        [0, 0, 0, 0],
        [0, 0, 0, 0],
      ],
    ]);
    const changes = moving.end();
    for (const { key, before } of changes) layer.tiles.set(key, before);
    expect(pixelAt(layer, 100, 100)).toEqual([200, 30, 10, 255]);
    expect(coverOf(layer)).toBeCloseTo(80 * 60, 6);
  });

  it('covers as much turned, and by the square of its scale, small or large', () => {
    const about = (x: number, y: number, inner: ReturnType<typeof rotation>) =>
      compose(translation(x, y), inner, translation(-140, -130));
    fc.assert(
      fc.property(
        fc.integer({ min: -180, max: 180 }),
        fc.double({ min: 0.15, max: 2.5, noNaN: true }),
        (turn, scale) => {
          const layer = painted();
          Moving.of(layer, all, SHEET)!.show(about(350, 300, compose(rotation(turn), scaling(scale, scale))));
          expect(Math.abs(coverOf(layer) / (4_800 * scale * scale) - 1)).toBeLessThan(0.06);
        },
      ),
      { numRuns: 15 },
    );
  });

  it('is taken away from wherever it was carried, and what was not selected stays', () => {
    const layer = painted();
    const before = layer.tiles.get(0);
    const moving = Moving.of(layer, lassoMask(square(100, 100, 40, 60), SHEET), SHEET)!;
    moving.show(translation(300, 250));
    moving.discard();
    expect([pixelAt(layer, 110, 110)[3], pixelAt(layer, 410, 360)[3]]).toEqual([0, 0]);
    expect(pixelAt(layer, 150, 110)).toEqual([200, 30, 10, 255]);
    expect(moving.end().find(({ key }) => key === 0)?.before).toBe(before);
  });

  it('keeps within the frame, and is where it was when it is left', () => {
    const layer = painted();
    const before = layer.tiles.get(0);
    const frame = { x: 90, y: 90, width: 200, height: 110 };
    const moving = Moving.of(layer, all, frame)!;
    moving.show(translation(150, 60));
    expect([pixelAt(layer, 289, 199)[3], pixelAt(layer, 290, 199)[3], pixelAt(layer, 289, 200)[3]]).toEqual([
      255, 0, 0,
    ]);
    moving.cancel();
    expect(layer.tiles.get(0)).toBe(before);
    expect([...layer.tiles.keys]).toEqual([0]);
    expect(Moving.of(createLayer('e', 'ink'), all, SHEET)).toBeUndefined();
    expect(() => Moving.of({ ...layer, isLocked: true }, all, SHEET)).toThrow(RangeError);
  });
});

describe('push and pull', () => {
  const AREA = { x: 50, y: 40, width: 400, height: 300 };
  const inside = fc.record({
    x: fc.double({ min: 120, max: 380, noNaN: true }),
    y: fc.double({ min: 110, max: 270, noNaN: true }),
  });

  it('brings what was at a point to the other, and leaves all beyond its reach and the edge', () => {
    fc.assert(
      fc.property(inside, fc.double({ min: -30, max: 30, noNaN: true }), (from, by) => {
        const mesh = new PushPull(AREA);
        mesh.push(from, { x: from.x + by, y: from.y }, 60);
        // The mesh is even between its nodes: in the middle it is off by a little.
        const source = mesh.sourceOf({ x: from.x + by, y: from.y });
        expect(Math.hypot(source.x - from.x, source.y - from.y)).toBeLessThan(1 + Math.abs(by) * 0.12);
        for (const still of [
          { x: from.x, y: from.y + 80 },
          { x: 50, y: 200 },
          { x: 10, y: 10 },
        ]) {
          const { x, y } = mesh.sourceOf(still);
          expect(Math.hypot(x - still.x, y - still.y)).toBeLessThan(0.5);
        }
      }),
    );
  });

  it('no longer than its reach folds nothing over: along a line across it sources stay in order', () => {
    fc.assert(
      fc.property(
        inside,
        fc.double({ min: 0, max: 6.3, noNaN: true }),
        fc.double({ min: 50, max: 90, noNaN: true }),
        (from, angle, radius) => {
          const mesh = new PushPull(AREA);
          const to = { x: from.x + radius * Math.cos(angle), y: from.y + radius * Math.sin(angle) };
          mesh.push(from, to, radius);
          let turned = 0;
          for (let y = 60; y < 330; y += 15) {
            let last = Number.NEGATIVE_INFINITY;
            for (let x = 51; x < 449; x += 4) {
              const source = mesh.sourceOf({ x, y });
              if (source.x < last - 1e-3) turned += 1;
              last = source.x;
            }
          }
          expect(turned).toBe(0);
        },
      ),
      { numRuns: 30 },
    );
  });
});
