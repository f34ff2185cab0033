import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ImageRequestError, imageInformation, parseImageRequest } from './index.ts';

const FULL = { width: 300, height: 200 };
const MOST = 1_000_000;
const ask = (
  region: string,
  size: string,
  rotation = '0',
  quality = 'default',
  format = 'jpg',
  full = FULL,
  most = MOST,
) => parseImageRequest({ region, size, rotation, quality, format }, full, most);
const refused = (run: () => unknown): number | undefined => {
  try {
    run();
  } catch (error) {
    if (error instanceof ImageRequestError) return error.status;
    throw error;
  }
  return undefined;
};

describe('a part of a picture by its address', () => {
  // The picture of the examples in the standard is 300 × 200.
  it('is what the examples of the standard say', () => {
    expect(ask('full', 'max')).toEqual({ region: { x: 0, y: 0, ...FULL }, size: FULL });
    expect(ask('square', 'max')).toEqual({
      region: { x: 50, y: 0, width: 200, height: 200 },
      size: { width: 200, height: 200 },
    });
    expect(ask('125,15,120,140', 'max').region).toEqual({ x: 125, y: 15, width: 120, height: 140 });
    // Beyond the right edge: cut off.
    expect(ask('125,15,200,200', 'max').region).toEqual({ x: 125, y: 15, width: 175, height: 185 });
    expect(ask('full', '150,').size).toEqual({ width: 150, height: 100 });
    expect(ask('full', ',150').size).toEqual({ width: 225, height: 150 });
    expect(ask('full', '225,100').size).toEqual({ width: 225, height: 100 });
  });

  it('is refused as malformed, or as not given at this level', () => {
    for (const [region, size] of [
      ...[
        ['300,0,10,10', 'max'],
        ['0,0,0,10', 'max'],
        ['1,2,3', 'max'],
        ['-1,0,5,5', 'max'],
        ['', 'max'],
      ],
      ...[
        ['full', ','],
        ['full', '0,'],
        ['full', 'full'],
        ['full', '301,'],
        ['full', '1e3,'],
        ['full', 'NaN,'],
      ],
    ] as [string, string][])
      expect(
        refused(() => ask(region, size)),
        `${region}/${size}`,
      ).toBe(400);
    for (const [region, size] of [
      ['pct:1,1,5,5', 'max'],
      ['full', '^max'],
      ['full', '!50,50'],
      ['full', 'pct:50'],
    ] as const)
      expect(
        refused(() => ask(region, size)),
        `${region}/${size}`,
      ).toBe(501);
    expect(refused(() => ask('full', 'max', '90'))).toBe(501);
    expect(refused(() => ask('full', 'max', 'up'))).toBe(400);
    expect(refused(() => ask('full', 'max', '0', 'gray'))).toBe(501);
    expect(refused(() => ask('full', 'max', '0', 'best'))).toBe(400);
    expect(refused(() => ask('full', 'max', '0', 'default', 'png'))).toBe(501);
    expect(refused(() => ask('full', '200,200', '0', 'default', 'jpg', FULL, 10_000))).toBe(400);
  });

  it('lies within the picture and within what is handed out, whatever is asked', () => {
    const whole = fc.integer({ min: 0, max: 5_000 });
    const regions = fc.oneof(
      fc.constantFrom('full', 'square'),
      fc.tuple(whole, whole, whole, whole).map((four) => four.join()),
    );
    const sizes = fc.oneof(
      fc.constant('max'),
      whole.map((w) => `${w},`),
      whole.map((h) => `,${h}`),
      fc.tuple(whole, whole).map((two) => two.join()),
    );
    fc.assert(
      fc.property(
        regions,
        sizes,
        fc.integer({ min: 1, max: 4_000 }),
        fc.integer({ min: 1, max: 4_000 }),
        (region, size, width, height) => {
          let asked: ReturnType<typeof ask>;
          try {
            asked = ask(region, size, '0', 'default', 'jpg', { width, height }, 90_000);
          } catch (error) {
            expect(error).toBeInstanceOf(ImageRequestError);
            return;
          }
          const { region: part, size: out } = asked;
          expect(part.x + part.width).toBeLessThanOrEqual(width);
          expect(part.y + part.height).toBeLessThanOrEqual(height);
          expect(out.width * out.height).toBeLessThanOrEqual(90_000);
          expect(out.width).toBeLessThanOrEqual(part.width);
          expect(Math.min(out.width, out.height)).toBeGreaterThan(0);
        },
      ),
    );
  });

  it('is told of with tiles for every step of coming closer', () => {
    expect(imageInformation('http://a/b', { width: 6_000, height: 4_000 }, MOST)).toMatchObject({
      ...{ id: 'http://a/b', type: 'ImageService3', profile: 'level1', maxArea: MOST },
      tiles: [{ width: 512, scaleFactors: [1, 2, 4, 8, 16] }],
    });
    expect(imageInformation('x', { width: 100, height: 90 }, MOST)).toMatchObject({
      tiles: [{ scaleFactors: [1] }],
    });
  });
});
