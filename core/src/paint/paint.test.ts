import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { coverageAt } from './brush.ts';
import {
  BLEND_MODES,
  BRUSHES,
  type Brush,
  blendedChannel,
  blendTile,
  COVERED,
  canMerge,
  composeTile,
  createLayer,
  DabWalker,
  emptyTile,
  type Layer,
  Mask,
  mergedDown,
  PaintHistory,
  PaintStroke,
  type PenPoint,
  Smoothing,
  TILE_PX,
  type TilePixels,
  tileArea,
  tileKey,
  tileOf,
  tilePlace,
  tilesIn,
} from './index.ts';

const SHEET = { x: 0, y: 0, width: 700, height: 600 };
const byte = fc.integer({ min: 0, max: 255 });
const pixel = fc.tuple(byte, byte, byte, byte);
const share = fc.double({ min: 0, max: 1, noNaN: true });
const pen = fc.record({
  x: fc.double({ min: 0, max: 700, noNaN: true }),
  y: fc.double({ min: 0, max: 600, noNaN: true }),
  pressure: share,
});
/** Of eight bits: what no eye and no file tells apart. */
const HALF_STEP = 0.5 / 255;
const HARD: Brush = { ...BRUSHES.round, pressureTo: { size: false, opacity: false } };

describe('tiles', () => {
  it('are named by a number each, and are exactly those that a part touches', () => {
    fc.assert(
      fc.property(fc.nat(2_000), fc.nat(2_000), fc.integer({ min: 1, max: 900 }), (x, y, side) => {
        const area = { x, y, width: side, height: side };
        for (const place of tilesIn(area)) {
          expect(tilePlace(tileKey(place))).toEqual(place);
          const own = tileArea(place);
          expect(own.x < x + side && own.x + TILE_PX > x && own.y < y + side && own.y + TILE_PX > y).toBe(
            true,
          );
        }
        const across = Math.ceil((x + side) / TILE_PX) - Math.floor(x / TILE_PX);
        const down = Math.ceil((y + side) / TILE_PX) - Math.floor(y / TILE_PX);
        expect([...tilesIn(area)]).toHaveLength(across * down);
      }),
    );
  });
});

describe('blending', () => {
  it('lays every colour over every other, whatever its alpha, to the nearest level', () => {
    for (const alpha of [1, 2, 63, 127, 128, 200, 254, 255]) {
      const [onto, pixels] = [tileOf([0, 0, 0]), tileOf([0, 0, 0])];
      for (let at = 0; at < 65_536; at += 1) {
        const [below, above] = [at >> 8, at & 255];
        onto.set([below, 255 - below, above, 255], at * 4);
        pixels.set([above, below, 255 - above, alpha], at * 4);
      }
      const before = Uint8ClampedArray.from(onto);
      blendTile(onto, pixels, 'normal', 1);
      let furthest = 0;
      for (let at = 0; at < onto.length; at += 1) {
        const exact = at % 4 === 3 ? 255 : before[at]! + ((pixels[at]! - before[at]!) * alpha) / 255;
        furthest = Math.max(furthest, Math.abs(onto[at]! - exact));
      }
      expect(furthest).toBeLessThanOrEqual(0.5 + 1e-9);
    }
  });

  it('is what the published formulas give, to the rounding of a byte', () => {
    fc.assert(
      fc.property(fc.constantFrom(...BLEND_MODES), pixel, pixel, share, (mode, below, above, opacity) => {
        const onto = Uint8ClampedArray.from(below);
        blendTile(onto, Uint8ClampedArray.from(above), mode, opacity);
        const [backdrop, alpha] = [below[3] / 255, (above[3] / 255) * opacity];
        const sum = alpha + backdrop * (1 - alpha);
        expect(Math.abs(onto[3]! - 255 * sum)).toBeLessThanOrEqual(0.5 + 1e-6);
        for (let part = 0; part < 3 && onto[3]! > 0; part += 1) {
          const [cb, cs] = [below[part]! / 255, above[part]! / 255];
          // Section 5: the source is mixed with the blended colour by the backdrop's alpha, and laid over.
          const mixed = (1 - backdrop) * cs + backdrop * blendedChannel(mode, cb, cs);
          const wanted = (255 * (alpha * mixed + (1 - alpha) * backdrop * cb)) / sum;
          expect(Math.abs(onto[part]! - wanted)).toBeLessThanOrEqual(0.5 + 1e-3);
        }
      }),
    );
  });

  it('darkens by multiplying, and leaves middle grey to overlay as it is', () => {
    expect(blendedChannel('multiply', 0.8, 0.5)).toBeCloseTo(0.4, 12);
    expect(blendedChannel('overlay', 0.25, 0.5)).toBeCloseTo(0.25, 12);
    expect(blendedChannel('overlay', 0.75, 1)).toBeCloseTo(1, 12);
    // Overlay is hard light with its layers exchanged, and continuous in the middle.
    expect(blendedChannel('overlay', 0.5, 0.3)).toBeCloseTo(1 - 2 * 0.5 * 0.7, 12);
  });
});

