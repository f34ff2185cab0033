import { type ColourDifference, directionWords, isBeyondSrgb, type Rgb } from '@miradero/core/colour';
import type { Reading } from './readings.ts';

/** A colour as the page paints it; what sRGB cannot show goes to the browser as it is. */
export const cssOf = ({ r, g, b }: Rgb): string =>
  `color(srgb ${r.toFixed(5)} ${g.toFixed(5)} ${b.toFixed(5)})`;

const signed = (value: number, digits: number): string => {
  const text = Math.abs(value).toFixed(digits);
  return Number(text) === 0 ? text : `${value < 0 ? '−' : '+'}${text}`;
};

/** How a second colour differs from a first, one figure a line. */
export function differenceLines(difference: ColourDifference): readonly (readonly [string, string])[] {
  const { deltaE, value, chroma, hueDeg, contrast } = difference;
  return [
    ['ΔE00', deltaE.toFixed(1)],
    ['value', signed(value, 1)],
    ['chroma', signed(chroma, 1)],
    ['hue', hueDeg === undefined ? 'grey' : `${signed(hueDeg, 0)}°`],
    ['contrast', `${contrast.toFixed(2)}:1`],
  ];
}

/** The same in a word or two: "warmer and lighter", "alike". */
export const differenceWords = (difference: ColourDifference): string =>
  directionWords(difference) ?? 'alike';

const figure = new Intl.NumberFormat('en');

/** Where a colour was read, in words. */
export function placeWords({ of, count }: Reading): string {
  if (!of) return 'from the screen';
  if (of.outline) return `drawn area · ${figure.format(count)} px`;
  const x = Math.floor(of.at.x * of.size.width + 1e-6);
  const y = Math.floor(of.at.y * of.size.height + 1e-6);
  return `${figure.format(x)}, ${figure.format(y)}${count > 1 ? ` · ${figure.format(count)} px` : ''}`;
}

const NOT_EXACT = {
  soon: 'From a smaller copy.',
  awaited: 'About: the exact pixels of this file are being made ready.',
  about: 'About: the file has finer or wider colours than a browser reads.',
} as const;

/** What has to be said of a reading beside its figures. */
export function caveats({ colour, exactness }: Reading): string[] {
  return [
    ...(isBeyondSrgb(colour) ? ['Beyond sRGB: the patch shows the nearest there is.'] : []),
    ...(exactness === 'exact' ? [] : [NOT_EXACT[exactness]]),
  ];
}
