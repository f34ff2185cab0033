import { describe, expect, it } from 'vitest';
import { develop, type Exposure, encodeSrgb, film, smoothLight } from './develop.ts';
import { hash01 } from './noise.ts';

const SIDE = 48;

/** A wall lit at `level`, seen by rays of which some miss: noise of `spread`; `depth` and `normal` tell surfaces apart. */
function wall(
  level: (x: number) => number,
  spread: number,
  depth: (x: number) => number,
  facesRight: (x: number) => boolean,
): Exposure {
  const count = SIDE * SIDE;
  const exposure: Exposure = {
    ...{ width: SIDE, height: SIDE, rest: new Float32Array(count * 3), depth: new Float32Array(count) },
    ...{ matt: new Float32Array(count * 3), colour: new Float32Array(count * 3).fill(0.5) },
    normal: new Float32Array(count * 3),
  };
  for (let at = 0; at < count; at += 1) {
    const x = at % SIDE;
    const light = level(x) * (1 + spread * (hash01(at, 7) - 0.5) * 2);
    exposure.matt.fill(light * 0.5, at * 3, at * 3 + 3);
    exposure.normal[at * 3 + (facesRight(x) ? 0 : 2)] = 1;
    exposure.depth[at] = depth(x);
  }
  return exposure;
}

const column = (light: Float32Array, x: number): number[] =>
  Array.from({ length: SIDE - 16 }, (_, row) => light[((row + 8) * SIDE + x) * 3]! / 0.5);
const mean = (values: readonly number[]) => values.reduce((sum, one) => sum + one, 0) / values.length;
const deviation = (values: readonly number[]) =>
  Math.sqrt(mean(values.map((one) => (one - mean(values)) ** 2)));

describe('smoothing', () => {
  it('takes the noise of few rays from an even surface and keeps its level', () => {
    const noisy = wall(
      () => 0.6,
      0.8,
      () => 3,
      () => false,
    );
    const before = column(noisy.matt, 24);
    const after = column(smoothLight(noisy, 3), 24);
    expect(deviation(after)).toBeLessThan(0.2 * deviation(before));
    expect(mean(after)).toBeCloseTo(0.6, 1);
  });

  it.each([
    ['another depth', (x: number) => (x < 24 ? 3 : 6), () => false],
    ['another direction', () => 3, (x: number) => x >= 24],
  ] as const)('lets no light over an edge to %s', (_, depth, facesRight) => {
    const edge = wall((x) => (x < 24 ? 1 : 0.05), 0, depth, facesRight);
    const light = smoothLight(edge, 3);
    expect(mean(column(light, 23))).toBeCloseTo(1, 5);
    expect(mean(column(light, 24))).toBeCloseTo(0.05, 5);
  });

  it('keeps the edge of a shadow within a few pixels', () => {
    const shadow = wall(
      (x) => (x < 24 ? 1 : 0.1),
      0.2,
      () => 3,
      () => false,
    );
    const light = smoothLight(shadow, 3);
    expect(mean(column(light, 18))).toBeGreaterThan(0.9);
    expect(mean(column(light, 30))).toBeLessThan(0.2);
  });
});

describe('developing', () => {
  it('rises with the light and ends at white', () => {
    let last = -1;
    for (let light = 0; light < 40; light += 0.1) {
      const shown = film(light);
      expect(shown).toBeGreaterThanOrEqual(last);
      last = shown;
    }
    expect(film(40)).toBe(1);
    expect(film(0)).toBe(0);
  });

  it('encodes as sRGB says', () => {
    expect(encodeSrgb(0.18) * 255).toBeCloseTo(117.65, 1);
    expect(encodeSrgb(0.0031308)).toBeCloseTo(0.04045, 4);
    expect(encodeSrgb(1)).toBeCloseTo(1, 9);
  });

  it('uses the levels that it is given', () => {
    const even = wall(
      () => 0.4,
      0,
      () => 3,
      () => false,
    );
    const [eight, sixteen] = [develop(even, 0, 1, 255), develop(even, 0, 1, 65535)];
    expect(Math.max(...eight)).toBeLessThan(256);
    expect(mean([...sixteen]) / 257).toBeCloseTo(mean([...eight]), 0);
    expect(new Set(sixteen).size).toBeGreaterThan(40 * new Set(eight).size);
  });
});
