import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyAffine, type Point, scaling, translation } from '../geometry/index.ts';
import { createPlacement, drawnOf, type PictureQuad, type Placement } from '../items/index.ts';
import { Coverage } from './coverage.ts';
import { finestSide, flatSize, MOST_FLAT_SIDE, mostSide } from './flat-size.ts';
import { paintPicture } from './paint-picture.ts';
import { placePicture } from './place-picture.ts';
import { blendOver, emptyRaster, type Raster } from './raster.ts';

fc.configureGlobal({ endOnFailure: true });

const area = (points: readonly Point[]) => {
  let twice = 0;
  points.forEach((p, index) => {
    const next = points[(index + 1) % points.length]!;
    twice += p.x * next.y - next.x * p.y;
  });
  return Math.abs(twice) / 2;
};

const covered = (polygon: readonly Point[], width: number, height: number, left = 0) => {
  const coverage = new Coverage(polygon, left, width);
  let sum = 0;
  for (let y = 0; y < height; y += 1) for (const share of coverage.row(y) ?? []) sum += share;
  return sum;
};

describe('coverage', () => {
  const corner = fc.record({
    x: fc.double({ min: 0, max: 60, noNaN: true }),
    y: fc.double({ min: 0, max: 40, noNaN: true }),
  });

  it('comes to the area of a triangle, whatever window of it is asked for', () => {
    fc.assert(
      fc.property(corner, corner, corner, fc.integer({ min: 1, max: 59 }), (a, b, c, split) => {
        const triangle = [a, b, c];
        const edge = Math.hypot(a.x - b.x, a.y - b.y) + Math.hypot(b.x - c.x, b.y - c.y) + 40;
        // Lines eight to a pixel miss at most half a line's width along every edge.
        expect(Math.abs(covered(triangle, 60, 40) - area(triangle))).toBeLessThan(edge / 12);
        const parts = covered(triangle, split, 40) + covered(triangle, 60 - split, 40, split);
        expect(parts).toBeCloseTo(covered(triangle, 60, 40), 2);
      }),
    );
  });

  it('is all or nothing where edges lie on edges of pixels, and a share between', () => {
    const square = [
      { x: 2, y: 1 },
      { x: 5, y: 1 },
      { x: 5, y: 3 },
      { x: 2, y: 3 },
    ];
    const coverage = new Coverage(square, 0, 7);
    expect(coverage.row(0)).toBeUndefined();
    expect([...coverage.row(1)!]).toEqual([0, 0, 1, 1, 1, 0, 0]);
    expect(coverage.row(3)).toBeUndefined();
    const between = new Coverage(
      square.map(({ x, y }) => ({ x: x + 0.25, y: y + 0.5 })),
      0,
      7,
    );
    expect([...between.row(1)!]).toEqual([0, 0, 0.375, 0.5, 0.5, 0.125, 0]);
    expect([...between.row(2)!]).toEqual([0, 0, 0.75, 1, 1, 0.25, 0]);
  });

  it('leaves out what is gone around twice', () => {
    const twice = [0, 1, 2, 3, 0, 1, 2, 3].map((k) => ({ x: k === 1 || k === 2 ? 8 : 0, y: k > 1 ? 8 : 0 }));
    expect(covered(twice, 8, 8)).toBe(0);
  });
});

describe('blending', () => {
  const channel = fc.integer({ min: 0, max: 255 });
  const pixel = fc.tuple(channel, channel, channel, channel);

  it('is what the formula of over gives', () => {
    fc.assert(
      fc.property(pixel, pixel, (below, above) => {
        const target: Raster = { ...emptyRaster(4, 4, 1, 1), data: Uint8ClampedArray.from(below) };
        blendOver(target, { ...target, data: Uint8ClampedArray.from(above) });
        const [a, b] = [above[3] / 255, below[3] / 255];
        const alpha = a + b * (1 - a);
        expect(target.data[3]).toBe(Math.round(alpha * 255));
        for (let part = 0; part < 3 && alpha > 0; part += 1) {
          const wanted = (above[part]! * a + below[part]! * b * (1 - a)) / alpha;
          expect(Math.abs(target.data[part]! - wanted)).toBeLessThanOrEqual(0.5 + 1e-9);
        }
      }),
    );
  });

  it('that multiplies is what its published formula gives, and darkens only', () => {
    fc.assert(
      fc.property(pixel, pixel, (below, above) => {
        const target: Raster = { ...emptyRaster(4, 4, 1, 1), data: Uint8ClampedArray.from(below) };
        blendOver(target, { ...target, data: Uint8ClampedArray.from(above) }, true);
        const [a, b] = [above[3] / 255, below[3] / 255];
        const alpha = a + b * (1 - a);
        expect(target.data[3]).toBe(Math.round(alpha * 255));
        for (let part = 0; part < 3 && alpha > 0; part += 1) {
          const [source, backdrop] = [above[part]! / 255, below[part]! / 255];
          const premultiplied = a * (1 - b) * source + a * b * source * backdrop + (1 - a) * b * backdrop;
          expect(Math.abs(target.data[part]! - (255 * premultiplied) / alpha)).toBeLessThanOrEqual(
            0.5 + 1e-9,
          );
          if (b === 1) expect(target.data[part]).toBeLessThanOrEqual(below[part]!);
        }
      }),
    );
  });

  it('keeps to where both are', () => {
    const target = emptyRaster(0, 0, 3, 2);
    const layer = emptyRaster(2, 1, 4, 4);
    layer.data.fill(255);
    blendOver(target, layer);
    expect([...target.data].filter((value) => value === 255)).toHaveLength(4);
    expect(target.data[(1 * 3 + 2) * 4]).toBe(255);
  });
});

