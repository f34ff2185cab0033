import { type ColourDifference, compareColours } from './compare-colours.ts';
import { hueBetween } from './difference.ts';
import { munsellValueToLuminance } from './munsell-value.ts';
import { munsellValueOf } from './notation.ts';
import { labToLch, labToRgb, lchToLab, type Rgb, rgbOfHex, rgbToLab, xyzToLab } from './spaces.ts';

/** A colour as it is set by eye: Munsell value 0..10, chroma and hue (degrees) of CIELAB. */
export interface GuessedColour {
  readonly value: number;
  readonly chroma: number;
  readonly hueDeg: number;
}

/** Chroma that sliders reach: what sRGB has of it but for its corners. */
export const MOST_CHROMA = 110;

/** The colour that is set; what sRGB cannot show is cut off where it is shown. */
export function colourOfGuess({ value, chroma, hueDeg }: GuessedColour): Rgb {
  const y = munsellValueToLuminance(value) / 100;
  // Of a grey so light: its L* is that of every colour of this luminance.
  const { l } = xyzToLab({ x: y, y, z: y });
  const { r, g, b } = labToRgb(lchToLab({ l, c: chroma, h: hueDeg }));
  const cut = (part: number) => Math.min(1, Math.max(0, part));
  return { r: cut(r), g: cut(g), b: cut(b) };
}

/** How a colour would be set. */
export function guessOfColour(colour: Rgb): GuessedColour {
  const { c, h } = labToLch(rgbToLab(colour));
  return { value: munsellValueOf(colour), chroma: c, hueDeg: h };
}

/** One guess with what it was: how far off, and how the guess differs from the truth. */
export interface GuessError extends ColourDifference {
  readonly truth: GuessedColour;
}

/** @param truth - `#rrggbb` @param guess - `#rrggbb` */
export function errorOfGuess(truth: string, guess: string): GuessError {
  const [was, seen] = [rgbOfHex(truth), rgbOfHex(guess)];
  return { ...compareColours(was, seen), truth: guessOfColour(was) };
}

/** Errors that belong together: of hues, or of values, that are alike. */
export interface ErrorGroup {
  /** Middle of its hues (degrees) or of its values. */
  readonly at: number;
  readonly count: number;
  /** Means: how far off, and by how much too light (value) or turned (hue, degrees; undefined where all were grey). */
  readonly deltaE: number;
  readonly value: number;
  readonly hueDeg: number | undefined;
}

const mean = (all: readonly number[]): number => all.reduce((sum, one) => sum + one, 0) / all.length;

function groupOf(at: number, errors: readonly GuessError[]): ErrorGroup {
  const turned = errors.flatMap(({ hueDeg }) => hueDeg ?? []);
  return {
    ...{ at, count: errors.length },
    ...{ deltaE: mean(errors.map(({ deltaE }) => deltaE)), value: mean(errors.map(({ value }) => value)) },
    hueDeg: turned.length === 0 ? undefined : mean(turned),
  };
}

/** Less chroma is no hue to be judged by. */
const GREY = 4;
const HUE_GROUPS = 8;
const VALUE_GROUPS = 5;

/** Errors by the hue of what was guessed, an eighth of the circle each; greys belong to none. */
export function errorsByHue(errors: readonly GuessError[]): ErrorGroup[] {
  const width = 360 / HUE_GROUPS;
  return Array.from({ length: HUE_GROUPS }, (_, index) => index * width).flatMap((at) => {
    const within = errors.filter(
      ({ truth }) => truth.chroma >= GREY && Math.abs(hueBetween(at, truth.hueDeg)) <= width / 2,
    );
    return within.length === 0 ? [] : [groupOf(at, within)];
  });
}

/** Errors by the value of what was guessed, two steps each. */
export function errorsByValue(errors: readonly GuessError[]): ErrorGroup[] {
  const width = 10 / VALUE_GROUPS;
  return Array.from({ length: VALUE_GROUPS }, (_, index) => index).flatMap((index) => {
    const within = errors.filter(
      ({ truth }) => Math.min(VALUE_GROUPS - 1, Math.floor(truth.value / width)) === index,
    );
    return within.length === 0 ? [] : [groupOf((index + 0.5) * width, within)];
  });
}