describe('dabs', () => {
  it('are the same however many points a pen tells of the same way', () => {
    fc.assert(
      fc.property(
        pen,
        pen,
        fc.integer({ min: 2, max: 40 }),
        fc.constantFrom('pencil', 'round', 'soft'),
        (from, to, parts, name) => {
          const brush = BRUSHES[name as 'pencil'];
          const all = (points: readonly PenPoint[]) => {
            const walker = new DabWalker(brush);
            return points.flatMap((point) => walker.to(point));
          };
          const between = (at: number) => ({
            ...{ x: from.x + (to.x - from.x) * at, y: from.y + (to.y - from.y) * at },
            pressure: from.pressure + (to.pressure - from.pressure) * at,
          });
          const coarse = all([from, to]);
          const fine = all(Array.from({ length: parts + 1 }, (_, index) => between(index / parts)));
          expect(Math.abs(fine.length - coarse.length)).toBeLessThanOrEqual(1);
          for (const [index, dab] of coarse.entries()) {
            const other = fine[index];
            if (!other) continue;
            expect(Math.hypot(dab.x - other.x, dab.y - other.y)).toBeLessThan(1e-6);
            expect(dab.radius).toBeCloseTo(other.radius, 6);
          }
        },
      ),
    );
  });

  it('widen with a pen that leans, and thin with its pressure', () => {
    const at = (brush: Brush, more: Partial<PenPoint>) =>
      new DabWalker(brush).to({ x: 9, y: 9, pressure: 1, ...more })[0]!;
    expect(at(BRUSHES.pencil, { leanDeg: 70 }).radius).toBeCloseTo(9, 9);
    expect(at(BRUSHES.pencil, { leanDeg: 10 }).radius).toBeCloseTo(3, 9);
    expect(at(BRUSHES.round, { pressure: 0.5 }).radius).toBeCloseTo(6, 9);
    // What is finer than a pixel covers less of it.
    expect(at(BRUSHES.round, { pressure: 0.01 })).toMatchObject({ radius: 0.5 });
    expect(at(BRUSHES.round, { pressure: 0.01 }).strength).toBeLessThan(0.1);
  });
});

/** Small and large ones, px. */
const radii = fc.oneof(
  fc.double({ min: 0.5, max: 4, noNaN: true }),
  fc.double({ min: 4, max: 60, noNaN: true }),
);
/** Every so many of some pixels, and all that are near one. */
const looked = (length: number, step: number, near: number): number[] =>
  Array.from({ length }, (_, at) => at).filter((at) => at % step === 0 || Math.abs(at - near) < 4);