/** A picture of which every pixel tells where it is. */
const told = (width: number, height: number): Raster => {
  const raster = emptyRaster(0, 0, width, height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) raster.data.set([x * 4, y * 4, 77, 255], (y * width + x) * 4);
  return raster;
};

const PICTURE = { width: 48, height: 32 };
const placed = (more: Partial<Placement>, scale = 1, target = { width: 200, height: 200 }) => {
  const item = createPlacement({
    ...{ id: 'p', stack: 'a0', picture: 'x', pictureWidth: 48, pictureHeight: 32 },
    ...{ centre: { x: 100, y: 100 }, width: 48 },
    ...more,
  });
  const drawn = drawnOf(item);
  const quad = drawn.primitives[0] as PictureQuad;
  const at = placePicture(drawn, quad, scaling(scale, scale), target, PICTURE);
  return { at: at!, drawn, quad };
};

/** Paints a placement whose part is read at its own size. */
function painted(more: Partial<Placement>, scale = 1): Raster {
  const { at } = placed(more, scale);
  const { part } = at;
  expect(at.size).toEqual({ width: part.width, height: part.height });
  const whole = told(PICTURE.width, PICTURE.height);
  const source = emptyRaster(0, 0, part.width, part.height);
  for (let y = 0; y < part.height; y += 1)
    for (let x = 0; x < part.width; x += 1) {
      const from = ((y + part.y) * PICTURE.width + x + part.x) * 4;
      source.data.set(whole.data.subarray(from, from + 4), (y * part.width + x) * 4);
    }
  const target = emptyRaster(0, 0, 200, 200);
  paintPicture(target, source, at.toSource, at.polygon, at.opacity);
  return target;
}

const at = ({ width, data }: Raster, x: number, y: number) => [
  ...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4),
];

describe('a picture at its own size', () => {
  it('keeps every pixel, wherever it stands, mirrored and turned by right angles', () => {
    const upright = painted({ centre: { x: 100.3, y: 99.8 } });
    expect(at(upright, 76, 84)).toEqual([0, 0, 77, 255]);
    expect(at(upright, 76 + 47, 84 + 31)).toEqual([188, 124, 77, 255]);
    expect(at(upright, 75, 84)[3]).toBe(0);
    const mirrored = painted({ flipX: true });
    expect(at(mirrored, 76, 84)).toEqual([188, 0, 77, 255]);
    // A quarter to the right: what was below on the left is above on the left.
    const turned = painted({ turn: 90 });
    expect(at(turned, 84, 76)).toEqual([0, 124, 77, 255]);
    expect(at(turned, 84 + 31, 76 + 47)).toEqual([188, 0, 77, 255]);
  });

  it('shows of a trim what was trimmed to', () => {
    const trimmed = painted({ width: 24, trim: { x: 0.25, y: 0.5, width: 0.5, height: 0.5 } });
    expect(at(trimmed, 88, 92)).toEqual([48, 64, 77, 255]);
    expect(at(trimmed, 87, 92)[3]).toBe(0);
    expect(at(trimmed, 111, 107)).toEqual([140, 124, 77, 255]);
  });

  it('is sampled where it belongs, however it leans, turns and is mirrored', () => {
    const any = fc.record({
      turn: fc.integer({ min: -179, max: 180 }),
      ...{ flipX: fc.boolean(), flipY: fc.boolean() },
      trim: fc.record({
        // Whole pixels: what stands upright is laid on those of the target.
        ...{
          x: fc.constant(0.25),
          y: fc.constant(0.25),
          width: fc.constant(0.625),
          height: fc.constant(0.5),
        },
        lean: fc.integer({ min: -12, max: 12 }),
      }),
    });
    fc.assert(
      fc.property(any, (more) => {
        const width = 48 * 0.625;
        const target = painted({ ...more, width });
        const { drawn, quad } = placed({ ...more, width });
        for (const [u, v] of [
          [0.5, 0.5],
          [0.2, 0.3],
          [0.8, 0.6],
        ] as const) {
          const place = { x: quad.place.width * u, y: quad.place.height * v };
          const on = applyAffine(drawn.frame, place);
          const [x, y] = [Math.floor(on.x), Math.floor(on.y)];
          const [red, green, , alpha] = at(target, x, y);
          expect(alpha).toBe(255);
          // Where it is in the picture, from the frame's own side: its middle, turned by the lean.
          const radians = (more.trim.lean * Math.PI) / 180;
          const dx = (u - 0.5) * width;
          const dy = (v - 0.5) * 16;
          const px = 27 + dx * Math.cos(radians) - dy * Math.sin(radians);
          const py = 16 + dx * Math.sin(radians) + dy * Math.cos(radians);
          // Within the pixel on which the point lies: its diagonal, and the rounding of a channel.
          expect(Math.hypot(red! / 4 + 0.5 - px, green! / 4 + 0.5 - py)).toBeLessThan(0.9);
        }
      }),
    );
  });

  it('is faded, and cut to its outline', () => {
    const faded = painted({ opacity: 0.5, trim: { x: 0, y: 0, width: 1, height: 1, outline: 'ellipse' } });
    expect(at(faded, 100, 100)[3]).toBe(128);
    expect(at(faded, 77, 85)[3]).toBe(0);
    let sum = 0;
    for (let pixel = 3; pixel < faded.data.length; pixel += 4) sum += faded.data[pixel]! / 255;
    expect(sum).toBeCloseTo((Math.PI / 4) * 48 * 32 * 0.5, -1);
  });
});

