import { deltaE2000, hueBetween } from './difference.ts';
import { isWarmHue } from './names.ts';
import { munsellValueOf } from './notation.ts';
import type { Swatch } from './palette.ts';
import type { Oklab } from './spaces.ts';
import {
  encodedOf,
  isBeyondSrgb,
  oklabToLinear,
  oklabToOklch,
  oklabToRgb,
  oklchToOklab,
  rgbToLab,
} from './spaces.ts';
import { keyOfValue, type ValueKey } from './value-statistics.ts';

/** Munsell value, 0..10, of a colour that is shown. */
export const valueOfOklab = (colour: Oklab): number => munsellValueOf(oklabToRgb(colour));

const apart = (one: Oklab, two: Oklab): number =>
  deltaE2000(rgbToLab(oklabToRgb(one)), rgbToLab(oklabToRgb(two)));

/** The same colour with as much chroma as sRGB can show; its hue and lightness stay. */
export function withinSrgb(colour: Oklab): Oklab {
  const isShown = (one: Oklab) => !isBeyondSrgb(encodedOf(oklabToLinear(one)));
  const l = Math.min(1, Math.max(0, colour.l));
  if (isShown({ ...colour, l })) return { ...colour, l };
  let [least, most] = [0, 1];
  for (let step = 0; step < 24; step += 1) {
    const middle = (least + most) / 2;
    if (isShown({ l, a: colour.a * middle, b: colour.b * middle })) least = middle;
    else most = middle;
  }
  return { l, a: colour.a * least, b: colour.b * least };
}

/** Colours that differ by less than this are one, ΔE00. */
const ALIKE = 2.3;

/**
 * Two palettes as one. What looks alike becomes one colour between them; shares are halved, so that both weigh as much.
 *
 * @returns the largest share first
 */
export function mergedPalette(one: readonly Swatch[], two: readonly Swatch[]): Swatch[] {
  const half = ({ share, ...colour }: Swatch): Swatch => ({ ...colour, share: share / 2 });
  const merged = one.map(half);
  for (const swatch of two.map(half)) {
    const near = merged.findIndex((known) => apart(known, swatch) < ALIKE);
    const known = merged[near];
    if (!known) {
      merged.push(swatch);
      continue;
    }
    const share = known.share + swatch.share;
    const part = share === 0 ? 0.5 : swatch.share / share;
    const between = (axis: 'l' | 'a' | 'b') => known[axis] + (swatch[axis] - known[axis]) * part;
    merged[near] = { l: between('l'), a: between('a'), b: between('b'), share };
  }
  return merged.sort((a, b) => b.share - a.share);
}

/** One colour in two palettes. */
export interface SharedColour {
  readonly colour: Oklab;
  readonly first: number;
  readonly second: number;
}

/** Colours of two palettes side by side with the share of each in both: each of the second goes to the nearest of the first. */
export function comparedShares(one: readonly Swatch[], two: readonly Swatch[]): SharedColour[] {
  /** Further off than this it is a colour of its own, ΔE00. */
  const far = 12;
  const rows = one.map(({ l, a, b, share }) => ({ colour: { l, a, b }, first: share, second: 0 }));
  const own: SharedColour[] = [];
  for (const { l, a, b, share } of two) {
    const colour = { l, a, b };
    const near = rows
      .map((row) => ({ row, off: apart(row.colour, colour) }))
      .sort((x, y) => x.off - y.off)[0];
    if (near && near.off <= far) near.row.second += share;
    else own.push({ colour, first: 0, second: share });
  }
  return [...rows, ...own];
}

/** How a whole palette is moved. */
export interface PaletteShift {
  /** OKLab lightness added, −1..1. */
  readonly lightness: number;
  /** Chroma is multiplied by 1 + this, −1..1. */
  readonly chroma: number;
  /** Towards orange above 0, towards blue below, −1..1: OKLab by a tenth of it. */
  readonly warmth: number;
}
export const NO_SHIFT: PaletteShift = { lightness: 0, chroma: 0, warmth: 0 };

/** Orange, degrees of OKLab: the warmest hue. */
const WARMEST = (54 * Math.PI) / 180;
const WARMTH = 0.1;

