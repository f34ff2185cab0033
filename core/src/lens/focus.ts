import type { Pixels } from './pixels.ts';
import { blurPlane, type CoarseMap, lightnessOf, meansOf, samplerOf } from './planes.ts';

/** What of the quiet parts is left. */
const LEFT = 0.14;
const GROUND = 121;
/** So high a share of all places is as loud as the loudest. */
const LOUD = 0.995;

/** A reach is told by no more squares than this. */
const SQUARES = 4;

/** How strong the contrast about each place is: the spread of lightness there, 0..1. @param reachPx - how far about */
function contrastAbout(pixels: Pixels, reachPx: number): CoarseMap {
  const light = lightnessOf(pixels);
  const every = Math.max(1, Math.floor(reachPx / SQUARES));
  const { width, height, planes } = meansOf([light, light.map((one) => one * one)], pixels, every);
  const [mean, squares] = planes as [Float32Array, Float32Array];
  const radius = Math.max(1, Math.round(reachPx / every));
  for (const plane of [mean, squares]) blurPlane(plane, width, height, radius, 2);
  const data = mean.map((one, at) => Math.sqrt(Math.max(0, squares[at]! - one * one)));
  return { width, height, every, data };
}

/** Where the strongest contrast sits: its middle (fractions 0..1), and how strong it is, as spread of lightness. */
export function strongestContrast(
  pixels: Pixels,
  reachPx: number,
): { readonly x: number; readonly y: number; readonly spread: number } {
  const { width, every, data } = contrastAbout(pixels, reachPx);
  let best = 0;
  for (let at = 1; at < data.length; at += 1) if (data[at]! > data[best]!) best = at;
  return {
    x: Math.min(1, (((best % width) + 0.5) * every) / pixels.width),
    y: Math.min(1, ((Math.floor(best / width) + 0.5) * every) / pixels.height),
    spread: data[best] ?? 0,
  };
}

/** Leaves what is rich in contrast as it is, and lets what is quiet sink into grey. @param reachPx - how far about a place counts */
export function seeFocus(pixels: Pixels, reachPx: number): void {
  const { data } = pixels;
  const contrast = contrastAbout(pixels, reachPx);
  const sorted = contrast.data.slice().sort();
  const loud = Math.max(0.02, sorted[Math.floor(LOUD * (sorted.length - 1))] ?? 0);
  const left = contrast.data.map((one) => LEFT + (1 - LEFT) * Math.min(1, one / loud) ** 2);
  const sample = samplerOf({ ...contrast, data: left });
  for (let y = 0, at = 0; y < pixels.height; y += 1)
    for (let x = 0; x < pixels.width; x += 1, at += 4) {
      const of = sample(x, y);
      data[at] = GROUND + (data[at]! - GROUND) * of;
      data[at + 1] = GROUND + (data[at + 1]! - GROUND) * of;
      data[at + 2] = GROUND + (data[at + 2]! - GROUND) * of;
    }
}
