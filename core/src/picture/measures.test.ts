import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  complexityOf,
  detailOf,
  measuresOf,
  modellingOf,
  type Plane,
  printInches,
  SHARPNESS_GRID,
  type SmallPixels,
  sharpnessIn,
  sharpnessOf,
} from './index.ts';

const SIDE = 256;

function random(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}

/** Patches of many sizes with hard edges: as much contrast in every octave as natural surfaces have. */
function patches(seed: number): Plane {
  const next = random(seed);
  const data = new Float32Array(SIDE * SIDE).fill(0.5);
  for (let index = 0; index < 3_000; index += 1) {
    const size = 1.5 * (SIDE / 6) ** (next() ** 2);
    const [cx, cy, tone] = [next() * SIDE, next() * SIDE, next()];
    for (let y = Math.max(0, Math.ceil(cy - size)); y < Math.min(SIDE, cy + size); y += 1)
      for (let x = Math.max(0, Math.ceil(cx - size)); x < Math.min(SIDE, cx + size); x += 1)
        data[y * SIDE + x] = tone;
  }
  return { width: SIDE, height: SIDE, data };
}

/** Blurs by a Gaussian of `sigma` pixels, rows then columns, the edge repeated. */
function blurred({ width, height, data }: Plane, sigma: number): Plane {
  const reach = Math.ceil(3 * sigma);
  const weights = Array.from({ length: 2 * reach + 1 }, (_, at) =>
    Math.exp(-((at - reach) ** 2) / (2 * sigma ** 2)),
  );
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const pass = (from: Float32Array, dx: number, dy: number) =>
    Float32Array.from(from, (_, at) => {
      const [x, y] = [at % width, Math.floor(at / width)];
      let sum = 0;
      weights.forEach((weight, step) => {
        const px = Math.min(width - 1, Math.max(0, x + dx * (step - reach)));
        const py = Math.min(height - 1, Math.max(0, y + dy * (step - reach)));
        sum += weight * from[py * width + px]!;
      });
      return sum / total;
    });
  return { width, height, data: pass(pass(data, 1, 0), 0, 1) };
}

/** White noise of so many 8-bit levels, over everything. */
function noisy(plane: Plane, levels: number): Plane {
  const next = random(7);
  const gauss = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  return { ...plane, data: plane.data.map((value) => value + (levels / 255) * gauss()) };
}

/** What a Gaussian blur leaves is 0.3 of the contrast at this frequency: exp(−2π²σ²f²) = 0.3. */
const expectedAt = (sigma: number) => Math.sqrt(Math.log(1 / 0.3) / 2) / (Math.PI * sigma);

describe('sharpness', () => {
  it.each([1.5, 2, 3, 4])(
    'of a picture blurred by σ = %f is where that blur takes the contrast away',
    (sigma) => {
      const measured = sharpnessOf(detailOf(blurred(patches(3), sigma)));
      expect(measured / expectedAt(sigma)).toBeGreaterThan(0.65);
      expect(measured / expectedAt(sigma)).toBeLessThan(1.5);
    },
  );

  it('falls with every further blur, and noise does not pass for detail', () => {
    const sigmas = [0.7, 1, 1.4, 2, 2.8, 4];
    const clean = sigmas.map((sigma) => sharpnessOf(detailOf(blurred(patches(5), sigma))));
    const grainy = sigmas.map((sigma) => sharpnessOf(detailOf(noisy(blurred(patches(5), sigma), 5))));
    expect([...clean].sort((a, b) => b - a)).toEqual(clean);
    for (const [index, value] of grainy.entries()) {
      expect(value).toBeLessThan(clean[index]! * 1.35);
      if (index > 0) expect(value).toBeLessThanOrEqual(grainy[index - 1]!);
    }
  });

  it('of hard edges is what pixels can hold, and of nothing is nothing', () => {
    expect(sharpnessOf(detailOf(patches(1)))).toBeGreaterThan(0.36);
    const flat = { width: 128, height: 96, data: new Float32Array(128 * 96).fill(0.4) };
    expect(sharpnessOf(detailOf(flat))).toBe(0);
    expect(sharpnessOf(detailOf(noisy(flat, 3)))).toBe(0);
    expect(() => detailOf({ width: 0, height: 0, data: new Float32Array() })).toThrow(RangeError);
    expect(() => detailOf({ width: 3, height: 3, data: new Float32Array(4) })).toThrow(RangeError);
  });

  it('of a part is its own: half in focus, half not', () => {
    const sharp = patches(9);
    const soft = blurred(sharp, 4);
    const data = sharp.data.map((value, at) => (at % SIDE < SIDE / 2 ? value : soft.data[at]!));
    const detail = detailOf({ ...sharp, data });
    const half = (x: number) => sharpnessOf(detail, { x, y: 0, width: 0.5, height: 1 });
    expect(half(0)).toBeGreaterThan(3 * half(0.5));
  });
});

