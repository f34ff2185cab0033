import {
  encodedOf,
  isBeyondSrgb,
  LINEAR_OF_LEVEL as LINEAR,
  luminanceOf,
  luminanceOfLinear,
  luminanceToMunsellValue,
  munsellValueToGrey8,
  munsellValueToLuminance,
  oklabToRgb,
  oklchToOklab,
  type Rgb,
  rgbOf8,
  rgbToOklab,
} from '../colour/index.ts';
import { containsRectangle, overlaps, type Rectangle, unionOf } from '../geometry/index.ts';

/** How the ground of a study is toned: by the reference's mean colour, its mean value, or that value in a warm or a cool hue. */
export const GROUND_TONES = ['mean', 'value', 'warm', 'cool'] as const;
export type GroundTone = (typeof GROUND_TONES)[number];

/** sRGB, 0..255. */
export type Rgb8 = readonly [number, number, number];

/** Hues of OKLCh in which grounds are toned, degrees, and their chroma: that of thinned earths and of a blue black. */
const HUES = { warm: { hue: 60, chroma: 0.07 }, cool: { hue: 250, chroma: 0.05 } } as const;

const bytesOf = ({ r, g, b }: Rgb): Rgb8 => {
  const byte = (value: number) => Math.min(255, Math.max(0, Math.round(255 * value)));
  return [byte(r), byte(g), byte(b)];
};

/** A colour as light as a grey, in a hue; where sRGB has none of that chroma, in less. */
function tinted(grey: Rgb, { hue, chroma }: { readonly hue: number; readonly chroma: number }): Rgb8 {
  const { l } = rgbToOklab(grey);
  for (let c = chroma; c > 0; c -= chroma / 20) {
    const rgb = oklabToRgb(oklchToOklab({ l, c, h: hue }));
    if (!isBeyondSrgb(rgb)) return bytesOf(rgb);
  }
  return bytesOf(grey);
}

const greyOf = (value: number): Rgb => {
  const level = munsellValueToGrey8(value);
  return rgbOf8(level, level, level);
};

/** Mean of what is seen, in linear light. @param data - RGBA, straight alpha; what is clear counts for as little */
function meanOf(data: Uint8ClampedArray): Rgb {
  let [red, green, blue, weight] = [0, 0, 0, 0];
  for (let at = 0; at < data.length; at += 4) {
    const alpha = data[at + 3]! / 255;
    if (alpha === 0) continue;
    red += LINEAR[data[at]!]! * alpha;
    green += LINEAR[data[at + 1]!]! * alpha;
    blue += LINEAR[data[at + 2]!]! * alpha;
    weight += alpha;
  }
  if (weight === 0) return { r: 1, g: 1, b: 1 };
  return encodedOf({ r: red / weight, g: green / weight, b: blue / weight });
}

/**
 * The colour of a toned ground.
 *
 * @param data - the reference: RGBA, straight alpha, 8 bits, sRGB; white where there is nothing
 */
export function groundFor(data: Uint8ClampedArray, tone: GroundTone): Rgb8 {
  const mean = meanOf(data);
  if (tone === 'mean') return bytesOf(mean);
  const value = luminanceToMunsellValue(100 * luminanceOf(mean));
  if (tone === 'value') return bytesOf(greyOf(Math.round(value)));
  return tinted(greyOf(value), HUES[tone]);
}

/**
 * A picture painted under, in few values of one hue.
 *
 * @param data - RGBA, straight alpha, 8 bits, sRGB
 * @param steps - values from black to white, at least 2
 * @returns as long as `data`; what is clear stays clear
 * @throws RangeError for fewer steps
 */
export function underpainted(
  data: Uint8ClampedArray,
  tone: 'warm' | 'cool',
  steps: number,
): Uint8ClampedArray<ArrayBuffer> {
  if (!(steps >= 2)) throw new RangeError(`${steps} values are no underpainting`);
  const colours = Array.from({ length: steps }, (_, step) =>
    tinted(greyOf((10 * step) / (steps - 1)), HUES[tone]),
  );
  /** Luminance from which on each value but the darkest begins, percent: halfway to the one below. */
  const borders = colours
    .slice(1)
    .map((_, step) => munsellValueToLuminance((10 * (step + 0.5)) / (steps - 1)));
  const out = new Uint8ClampedArray(data.length);
  for (let at = 0; at < data.length; at += 4) {
    const luminance =
      100 * luminanceOfLinear(LINEAR[data[at]!]!, LINEAR[data[at + 1]!]!, LINEAR[data[at + 2]!]!);
    let step = 0;
    while (step < borders.length && luminance >= borders[step]!) step += 1;
    const [red, green, blue] = colours[step]!;
    out[at] = red;
    out[at + 1] = green;
    out[at + 2] = blue;
    out[at + 3] = data[at + 3]!;
  }
  return out;
}

/** Space between a reference and its study, of the reference's width. */
const GAP = 0.04;

/** So many places are tried on each side. */
const MOST_TRIED = 12;

/**
 * Where a study of a reference is painted: beside it, as large, where nothing else stands; on its right rather than on its
 * left, below or above it.
 *
 * @param reference - any unit
 * @param others - what stands there beside it; what the reference lies in, a bay or a sheet, hinders nothing
 */
export function studyFrame(reference: Rectangle, others: readonly Rectangle[]): Rectangle {
  const { x, y, width, height } = reference;
  const gap = GAP * width;
  const hindering = others.filter((other) => !containsRectangle(other, reference));
  const at = (right: number, down: number): Rectangle => ({
    ...{ x: x + right * (width + gap), y: y + down * (height + gap) },
    ...{ width, height },
  });
  for (let away = 1; away <= MOST_TRIED; away += 1)
    for (const frame of [at(away, 0), at(-away, 0), at(0, away), at(0, -away)])
      if (!hindering.some((other) => overlaps(frame, other))) return frame;
  const all = unionOf([reference, ...hindering])!;
  return { x: all.x + all.width + gap, y, width, height };
}
