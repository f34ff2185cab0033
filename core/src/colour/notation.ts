import { luminanceToMunsellValue } from './munsell-value.ts';
import { colourWords } from './names.ts';
import {
  hexOfRgb,
  isBeyondSrgb,
  labToLch,
  luminanceOf,
  oklabToOklch,
  type Rgb,
  rgbToHsl,
  rgbToHsv,
  rgbToLab,
  rgbToOklab,
} from './spaces.ts';

/** A way in which a colour is written. */
interface Notation {
  readonly words: string;
  /** Computed, not looked up; undefined where it must be asked for (see `CMYK`). */
  readonly write?: (colour: Rgb) => string;
}

const figure = (value: number, digits = 0): string => {
  const text = value.toFixed(digits);
  return Number(text) === 0 ? (0).toFixed(digits) : text;
};
const percent = (part: number): string => `${figure(part * 100)}%`;
const level = (part: number): string => figure(Math.min(1, Math.max(0, part)) * 255);

/** Munsell value, 0..10, of a colour. Source: ASTM D1535-14, equation 2. */
export const munsellValueOf = (colour: Rgb): number =>
  luminanceToMunsellValue(Math.max(0, luminanceOf(colour)) * 100);

/** A colour in sRGB where there is one, in OKLCH by CSS where sRGB cannot show it: nothing is cut off silently. */
const cssOf = (colour: Rgb): string => (isBeyondSrgb(colour) ? oklch(colour) : hexOfRgb(colour));

function oklch(colour: Rgb): string {
  const { l, c, h } = oklabToOklch(rgbToOklab(colour));
  return `oklch(${figure(l * 100, 1)}% ${figure(c, 3)} ${figure(h, 1)})`;
}

/** Every way to write a colour; those of CSS are valid in CSS. */
export const NOTATIONS = {
  hex: { words: 'hex', write: cssOf },
  rgb: { words: 'RGB', write: ({ r, g, b }) => `rgb(${level(r)} ${level(g)} ${level(b)})` },
  hsl: {
    words: 'HSL',
    write(colour) {
      const { h, s, l } = rgbToHsl(colour);
      return `hsl(${figure(h)} ${percent(s)} ${percent(l)})`;
    },
  },
  hsv: {
    words: 'HSV',
    write(colour) {
      const { h, s, v } = rgbToHsv(colour);
      return `${figure(h)}° ${percent(s)} ${percent(v)}`;
    },
  },
  lab: {
    words: 'CIELAB',
    write(colour) {
      const { l, a, b } = rgbToLab(colour);
      return `L* ${figure(l, 1)} a* ${figure(a, 1)} b* ${figure(b, 1)}`;
    },
  },
  lch: {
    words: 'LCh',
    write(colour) {
      const { l, c, h } = labToLch(rgbToLab(colour));
      return `L* ${figure(l, 1)} C* ${figure(c, 1)} h ${figure(h, 1)}°`;
    },
  },
  oklab: {
    words: 'OKLab',
    write(colour) {
      const { l, a, b } = rgbToOklab(colour);
      return `oklab(${figure(l * 100, 1)}% ${figure(a, 3)} ${figure(b, 3)})`;
    },
  },
  oklch: { words: 'OKLCH', write: oklch },
  cmyk: { words: 'CMYK' },
  value: { words: 'Munsell value', write: (colour) => `V ${figure(munsellValueOf(colour), 1)}` },
  name: { words: 'in words', write: (colour) => colourWords(rgbToOklab(colour)) },
} as const satisfies Readonly<Record<string, Notation>>;

export type NotationId = keyof typeof NOTATIONS;
export const NOTATION_IDS = Object.keys(NOTATIONS) as NotationId[];
export const isNotation = (value: unknown): value is NotationId => NOTATION_IDS.includes(value as NotationId);

/** A colour as it is written. @returns undefined for what only a profile on the server knows (CMYK) */
export function writeColour(colour: Rgb, notation: NotationId): string | undefined {
  const { write }: Notation = NOTATIONS[notation];
  return write?.(colour);
}

/** Four inks, each 0..1, as they are written. */
export const writeCmyk = (inks: readonly [number, number, number, number]): string =>
  `C ${percent(inks[0])} M ${percent(inks[1])} Y ${percent(inks[2])} K ${percent(inks[3])}`;
