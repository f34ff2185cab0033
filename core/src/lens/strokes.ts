import { type Point, simplerLine } from '../geometry/index.ts';
import type { Pixels } from './pixels.ts';
import { blurPlane, lightnessOf, meansOf } from './planes.ts';

/** A line of a form's outline, and how much it says: its length by how strongly it parts what lies beside it. */
export interface Stroke {
  readonly points: readonly Point[];
  readonly weight: number;
}

export interface StrokesWish {
  /** What is finer than this is left out, pixels. */
  readonly detailPx: number;
  /** No more than so many, the most telling first. */
  readonly most: number;
  /** How far a line may move to be simpler, pixels. */
  readonly tolerancePx: number;
}

/** A slope of lightness that begins a line, and one that still goes on with it, of 0..1 a pixel before blurring. */
const BEGINS = 0.05;
const GOES_ON = 0.02;
/** Shorter lines are specks, of the longest side. */
const LEAST_LENGTH = 0.02;
const PASSES = 2;
/** A detail is told by so many pixels. */
const FINE_ENOUGH = 5;
/** Tangent of three sixteenths of a turn. */
const STEEP = 1 + Math.SQRT2;

/** Slopes where they are steepest across their line, 0 elsewhere. Source: J. Canny, "A computational approach to edge detection", 1986. */
function ridges(light: Float32Array, width: number, height: number): Float32Array {
  const size = new Float32Array(light.length);
  const way = new Uint8Array(light.length);
  for (let y = 1; y < height - 1; y += 1)
    for (let x = 1; x < width - 1; x += 1) {
      const at = y * width + x;
      const gx =
        light[at - width + 1]! +
        2 * light[at + 1]! +
        light[at + width + 1]! -
        (light[at - width - 1]! + 2 * light[at - 1]! + light[at + width - 1]!);
      const gy =
        light[at + width - 1]! +
        2 * light[at + width]! +
        light[at + width + 1]! -
        (light[at - width - 1]! + 2 * light[at - width]! + light[at - width + 1]!);
      size[at] = Math.sqrt(gx * gx + gy * gy) / 8;
      // In eighths of a turn: to the right, down right, down, down left.
      const across = Math.abs(gx);
      const down = Math.abs(gy);
      way[at] = across > STEEP * down ? 0 : down > STEEP * across ? 2 : gx > 0 === gy > 0 ? 1 : 3;
    }
  const besides = [1, width + 1, width, width - 1];
  const thin = new Float32Array(light.length);
  for (let at = width + 1; at < light.length - width - 1; at += 1) {
    const beside = besides[way[at]!]!;
    // Of two that are as steep the first is the line.
    if (size[at]! > 0 && size[at]! >= size[at - beside]! && size[at]! > size[at + beside]!)
      thin[at] = size[at]!;
  }
  return thin;
}

/** The lines of the main forms, the most telling first. */
export function strokesOf(pixels: Pixels, { detailPx, most, tolerancePx }: StrokesWish): Stroke[] {
  // What is finer than the detail is left out: it is looked for in so many fewer pixels.
  const every = Math.max(1, Math.floor(detailPx / FINE_ENOUGH));
  const { width, height, planes } = meansOf([lightnessOf(pixels)], pixels, every);
  const light = planes[0]!;
  const radius = Math.max(1, Math.round(detailPx / every / PASSES));
  blurPlane(light, width, height, radius, PASSES);
  // Blurred, an edge is as much less steep as it is wider.
  const gain = 1 + radius * 1.2;
  const slope = ridges(light, width, height).map((one) => one * gain);
  const left = Uint8Array.from(slope, (one) => (one >= GOES_ON ? 1 : 0));
  const around = [1, -1, width, -width, width + 1, width - 1, -width + 1, -width - 1];
  /** Goes on from a place as long as there is a line. */
  const follow = (start: number): number[] => {
    const found: number[] = [];
    for (let at: number | undefined = start; at !== undefined; ) {
      let next: number | undefined;
      for (const by of around) {
        const to: number = at + by;
        if (left[to] === 1 && (next === undefined || slope[to]! > slope[next]!)) next = to;
      }
      if (next !== undefined) {
        left[next] = 0;
        found.push(next);
      }
      at = next;
    }
    return found;
  };
  const strokes: Stroke[] = [];
  const least = LEAST_LENGTH * Math.max(width, height);
  for (let start = 0; start < slope.length; start += 1) {
    if (left[start] !== 1 || slope[start]! < BEGINS) continue;
    left[start] = 0;
    const there = follow(start);
    const back = follow(start).reverse();
    const places = [...back, start, ...there];
    if (places.length < least) continue;
    const points = places.map((at) => ({
      x: ((at % width) + 0.5) * every,
      y: (Math.floor(at / width) + 0.5) * every,
    }));
    const weight = places.reduce((sum, at) => sum + slope[at]!, 0) * every;
    strokes.push({ points: simplerLine(points, tolerancePx), weight });
  }
  return strokes.sort((one, other) => other.weight - one.weight).slice(0, most);
}

const format = (value: number): string => String(Math.round(value * 10) / 10);

/** Lines as a drawing: round ends, one width, nothing filled. @param lineWidth - pixels */
export function strokesToSvg(
  strokes: readonly Stroke[],
  { width, height }: { readonly width: number; readonly height: number },
  lineWidth: number,
): string {
  const paths = strokes.map(
    ({ points }) => `  <path d="M${points.map(({ x, y }) => `${format(x)} ${format(y)}`).join('L')}"/>`,
  );
  const style = `fill="none" stroke="#1d1d1b" stroke-width="${format(lineWidth)}" stroke-linecap="round" stroke-linejoin="round"`;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">\n <g ${style}>\n${paths.join('\n')}\n </g>\n</svg>\n`;
}
