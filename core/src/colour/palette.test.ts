import { converter, formatHex } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hexToOklab, oklabDistance, oklabHueDeg, oklabToHex, paletteOf, srgb8ToOklab } from './index.ts';

const reference = converter('oklab');
const level = () => fc.integer({ min: 0, max: 255 });

describe('OKLab', () => {
  it('agrees with an independent implementation', () => {
    fc.assert(
      fc.property(level(), level(), level(), (r, g, b) => {
        const ours = srgb8ToOklab(r, g, b);
        const theirs = reference({ mode: 'rgb', r: r / 255, g: g / 255, b: b / 255 });
        expect(oklabDistance(ours, theirs)).toBeLessThan(1e-4);
      }),
    );
  });

  it('comes back to the colour it came from', () => {
    fc.assert(
      fc.property(level(), level(), level(), (r, g, b) => {
        const hex = formatHex({ mode: 'rgb', r: r / 255, g: g / 255, b: b / 255 });
        expect(oklabToHex(hexToOklab(hex))).toBe(hex);
      }),
    );
  });

  it('gives greys no chroma, and primaries their published hues', () => {
    const { a, b } = srgb8ToOklab(119, 119, 119);
    expect(Math.hypot(a, b)).toBeLessThan(1e-4);
    // Ottosson 2020: red 29.2°, green 142.5°, blue 264.1°.
    expect(oklabHueDeg(srgb8ToOklab(255, 0, 0))).toBeCloseTo(29.2, 0);
    expect(oklabHueDeg(srgb8ToOklab(0, 255, 0))).toBeCloseTo(142.5, 0);
    expect(oklabHueDeg(srgb8ToOklab(0, 0, 255))).toBeCloseTo(264.1, 0);
    expect(() => hexToOklab('red')).toThrow(RangeError);
  });
});

const pixels = (colours: readonly (readonly [number, number, number, number])[]): Uint8Array =>
  Uint8Array.from(colours.flat());

describe('a palette', () => {
  it('finds flat colours exactly, with their shares, the largest first', () => {
    const colours = [
      ...Array.from({ length: 60 }, () => [200, 40, 30, 255] as const),
      ...Array.from({ length: 30 }, () => [20, 60, 160, 255] as const),
      ...Array.from({ length: 10 }, () => [240, 240, 230, 255] as const),
    ];
    const palette = paletteOf(pixels(colours), 6);
    expect(palette.map((swatch) => [oklabToHex(swatch), swatch.share])).toEqual([
      ['#c8281e', 0.6],
      ['#143ca0', 0.3],
      ['#f0f0e6', 0.1],
    ]);
  });

  it('counts what is transparent by how opaque it is, and gives none for nothing', () => {
    expect(paletteOf(pixels([[200, 0, 0, 0]]), 4)).toEqual([]);
    const palette = paletteOf(
      pixels([
        [255, 0, 0, 255],
        [0, 0, 255, 51],
      ]),
      4,
    );
    expect(palette[0]!.share).toBeCloseTo(5 / 6, 6);
  });

  it('shares add up to one, and every pixel is nearer to some swatch than the picture is wide', () => {
    const picture = fc.array(fc.tuple(level(), level(), level(), fc.constant(255)), {
      minLength: 1,
      maxLength: 200,
    });
    fc.assert(
      fc.property(picture, fc.integer({ min: 1, max: 8 }), (colours, count) => {
        const palette = paletteOf(pixels(colours), count);
        expect(palette.length).toBeLessThanOrEqual(count);
        expect(palette.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 6);
        expect([...palette].sort((a, b) => b.share - a.share)).toEqual(palette);
      }),
    );
  });
});
