import { encodedOf, hexOfRgb, linearOf, type Rgb, rgbOf8, rgbToOklab } from '../colour/index.ts';
import { type LightVector, vectorOf } from './direction.ts';
import { estimateLight, type LightEstimate, type Turned, turnedAs } from './estimate.ts';
import { type LightColours, type LightPart, NO_COLOURS } from './parts.ts';

/** What light makes of a form, as far as it can be told. */
export interface LightSuggestion {
  readonly colours: LightColours;
  /** Undefined where one light explains too little: nothing is claimed. */
  readonly estimate: LightEstimate | undefined;
}

/** Where a part of a form is looked for: by how much it is turned to the light (cosine), from, to. */
const TURNED: readonly (readonly [LightPart, from: number, to: number])[] = [
  ['light', 0.62, 1],
  ['half-tone', 0.16, 0.42],
  ['core shadow', -0.28, -0.02],
  ['reflected light', -1, -0.5],
];
/** Without a direction: which part of all pixels, lightest first, from, to. */
const BY_LIGHTNESS: readonly (readonly [LightPart, from: number, to: number])[] = [
  ['light', 0.04, 0.3],
  ['half-tone', 0.4, 0.6],
  ['core shadow', 0.8, 1],
];
/** The lightest part of a form counts as its highlight where it is lighter than its light by so much of OKLab's L. */
const HIGHLIGHT = { share: 0.015, least: 0.05 } as const;
/** A cast shadow is darker than what lies around by so much of OKLab's L. */
const CAST_LEAST = 0.06;
/** Fewer pixels are no part of a form. */
const LEAST_PIXELS = 6;

interface Pixels {
  readonly data: Uint8Array | Uint8ClampedArray;
  readonly width: number;
  readonly height: number;
}

function meanOf({ data }: Pixels, pixels: readonly number[]): Rgb {
  const sum = { r: 0, g: 0, b: 0 };
  for (const pixel of pixels) {
    const at = pixel * 4;
    const { r, g, b } = linearOf(rgbOf8(data[at]!, data[at + 1]!, data[at + 2]!));
    sum.r += r;
    sum.g += g;
    sum.b += b;
  }
  const count = pixels.length;
  return encodedOf({ r: sum.r / count, g: sum.g / count, b: sum.b / count });
}
const lightnessOf = (rgb: Rgb): number => rgbToOklab(rgb).l;
const colourAt = ({ data }: Pixels, pixel: number): Rgb =>
  rgbOf8(data[pixel * 4]!, data[pixel * 4 + 1]!, data[pixel * 4 + 2]!);

/** Pixels of a form, lightest first. */
const byLightness = ({ pixels, luminance }: Turned): number[] =>
  [...pixels.keys()].sort((one, other) => luminance[other]! - luminance[one]!).map((at) => pixels[at]!);

function highlightOf(block: Pixels, turned: Turned, light: Rgb | undefined): Rgb | undefined {
  const lightest = byLightness(turned);
  const count = Math.max(LEAST_PIXELS, Math.round(lightest.length * HIGHLIGHT.share));
  const colour = meanOf(block, lightest.slice(0, count));
  return light && lightnessOf(colour) - lightnessOf(light) >= HIGHLIGHT.least ? colour : undefined;
}

/** What lies beside a form on the side away from the light, and is darker than the rest around it. */
function castOf(block: Pixels, mask: Uint8Array, light: LightVector): Rgb | undefined {
  const { width, height, data } = block;
  let [x, y, count] = [0, 0, 0];
  for (let pixel = 0; pixel < mask.length; pixel += 1) {
    if (mask[pixel] === 0) continue;
    x += pixel % width;
    y += Math.floor(pixel / width);
    count += 1;
  }
  const [cx, cy] = [x / count, y / count];
  const every = Math.max(1, Math.floor(Math.sqrt((width * height) / 20_000)));
  const flat = Math.hypot(light[0], light[1]);
  const around: number[] = [];
  const away: number[] = [];
  for (let row = 0; row < height; row += every)
    for (let column = 0; column < width; column += every) {
      const pixel = row * width + column;
      if (mask[pixel] !== 0 || data[pixel * 4 + 3]! < 128) continue;
      around.push(pixel);
      const [dx, dy] = [column - cx, row - cy];
      const cosine = flat < 0.1 ? 1 : -(dx * light[0] + dy * light[1]) / (flat * Math.hypot(dx, dy));
      if (cosine > 0.5) away.push(pixel);
    }
  if (away.length < LEAST_PIXELS) return undefined;
  const dark = away
    .map((pixel) => [pixel, lightnessOf(colourAt(block, pixel))] as const)
    .sort(([, one], [, other]) => one - other)
    .slice(0, Math.max(LEAST_PIXELS, Math.round(away.length / 5)));
  const usual = around.map((pixel) => lightnessOf(colourAt(block, pixel))).sort((a, b) => a - b);
  const colour = meanOf(
    block,
    dark.map(([pixel]) => pixel),
  );
  return usual[usual.length >> 1]! - lightnessOf(colour) >= CAST_LEAST ? colour : undefined;
}

/**
 * Suggests what light makes of a form that was drawn around: its colours in light and shadow, and where the light comes
 * from. The form is taken for a ball; where it is lit like none, no direction is claimed and its parts go by lightness.
 *
 * @param block - RGBA, sRGB: the form and what lies around it
 * @param mask - a byte a pixel: 0 for what is not the form
 * @returns undefined where there is too little of it
 */
export function suggestLight(block: Pixels, mask: Uint8Array): LightSuggestion | undefined {
  const turned = turnedAs(block.data, mask, block.width);
  if (!turned) return undefined;
  const estimate = estimateLight(turned);
  const light = estimate && vectorOf(estimate);
  const found: Partial<Record<LightPart, Rgb>> = {};
  if (light) {
    const { normals, pixels } = turned;
    for (const [part, from, to] of TURNED) {
      const within = [...pixels.keys()].filter((at) => {
        const cosine =
          normals[at * 3]! * light[0] + normals[at * 3 + 1]! * light[1] + normals[at * 3 + 2]! * light[2];
        return cosine >= from && cosine <= to;
      });
      if (within.length >= LEAST_PIXELS)
        found[part] = meanOf(
          block,
          within.map((at) => pixels[at]!),
        );
    }
    const cast = castOf(block, mask, light);
    if (cast) found['cast shadow'] = cast;
  } else {
    const lightest = byLightness(turned);
    for (const [part, from, to] of BY_LIGHTNESS)
      found[part] = meanOf(
        block,
        lightest.slice(Math.floor(from * lightest.length), Math.ceil(to * lightest.length)),
      );
  }
  const highlight = highlightOf(block, turned, found.light);
  if (highlight) found.highlight = highlight;
  const hexes = Object.fromEntries(Object.entries(found).map(([part, rgb]) => [part, hexOfRgb(rgb)]));
  return { colours: { ...NO_COLOURS, ...hexes }, estimate };
}