describe('a mask', () => {
  it('knows no borders of tiles: a dab covers as its distance says', () => {
    fc.assert(
      fc.property(pen, radii, share, ({ x, y }, radius, hardness) => {
        const mask = new Mask(SHEET);
        mask.stamp({ x, y, radius, strength: 1, isBuilding: false }, hardness);
        let wrong = 0;
        for (const row of looked(SHEET.height, 7, y))
          for (const column of looked(SHEET.width, 5, x)) {
            const covered = mask.at(column, row) / COVERED;
            const away = Math.hypot(column + 0.5 - x, row + 0.5 - y);
            if (away > Math.max(radius, radius * hardness + 1) && covered > HALF_STEP) wrong += 1;
            if (away < Math.min(radius * hardness, radius - 0.5) && covered < 1 - HALF_STEP) wrong += 1;
            if (Math.abs(covered - coverageAt(away, radius, hardness)) > HALF_STEP) wrong += 1;
          }
        expect(wrong).toBe(0);
      }),
      {
        numRuns: 30,
        // Small and soft, near the middle of a pixel: where a table is too coarse.
        examples: [
          [{ x: 300.35, y: 300.5, pressure: 1 }, 1, 0.1],
          [{ x: 0, y: 0, pressure: 0 }, 1.2079402165819617, 0.5853822660093284],
        ],
      },
    );
  });

  it('builds up by the way, not by how near dabs stand, and never beyond all of it', () => {
    const middle = (dabs: number) => {
      const mask = new Mask(SHEET);
      // One diameter of the way in so many dabs.
      const strength = 1 - (1 - 0.2) ** (1 / dabs);
      for (let dab = 0; dab < dabs; dab += 1)
        mask.stamp({ x: 300.5, y: 300.5, radius: 40, strength, isBuilding: true }, 1);
      return mask.at(300, 300) / COVERED;
    };
    expect(middle(1)).toBeCloseTo(0.2, 3);
    expect(middle(12)).toBeCloseTo(0.2, 2);
    const mask = new Mask(SHEET);
    for (let dab = 0; dab < 400; dab += 1)
      mask.stamp({ x: 300.5, y: 300.5, radius: 9, strength: 0.3, isBuilding: true }, 1);
    expect(mask.at(300, 300)).toBeLessThanOrEqual(COVERED);
    expect(mask.at(300, 300)).toBeGreaterThan(COVERED - 4);
  });

  it('ends at the frame', () => {
    const mask = new Mask({ x: 100, y: 100, width: 50, height: 50 });
    mask.stamp({ x: 100, y: 100, radius: 30, strength: 1, isBuilding: false }, 1);
    expect([mask.at(99, 105), mask.at(105, 99)]).toEqual([0, 0]);
    expect(mask.at(101, 101)).toBe(COVERED);
  });
});

const pixelAt = (layer: Layer, x: number, y: number): number[] => {
  const tile = layer.tiles.get(tileKey({ column: Math.floor(x / TILE_PX), row: Math.floor(y / TILE_PX) }));
  const at = ((y % TILE_PX) * TILE_PX + (x % TILE_PX)) * 4;
  return tile ? [...tile.subarray(at, at + 4)] : [0, 0, 0, 0];
};
const draw = (
  layer: Layer,
  brush: Brush,
  colour: [number, number, number] | null,
  points: readonly PenPoint[],
) => {
  const stroke = new PaintStroke(layer, brush, colour, SHEET);
  for (const point of points) stroke.to([point]);
  return stroke;
};
/** Tiles are never altered in place: the same state is the same pixels, not others like them. */
const tilesOf = (layer: Layer) => new Map([...layer.tiles.keys].map((key) => [key, layer.tiles.get(key)]));
const areSame = (one: ReadonlyMap<number, unknown>, other: ReadonlyMap<number, unknown>): boolean =>
  one.size === other.size && [...one].every(([key, pixels]) => other.get(key) === pixels);
const across = (y: number): PenPoint[] => [40, 300, 660].map((x) => ({ x, y, pressure: 1 }));

describe('a stroke', () => {
  it('covers no more than its opacity, where it crosses itself, too', () => {
    const layer = createLayer('l', 'colour');
    const loop = [
      ...across(300),
      { x: 660, y: 500, pressure: 1 },
      { x: 200, y: 500, pressure: 1 },
      { x: 200, y: 100, pressure: 1 },
    ];
    draw(layer, { ...HARD, opacity: 0.5 }, [200, 40, 10], loop).end();
    expect(pixelAt(layer, 200, 300)).toEqual([200, 40, 10, 128]);
    expect(pixelAt(layer, 400, 300)).toEqual([200, 40, 10, 128]);
    // A second one lies over it.
    draw(layer, { ...HARD, opacity: 0.5 }, [200, 40, 10], across(300)).end();
    expect(pixelAt(layer, 400, 300)).toEqual([200, 40, 10, 192]);
  });

  it('takes away, keeps to what is painted, and paints nothing on what is locked', () => {
    const layer = createLayer('l', 'colour');
    draw(layer, { ...HARD, sizePx: 60 }, [10, 20, 30], across(300)).end();
    const confined = { ...layer, keepsToPainted: true };
    draw(
      confined,
      { ...HARD, sizePx: 20 },
      [200, 100, 0],
      [
        { x: 300, y: 200, pressure: 1 },
        { x: 300, y: 400, pressure: 1 },
      ],
    ).end();
    expect(pixelAt(layer, 300, 300)).toEqual([200, 100, 0, 255]);
    expect(pixelAt(layer, 300, 220)).toEqual([0, 0, 0, 0]);
    draw(layer, { ...HARD, opacity: 0.5 }, null, across(300)).end();
    expect(pixelAt(layer, 500, 300)).toEqual([10, 20, 30, 128]);
    expect(() => draw({ ...layer, isLocked: true }, HARD, [0, 0, 0], across(10))).toThrow(RangeError);
  });

  it('that is left is as if it had not been begun, and takes no tile that it did not touch', () => {
    const layer = createLayer('l', 'colour');
    draw(layer, HARD, [10, 20, 30], across(300)).end();
    const before = tilesOf(layer);
    expect([...before.keys()].map(tilePlace).every(({ row }) => row === 1)).toBe(true);
    draw(layer, HARD, [0, 0, 0], across(320)).cancel();
    expect(areSame(tilesOf(layer), before)).toBe(true);
  });
});

