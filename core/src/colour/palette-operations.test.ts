import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  beyondGamut,
  comparedShares,
  gamutOf,
  harmonyOf,
  hexToOklab,
  isBeyondSrgb,
  mergedPalette,
  NO_SHIFT,
  oklabToHex,
  oklabToOklch,
  oklabToRgb,
  oklchToOklab,
  type Swatch,
  shiftedPalette,
  sortedPalette,
  withinSrgb,
} from './index.ts';

const swatch = (hex: string, share: number): Swatch => ({ ...hexToOklab(hex), share });
const level = fc.nat(255);
const palette = fc
  .array(fc.tuple(level, level, level, fc.double({ min: 0.01, max: 1, noNaN: true })), {
    minLength: 1,
    maxLength: 12,
  })
  .map((rows): Swatch[] => {
    const total = rows.reduce((sum, [, , , share]) => sum + share, 0);
    const hex = (...levels: number[]) =>
      `#${levels.map((one) => one.toString(16).padStart(2, '0')).join('')}`;
    return rows.map(([r, g, b, share]) => swatch(hex(r, g, b), share / total));
  });
const sum = (swatches: readonly { share: number }[]) => swatches.reduce((all, { share }) => all + share, 0);

describe('two palettes', () => {
  it('become one: what looks alike is one colour, and shares still add up to one', () => {
    const merged = mergedPalette(
      [swatch('#c8281e', 0.6), swatch('#143ca0', 0.4)],
      [swatch('#c8291f', 0.2), swatch('#f0f0e6', 0.8)],
    );
    expect(merged).toHaveLength(3);
    expect(merged.map(({ share }) => share.toFixed(2))).toEqual(['0.40', '0.40', '0.20']);
    fc.assert(
      fc.property(palette, palette, (one, two) => {
        expect(sum(mergedPalette(one, two))).toBeCloseTo(1, 9);
      }),
    );
  });

  it('are compared by the share of each colour in both', () => {
    const rows = comparedShares(
      [swatch('#c8281e', 0.6), swatch('#143ca0', 0.4)],
      [swatch('#c12a22', 0.3), swatch('#f0f0e6', 0.7)],
    );
    expect(rows.map(({ first, second }) => [first, second])).toEqual([
      [0.6, 0.3],
      [0.4, 0],
      [0, 0.7],
    ]);
    fc.assert(
      fc.property(palette, palette, (one, two) => {
        const all = comparedShares(one, two);
        expect(all.reduce((total, { first }) => total + first, 0)).toBeCloseTo(1, 9);
        expect(all.reduce((total, { second }) => total + second, 0)).toBeCloseTo(1, 9);
      }),
    );
  });
});

describe('a shift', () => {
  it('of nothing alters nothing, and of anything stays within what sRGB shows', () => {
    const by = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(palette, by, by, by, (swatches, lightness, chroma, warmth) => {
        expect(shiftedPalette(swatches, NO_SHIFT).map(oklabToHex)).toEqual(swatches.map(oklabToHex));
        const shifted = shiftedPalette(swatches, { lightness, chroma, warmth });
        for (const one of shifted) expect(isBeyondSrgb(oklabToRgb(one))).toBe(false);
        expect(sum(shifted)).toBeCloseTo(1, 9);
      }),
    );
  });

  it('makes a palette lighter, duller or warmer, as it says', () => {
    const [before] = [swatch('#607890', 1)];
    const [lighter] = shiftedPalette([before], { ...NO_SHIFT, lightness: 0.1 });
    expect(lighter!.l).toBeCloseTo(before.l + 0.1, 9);
    const [duller] = shiftedPalette([before], { ...NO_SHIFT, chroma: -0.5 });
    expect(oklabToOklch(duller!).c).toBeCloseTo(oklabToOklch(before).c / 2, 9);
    const [warmer] = shiftedPalette([before], { ...NO_SHIFT, warmth: 0.3 });
    expect(warmer!.b).toBeGreaterThan(before.b);
  });

  it('keeps hue and lightness of what sRGB cannot show', () => {
    const beyond = oklchToOklab({ l: 0.6, c: 0.35, h: 150 });
    const shown = oklabToOklch(withinSrgb(beyond));
    expect(shown.h).toBeCloseTo(150, 6);
    expect(shown.l).toBeCloseTo(0.6, 9);
    expect(shown.c).toBeLessThan(0.25);
    expect(shown.c).toBeGreaterThan(0.15);
  });
});