/** Every colour moved alike; shares stay. What sRGB cannot show loses chroma. */
export const shiftedPalette = (
  swatches: readonly Swatch[],
  { lightness, chroma, warmth }: PaletteShift,
): Swatch[] =>
  swatches.map(({ l, a, b, share }) => ({
    ...withinSrgb({
      l: l + lightness,
      a: a * (1 + chroma) + warmth * WARMTH * Math.cos(WARMEST),
      b: b * (1 + chroma) + warmth * WARMTH * Math.sin(WARMEST),
    }),
    share,
  }));

export const PALETTE_ORDERS = ['share', 'value', 'hue'] as const;
export type PaletteOrder = (typeof PALETTE_ORDERS)[number];

/** Chroma below which a colour has no hue to be sorted or judged by. */
const GREY = 0.02;

/** By share the largest first, by value the lightest, by hue around the circle from red with the greys last. */
export function sortedPalette<S extends Swatch>(swatches: readonly S[], order: PaletteOrder): S[] {
  const keyOf = (swatch: S): number => {
    if (order === 'share') return -swatch.share;
    if (order === 'value') return -swatch.l;
    const { c, h } = oklabToOklch(swatch);
    return c < GREY ? 1_000 - swatch.l : h;
  };
  return [...swatches].sort((one, two) => keyOf(one) - keyOf(two));
}

export const HARMONIES = ['analogous', 'complementary', 'triadic'] as const;
export type Harmony = (typeof HARMONIES)[number];

/** How the hues of a palette lie to each other. */
export interface PaletteHarmony {
  /** Degrees of the smallest part of the circle that holds all hues; 0 where there is one or none. */
  readonly spreadDeg: number;
  /** What covers most; undefined for an empty palette. */
  readonly dominant: Swatch | undefined;
  /** The strongest of the small ones; undefined where none stands out. */
  readonly accent: Swatch | undefined;
  /** The usual harmonies that are there, the closest first: by how many degrees hues are off on the average. */
  readonly fits: readonly { readonly harmony: Harmony; readonly offDeg: number }[];
  /** Share of warm and of cool colours, 0..1; the rest is grey. */
  readonly warm: number;
  readonly cool: number;
  /** Mean Munsell value, and how far the lightest lies from the darkest. */
  readonly value: number;
  readonly contrast: number;
  readonly key: ValueKey;
}

/** Spokes of each, degrees from its first hue; hues within `width` of an analogous middle are not off. */
const SPOKES: Readonly<Record<Harmony, readonly number[]>> = {
  analogous: [0],
  complementary: [0, 180],
  triadic: [0, 120, 240],
};
const ANALOGOUS_HALF = 30;
/** A harmony is there when each of its hues has at least this share of all colour. */
const LEAST_PART = 0.04;
/** A harmony from which hues are off by more is none. */
const MOST_OFF = 30;

interface Hue {
  readonly h: number;
  /** Share by chroma. */
  readonly weight: number;
}

function fitOf(hues: readonly Hue[], harmony: Harmony): number | undefined {
  const spokes = SPOKES[harmony];
  const total = hues.reduce((sum, { weight }) => sum + weight, 0);
  let best: number | undefined;
  for (let turn = 0; turn < 360; turn += 1) {
    const parts = spokes.map(() => 0);
    let off = 0;
    for (const { h, weight } of hues) {
      const offs = spokes.map((spoke) => Math.abs(hueBetween(turn + spoke, h)));
      const near = offs.indexOf(Math.min(...offs));
      parts[near]! += weight;
      off += weight * (harmony === 'analogous' ? Math.max(0, offs[near]! - ANALOGOUS_HALF) : offs[near]!);
    }
    if (parts.some((part) => part < LEAST_PART * total)) continue;
    if (best === undefined || off / total < best) best = off / total;
  }
  return best;
}

function spreadOf(hues: readonly Hue[]): number {
  const sorted = hues.map(({ h }) => h).sort((a, b) => a - b);
  if (sorted.length < 2) return 0;
  const gaps = sorted.map((h, index) => (sorted[(index + 1) % sorted.length]! - h + 360) % 360);
  return 360 - Math.max(...gaps);
}