describe('what alters nothing', () => {
  it('is no step, and leaves a layer the very tiles that it had', () => {
    fc.assert(
      fc.property(pen, pen, (from, to) => {
        const layer = createLayer('l', 'colour');
        // Where nothing is painted there is nothing to take away.
        expect(draw(layer, HARD, null, [from, to]).end()).toEqual([]);
        expect(tilesOf(layer).size).toBe(0);
        draw(layer, HARD, [9, 9, 9], [from, to]).end();
        const before = tilesOf(layer);
        // The same colour again, wholly: nothing of it is seen.
        const again = draw(layer, HARD, [9, 9, 9], [from, to]);
        const altered = again.end();
        expect(altered.map(({ key }) => key)).toEqual(
          [...tilesOf(layer)].filter(([key, tile]) => before.get(key) !== tile).map(([key]) => key),
        );
        for (const { before: was, after: is } of altered) expect(is).not.toEqual(was);
      }),
      { numRuns: 25 },
    );
  });
});

describe('undo by tiles', () => {
  it('gives back every state exactly, in both directions', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(pen, pen, fc.boolean()), { minLength: 1, maxLength: 6 }), (strokes) => {
        const layer = createLayer('l', 'colour');
        const history = new PaintHistory({ tilesOf: () => layer.tiles, setLayers() {} });
        const states = [tilesOf(layer)];
        for (const [from, to, isErased] of strokes) {
          const step = draw(layer, HARD, isErased ? null : [9, 9, 9], [from, to]).end();
          history.record({ tiles: step });
          if (step.length > 0) states.push(tilesOf(layer));
        }
        for (let at = states.length - 2; at >= 0; at -= 1) {
          history.undo();
          expect(areSame(tilesOf(layer), states[at]!)).toBe(true);
        }
        expect(history.undo()).toBeUndefined();
        for (let at = 1; at < states.length; at += 1) {
          history.redo();
          expect(areSame(tilesOf(layer), states[at]!)).toBe(true);
        }
        expect([history.canUndo, history.canRedo]).toEqual([states.length > 1, false]);
      }),
      { numRuns: 25 },
    );
  });

  it('takes up an earlier time before what was done since', () => {
    const layer = createLayer('l', 'colour');
    const made = () => new PaintHistory({ tilesOf: () => layer.tiles, setLayers() {} });
    const stroke = (y: number) => ({ tiles: draw(layer, HARD, [9, 9, 9], across(y)).end() });
    const states = [tilesOf(layer)];
    const steps = [40, 80, 120].map((y) => {
      const step = stroke(y);
      states.push(tilesOf(layer));
      return step;
    });
    const expectBack = (history: PaintHistory, ...at: number[]) => {
      for (const one of at) {
        history.undo();
        expect(areSame(tilesOf(layer), states[one]!)).toBe(true);
      }
      expect(history.canUndo).toBe(false);
    };
    const since = made();
    since.record(steps[2]!);
    // Once something was done since, what was taken back earlier is not done again.
    since.restore(steps.slice(0, 2), [steps[2]!]);
    expect(since.canRedo).toBe(false);
    expectBack(since, 2, 1, 0);
    for (let at = 0; at < 3; at += 1) since.redo();

    const fresh = made();
    fresh.restore(steps, [stroke(160)]);
    expect([fresh.canUndo, fresh.canRedo]).toEqual([true, true]);
    expectBack(fresh, 2, 1, 0);
    expect(fresh.bytes).toBeGreaterThan(0);
  });

  it('keeps within its memory, the newest always', () => {
    const layer = createLayer('l', 'colour');
    const history = new PaintHistory({ tilesOf: () => layer.tiles, setLayers() {} }, 2 * 1024 * 1024);
    for (let y = 10; y < 600; y += 20)
      history.record({ tiles: draw(layer, HARD, [9, 9, 9], across(y)).end() });
    expect(history.bytes).toBeLessThanOrEqual(2 * 1024 * 1024);
    expect(history.undo()?.tiles.length).toBeGreaterThan(0);
  });
});