describe('what is to be read', () => {
  it('is as large as it is painted, never larger than it is', () => {
    expect(placed({}, 0.5).at.size).toEqual({ width: 24, height: 16 });
    expect(placed({}, 2, { width: 400, height: 400 }).at.size).toEqual({ width: 48, height: 32 });
    expect(placed({ turn: 90 }, 0.5).at.size).toEqual({ width: 24, height: 16 });
  });

  it('is only what is seen, with what lies beside', () => {
    const { part } = placed({ centre: { x: 0, y: 100 } }).at;
    expect(part).toEqual({ x: 22, y: 0, width: 26, height: 32 });
    const outside = createPlacement({
      ...{ id: 'p', stack: 'a0', picture: 'x', pictureWidth: 48, pictureHeight: 32 },
      ...{ centre: { x: -500, y: 0 }, width: 48 },
    });
    const drawn = drawnOf(outside);
    expect(
      placePicture(drawn, drawn.primitives[0] as PictureQuad, translation(0, 0), PICTURE, PICTURE),
    ).toBeUndefined();
  });

  it('meets its neighbour without a gap or an overlap, wherever their edge falls', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 3, noNaN: true }),
        fc.double({ min: 20, max: 60, noNaN: true }),
        (scale, x) => {
          const target = { width: 999, height: 999 };
          const left = placed({ centre: { x, y: 50 } }, scale, target).at;
          const right = placed({ centre: { x: x + 48, y: 50 } }, scale, target).at;
          const xs = (points: readonly Point[]) => points.map((p) => p.x);
          expect(Math.max(...xs(left.polygon))).toBe(Math.min(...xs(right.polygon)));
        },
      ),
    );
  });
});

describe('a size', () => {
  it('has the asked longest side and the shape of its region', () => {
    expect(flatSize({ x: 0, y: 0, width: 300, height: 100 }, 6000)).toEqual({
      width: 6000,
      height: 2000,
      scale: 20,
    });
    expect(flatSize({ x: 0, y: 0, width: 3, height: 90_000 }, 500)).toMatchObject({ width: 1, height: 500 });
  });

  it('is smaller for WebP, whose encoder holds it whole', () => {
    const wide = { x: 0, y: 0, width: 400, height: 100 };
    expect(mostSide(wide, 'image/png')).toBe(MOST_FLAT_SIDE);
    const { width, height } = flatSize(wide, mostSide(wide, 'image/webp'));
    expect(width * height).toBeLessThan(24_010_000);
    expect(width * height).toBeGreaterThan(23_900_000);
    expect(mostSide({ ...wide, height: 1 }, 'image/webp')).toBe(MOST_FLAT_SIDE);
  });

  it('that shows all is that of the finest picture, within what can be made', () => {
    const one = createPlacement({
      ...{ id: 'p', stack: 'a0', picture: 'x', pictureWidth: 4000, pictureHeight: 3000 },
      ...{ centre: { x: 0, y: 0 }, width: 200, trim: { x: 0, y: 0, width: 0.5, height: 1 } },
    });
    const region = { x: 0, y: 0, width: 300, height: 200 };
    expect(finestSide(region, [one])).toBe(3000);
    expect(finestSide({ ...region, width: 30_000 }, [one])).toBe(MOST_FLAT_SIDE);
    expect(finestSide(region, [])).toBe(300);
  });
});