describe('order', () => {
  it('is by share, by value or by hue with the greys last', () => {
    const swatches = [
      swatch('#808080', 0.5),
      swatch('#0000ff', 0.1),
      swatch('#ff0000', 0.15),
      swatch('#ffffff', 0.25),
    ];
    const hexes = (order: 'share' | 'value' | 'hue') => sortedPalette(swatches, order).map(oklabToHex);
    expect(hexes('share')).toEqual(['#808080', '#ffffff', '#ff0000', '#0000ff']);
    expect(hexes('value')).toEqual(['#ffffff', '#ff0000', '#808080', '#0000ff']);
    expect(hexes('hue')).toEqual(['#ff0000', '#0000ff', '#ffffff', '#808080']);
  });
});

/** Colours of the same lightness and chroma at given hues. */
const atHues = (...hues: number[]): Swatch[] =>
  hues.map((h) => ({ ...oklchToOklab({ l: 0.6, c: 0.09, h }), share: 1 / hues.length }));

describe('harmony', () => {
  it('knows hues that lie together, opposite or in three', () => {
    expect(harmonyOf(atHues(40, 55, 75)).fits[0]).toEqual({ harmony: 'analogous', offDeg: 0 });
    expect(harmonyOf(atHues(40, 220)).fits[0]!.harmony).toBe('complementary');
    expect(harmonyOf(atHues(40, 220)).fits[0]!.offDeg).toBeCloseTo(0, 6);
    const three = harmonyOf(atHues(10, 130, 250)).fits[0]!;
    expect(three.harmony).toBe('triadic');
    expect(three.offDeg).toBeCloseTo(0, 6);
    // Twelve degrees beside the opposite: six for each on the average.
    expect(
      harmonyOf(atHues(40, 232)).fits.find(({ harmony }) => harmony === 'complementary')!.offDeg,
    ).toBeCloseTo(6, 0);
  });

  it('measures the part of the circle that hues take, also across its start', () => {
    expect(harmonyOf(atHues(350, 10, 30)).spreadDeg).toBeCloseTo(40, 4);
    expect(harmonyOf([swatch('#808080', 1)]).spreadDeg).toBe(0);
    expect(harmonyOf([]).dominant).toBeUndefined();
  });

  it('finds what covers most, what stands out, warm and cool, and the key', () => {
    const found = harmonyOf([swatch('#b9b2a6', 0.7), swatch('#8d8f92', 0.25), swatch('#d0301c', 0.05)]);
    expect(oklabToHex(found.dominant!)).toBe('#b9b2a6');
    expect(oklabToHex(found.accent!)).toBe('#d0301c');
    const { warm, cool } = harmonyOf([
      swatch('#c8281e', 0.7),
      swatch('#143ca0', 0.2),
      swatch('#808080', 0.1),
    ]);
    expect([warm, cool].map((part) => part.toFixed(2))).toEqual(['0.70', '0.20']);
    expect(harmonyOf([swatch('#f0f0f0', 1)]).key).toBe('high');
    expect(harmonyOf([swatch('#202020', 1)]).key).toBe('low');
  });
});

describe('a gamut', () => {
  it('holds every colour it was made of, and says how far others lie outside', () => {
    fc.assert(
      fc.property(palette, (swatches) => {
        const gamut = gamutOf(swatches);
        for (const one of swatches) expect(beyondGamut(gamut, one)).toBeLessThan(1e-9);
      }),
    );
    const square = [
      { l: 0.5, a: -0.1, b: -0.1 },
      { l: 0.5, a: 0.1, b: -0.1 },
      { l: 0.5, a: 0.1, b: 0.1 },
      { l: 0.5, a: -0.1, b: 0.1 },
    ];
    expect(gamutOf(square)).toHaveLength(4);
    expect(beyondGamut(gamutOf(square), { a: 0.25, b: 0 })).toBeCloseTo(0.15, 9);
    expect(beyondGamut(gamutOf(square), { a: 0, b: 0 })).toBe(0);
  });
});