/** What a palette is made of, by its hues, its values and its shares. */
export function harmonyOf(swatches: readonly Swatch[]): PaletteHarmony {
  const counted = swatches.map((swatch) => ({ swatch, ...oklabToOklch(swatch) }));
  const total = counted.reduce((sum, { swatch }) => sum + swatch.share, 0) || 1;
  const coloured = counted.filter(({ c }) => c >= GREY);
  const hues = coloured.map(({ h, c, swatch }): Hue => ({ h, weight: Math.max(1e-6, c * swatch.share) }));
  const bySize = sortedPalette(swatches, 'share');
  const strongest = [...coloured].sort((a, b) => b.c - a.c)[0];
  const meanChroma = counted.reduce((sum, { c, swatch }) => sum + c * swatch.share, 0) / total;
  const share = (isIn: (h: number) => boolean) =>
    coloured.reduce((sum, { h, swatch }) => sum + (isIn(h) ? swatch.share : 0), 0) / total;
  const values = swatches.map(valueOfOklab);
  const value = swatches.reduce((sum, one, index) => sum + values[index]! * one.share, 0) / total;
  return {
    spreadDeg: spreadOf(hues),
    dominant: bySize[0],
    accent:
      strongest && strongest.swatch.share < 0.2 * total && strongest.c > 2 * meanChroma
        ? strongest.swatch
        : undefined,
    fits: HARMONIES.flatMap((harmony) => {
      const offDeg = hues.length === 0 ? undefined : fitOf(hues, harmony);
      return offDeg === undefined || offDeg > MOST_OFF ? [] : [{ harmony, offDeg }];
    }).sort((a, b) => a.offDeg - b.offDeg),
    warm: share(isWarmHue),
    cool: share((h) => !isWarmHue(h)),
    value,
    contrast: values.length === 0 ? 0 : Math.max(...values) - Math.min(...values),
    key: keyOfValue(value),
  };
}

type Chromatic = Pick<Oklab, 'a' | 'b'>;

/** A part of the plane of hue and chroma: corners of the smallest convex one that holds the colours, in order around. */
export function gamutOf(colours: readonly Oklab[]): Chromatic[] {
  const points = colours.map(({ a, b }) => ({ a, b })).sort((one, two) => one.a - two.a || one.b - two.b);
  if (points.length < 3) return points;
  const cross = (o: Chromatic, p: Chromatic, q: Chromatic) =>
    (p.a - o.a) * (q.b - o.b) - (p.b - o.b) * (q.a - o.a);
  const half = (ordered: readonly Chromatic[]) => {
    const chain: Chromatic[] = [];
    for (const point of ordered) {
      while (chain.length >= 2 && cross(chain.at(-2)!, chain.at(-1)!, point) <= 0) chain.pop();
      chain.push(point);
    }
    return chain.slice(0, -1);
  };
  return [...half(points), ...half([...points].reverse())];
}

/** How far a colour lies outside a gamut, OKLab chroma; 0 within it. */
export function beyondGamut(gamut: readonly Chromatic[], { a, b }: Chromatic): number {
  if (gamut.length === 0) return Math.hypot(a, b);
  let isInside = gamut.length >= 3;
  let least = Number.POSITIVE_INFINITY;
  gamut.forEach((from, index) => {
    const to = gamut[(index + 1) % gamut.length]!;
    const along = { a: to.a - from.a, b: to.b - from.b };
    const length = along.a ** 2 + along.b ** 2;
    const part = length === 0 ? 0 : ((a - from.a) * along.a + (b - from.b) * along.b) / length;
    const at = Math.min(1, Math.max(0, part));
    least = Math.min(least, Math.hypot(a - from.a - along.a * at, b - from.b - along.b * at));
    if (along.a * (b - from.b) - along.b * (a - from.a) < -1e-12) isInside = false;
  });
  return isInside ? 0 : least;
}

/** A colour of OKLCH as OKLab, within what sRGB shows. */
export const shownLch = (l: number, c: number, h: number): Oklab => withinSrgb(oklchToOklab({ l, c, h }));
