import { describe, expect, it } from 'vitest';
import { penOf, type StrokePoint, shapeOfStroke, strokeOutline, widthUnder } from './index.ts';
import { grainsAlong, hatchingAlong } from './texture.ts';

const wave = (length: number, more: Partial<StrokePoint> = {}): StrokePoint[] =>
  Array.from({ length }, (_, at) => ({ x: at * 3, y: 40 * Math.sin(at / 9), pressure: 0.5, ...more }));
const lineOf = (points: readonly StrokePoint[], width: number) =>
  points.map(({ x, y, pressure }) => ({ x, y, width, pressure }));
const areaOf = (corners: readonly { x: number; y: number }[]): number =>
  corners.reduce((sum, { x, y }, at) => {
    const next = corners[(at + 1) % corners.length]!;
    return sum + (x * next.y - next.x * y) / 2;
  }, 0);

describe('grain', () => {
  it('belongs to its seed, stays where it is while a stroke grows, and is holes within the outline', () => {
    const whole = grainsAlong(lineOf(wave(80), 10), 10, 3);
    const begun = grainsAlong(lineOf(wave(40), 10), 10, 3);
    expect(begun.length).toBeGreaterThan(50);
    expect(whole.slice(0, begun.length)).toEqual(begun);
    expect(grainsAlong(lineOf(wave(40), 10), 10, 4)).not.toEqual(begun);
    const outline = strokeOutline(wave(20), { pen: penOf('soft-pencil'), nib: 10, smoothing: 0 });
    for (const grain of begun) expect(Math.sign(areaOf(grain))).toBe(-Math.sign(areaOf(outline)));
  });

  it('is closed the harder the pen presses, and never more than can be painted', () => {
    const grains = (pressure: number) => grainsAlong(lineOf(wave(60, { pressure }), 10), 10, 3).length;
    expect(grains(1)).toBeLessThan(grains(0.5));
    expect(grains(0.5)).toBeLessThan(grains(0.1));
    expect(grainsAlong(lineOf(wave(4_000), 1), 1, 3).length).toBeLessThanOrEqual(6_000);
  });
});

describe('hatching', () => {
  /** How a line lies, degrees in 0..180. */
  const lies = ([from, , to]: readonly { x: number; y: number }[]) =>
    ((Math.atan2(to!.y - from!.y, to!.x - from!.x) * 180) / Math.PI + 180) % 180;

  it('is parallel and even wherever the hand went, and stays within the stroke', () => {
    const points = wave(50);
    const long = hatchingAlong(lineOf(points, 40), 40, 1, false).filter(
      ([from, , to]) => Math.hypot(to!.x - from!.x, to!.y - from!.y) > 20,
    );
    expect(long.length).toBeGreaterThan(10);
    for (const line of long) expect(Math.abs(lies(line) - 128)).toBeLessThan(6);
    for (const corner of long.flat()) {
      const away = Math.min(...points.map(({ x, y }) => Math.hypot(x - corner.x, y - corner.y)));
      expect(away).toBeLessThan(20 + 4);
    }
  });

  it('crossed lies both ways, and going over it again adds no lines', () => {
    const there = lineOf(wave(30), 40);
    const crossed = hatchingAlong(there, 40, 1, true);
    const once = hatchingAlong(there, 40, 1, false);
    expect(crossed.length).toBeGreaterThan(1.4 * once.length);
    const again = hatchingAlong([...there, ...[...there].reverse()], 40, 1, false);
    expect(again.length).toBe(once.length);
  });
});

describe('a pen', () => {
  it('widens as it lies flat, not as one writes with it', () => {
    const pen = penOf('soft-pencil');
    expect(widthUnder(pen, 0.5, 0)).toBe(1);
    expect(widthUnder(pen, 0.5, 35)).toBe(1);
    expect(widthUnder(pen, 0.5, 85)).toBeCloseTo(3.5);
    expect(widthUnder(penOf('wash'), 0.5, 85)).toBe(1);
    const thick = (tilt: number) => areaOf(strokeOutline(wave(20, { tilt }), { pen, nib: 8, smoothing: 0 }));
    expect(thick(85)).toBeGreaterThan(2.5 * thick(0));
  });

  it('leaves path data for a dot, too, whatever its texture', () => {
    for (const pen of ['hard-pencil', 'soft-pencil', 'wash', 'hatching', 'cross-hatching'] as const) {
      const wish = { pen: penOf(pen), nib: 10, smoothing: 0.3, ink: '#202020', seed: 1 };
      for (const points of [wave(1), wave(2), wave(40)])
        expect(shapeOfStroke(points, wish, 1, 2).d).toMatch(/^M[-\d. MQZe]+Z$/);
      expect(shapeOfStroke([], wish, 1, 2).d).toBe('');
    }
  });
});