describe('largest print', () => {
  it('counts pixels, and what of them is sharp', () => {
    expect(printInches(3000, 300, 0.5)).toEqual({ byPixels: 10, byDetail: 10 });
    expect(printInches(3000, 300, 0.25).byDetail).toBe(5);
    expect(() => printInches(3000, 0, 0.5)).toThrow(RangeError);
  });
});

const picture = (width: number, height: number, colour: (x: number, y: number) => number): SmallPixels => ({
  ...{ width, height },
  data: Uint8ClampedArray.from({ length: width * height * 4 }, (_, at) => {
    const pixel = Math.floor(at / 4);
    return at % 4 === 3 ? 255 : colour(pixel % width, Math.floor(pixel / width));
  }),
});

describe('complexity', () => {
  it('rises from a sheet to a form to a checkerboard', () => {
    const sheet = complexityOf(picture(96, 96, () => 128));
    const disc = complexityOf(picture(96, 96, (x, y) => (Math.hypot(x - 48, y - 48) < 30 ? 220 : 60)));
    const checks = complexityOf(picture(96, 96, (x, y) => (((x >> 3) + (y >> 3)) % 2 ? 30 : 230)));
    expect(sheet).toBeLessThan(0.1);
    expect(disc).toBeGreaterThan(sheet);
    expect(checks).toBeGreaterThan(2 * disc);
    expect(checks).toBeLessThanOrEqual(1);
  });
});

describe('modelling by light', () => {
  /** A matt ball lit from an azimuth, 0 from behind the viewer. */
  const ball = (azimuthDeg: number, ambient: number) => {
    const turn = (azimuthDeg * Math.PI) / 180;
    return picture(96, 96, (x, y) => {
      const [nx, ny] = [(x + 0.5 - 48) / 46, (y + 0.5 - 48) / 46];
      const r2 = nx * nx + ny * ny;
      if (r2 >= 1) return 110;
      const lit = Math.max(0, nx * Math.sin(turn) + Math.sqrt(1 - r2) * Math.cos(turn));
      const linear = ambient + (0.75 - ambient) * lit;
      return 255 * (1.055 * linear ** (1 / 2.4) - 0.055);
    });
  };

  it('is greater from the side than from the front, and least where all is ambient', () => {
    const form = { x: 0.15, y: 0.15, width: 0.7, height: 0.7 };
    const of = (azimuthDeg: number, ambient: number) => modellingOf(ball(azimuthDeg, ambient), form);
    const [front, side, flat] = [of(0, 0.05), of(75, 0.05), of(75, 0.6)];
    expect(side).toBeGreaterThan(front + 1);
    expect(flat).toBeLessThan(front);
  });

  it('is nothing for a sheet, and does not count the grain of a surface', () => {
    expect(modellingOf(picture(96, 96, () => 90))).toBe(0);
    const grain = picture(96, 96, (x, y) => ((x + y) % 2 ? 60 : 190));
    expect(modellingOf(grain)).toBeLessThan(0.5);
  });
});

describe('all measures together', () => {
  it('are finite and within their ranges for any picture', () => {
    const sides = fc.integer({ min: 1, max: 24 });
    fc.assert(
      fc.property(sides, sides, fc.integer(), (width, height, seed) => {
        const next = random(seed);
        const small = picture(width, height, () => next() * 255);
        const plane = { width, height, data: Float32Array.from({ length: width * height }, next) };
        const measures = measuresOf(small, detailOf(plane));
        expect(measures.look).toHaveLength(12);
        expect(measures.sharpnessGrid).toHaveLength(SHARPNESS_GRID ** 2);
        for (const value of [measures.lightness, measures.complexity]) {
          expect(value).toBeGreaterThanOrEqual(0);
          expect(value).toBeLessThanOrEqual(1);
        }
        expect(measures.sharpness).toBeLessThanOrEqual(0.5);
        const { hue, ...others } = measures;
        expect(hue === null || (hue >= 0 && hue < 360)).toBe(true);
        // Whatever is no number is written as null.
        expect(JSON.stringify(others)).not.toContain('null');
      }),
      { numRuns: 60 },
    );
  });

  it('the sharpness of a region is that of its sharpest cell', () => {
    const grid = Array.from({ length: SHARPNESS_GRID ** 2 }, (_, index) => (index === 0 ? 0.4 : 0.1));
    expect(sharpnessIn(grid, { x: 0, y: 0, width: 0.3, height: 0.3 })).toBe(0.4);
    expect(sharpnessIn(grid, { x: 0.5, y: 0.5, width: 0.5, height: 0.5 })).toBe(0.1);
  });
});