describe('layers', () => {
  const filled = (...colour: [number, number, number, number]): TilePixels => {
    const tile = emptyTile();
    for (let at = 0; at < tile.length; at += 4) tile.set(colour, at);
    return tile;
  };
  const layerWith = (
    kind: Parameters<typeof createLayer>[1],
    pixels: TilePixels,
    more: Partial<Layer> = {},
  ) => {
    const layer = { ...createLayer(kind, kind), ...more };
    layer.tiles.set(0, pixels);
    return layer;
  };

  it('are seen as they lie: shadow darkens, light brightens, what is hidden is not there', () => {
    const colour = layerWith('colour', filled(200, 100, 50, 255));
    const shadow = layerWith('shadow', filled(128, 128, 128, 255));
    const seen = (...layers: Layer[]) => [...composeTile(layers, 0, [255, 255, 255]).subarray(0, 4)];
    expect(seen(colour)).toEqual([200, 100, 50, 255]);
    expect(seen(colour, shadow)).toEqual([100, 50, 25, 255]);
    expect(seen(colour, { ...shadow, isHidden: true })).toEqual([200, 100, 50, 255]);
    expect(seen(colour, layerWith('light', filled(128, 128, 128, 255)))[0]).toBeGreaterThanOrEqual(200);
    expect([...composeTile([colour], 1, null).subarray(0, 4)]).toEqual([0, 0, 0, 0]);
  });

  it('that are merged are seen as before', () => {
    fc.assert(
      fc.property(pixel, pixel, share, share, byte, (below, above, opacity, upperOpacity, ground) => {
        const lower = layerWith('colour', filled(...below), { opacity });
        const upper = layerWith('ink', filled(...above), { opacity: upperOpacity });
        const before = composeTile([lower, upper], 0, [ground, ground, ground]).subarray(0, 4);
        // of what does not alter, nothing is answered
        const merged = layerWith('colour', mergedDown(upper, lower).get(0) ?? filled(...below));
        const after = composeTile([merged], 0, [ground, ground, ground]).subarray(0, 4);
        for (const [part, value] of before.entries())
          expect(Math.abs(value - after[part]!)).toBeLessThanOrEqual(2);
      }),
      { numRuns: 30 },
    );
    const [shadow, ink] = [createLayer('s', 'shadow'), createLayer('i', 'ink')];
    expect(canMerge(shadow, ink)).toBe(false);
    expect(() => mergedDown(shadow, ink)).toThrow(RangeError);
  });
});

describe('smoothing', () => {
  const through = (amount: number, points: readonly PenPoint[]) => {
    const smoothing = new Smoothing(amount);
    return [...points.flatMap((point) => smoothing.to(point)), ...smoothing.end()];
  };

  it('is the pen’s own line at none, and ends where the pen does', () => {
    const points = across(300);
    expect(through(0, points)).toEqual(points);
    expect(through(0.8, points).at(-1)).toEqual(points.at(-1));
  });

  it('takes out a trembling, whatever the pen’s rate', () => {
    const trembling = Array.from({ length: 400 }, (_, x) => ({
      x,
      y: 100 + (x % 2 === 0 ? 2 : -2),
      pressure: 1,
    }));
    const off = through(0.7, trembling)
      .slice(40, -1)
      .map(({ y }) => Math.abs(y - 100));
    expect(Math.max(...off)).toBeLessThan(0.8);
    const twice = trembling.flatMap((point, index) => {
      const next = trembling[index + 1];
      return next ? [point, { x: point.x + 0.5, y: (point.y + next.y) / 2, pressure: 1 }] : [point];
    });
    const [one, other] = [through(0.7, trembling), through(0.7, twice)];
    expect(Math.abs(one.length - other.length)).toBeLessThanOrEqual(1);
    for (const [index, { x, y }] of one.slice(0, -2).entries())
      expect(Math.hypot(x - other[index]!.x, y - other[index]!.y)).toBeLessThan(1e-6);
  });
});
