import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  compose,
  invertAffine,
  type Point,
  type Rectangle,
  scaling,
  translation,
} from '../geometry/index.ts';
import { placedByPoints } from './placing.ts';
import type { Size } from './sheet.ts';

/** A press is not exact: a turn of less than this is none, degrees. */
const UPRIGHT_DEG = 2;
/** Sides that were found are off by a pixel: stretched by less than this share a sheet is not. */
const STRETCHED = 0.02;
/** Marked smaller than this, pixels, it says nothing. */
const LEAST_PX = 8;

/**
 * Where a sheet lies in a capture by corners of it that were marked there: upper left, lower right and, where it is mirrored or
 * stretched, upper right. Two that lie across as those of an upright sheet do, whichever came first, mark an upright one.
 *
 * @param sheet - trimmed pixels of the sheet
 * @param corners - pixels of the capture, two or three
 * @returns pixels of the sheet → pixels of the capture; undefined where the corners do not say
 */
export function markedSheet({ width, height }: Size, corners: readonly Point[]): Affine | undefined {
  const [first, second, third] = corners;
  if (!first || !second || Math.hypot(second.x - first.x, second.y - first.y) < LEAST_PX) return undefined;
  const [origin, across, right] = [
    { x: 0, y: 0 },
    { x: width, y: height },
    { x: width, y: 0 },
  ];
  if (third) return placedByPoints([origin, across, right], [first, second, third]);
  const angle = Math.atan2(second.y - first.y, second.x - first.x) - Math.atan2(height, width);
  const turnDeg = (angle * 180) / Math.PI;
  // Pressed the other way round it is the same upright sheet.
  const beyond = Math.abs(turnDeg - 180 * Math.round(turnDeg / 180));
  if (beyond > UPRIGHT_DEG) return placedByPoints([origin, across], [first, second]);
  const { x, y, width: span } = boundsOfPoints([first, second]);
  const scale = span / width;
  return [scale, 0, 0, scale, x, y];
}

/** A capture turned so that a sheet in it lies upright. */
export interface Straightened {
  /** Pixels of the capture → pixels of what it is turned into. */
  readonly toUpright: Affine;
  /** All of the capture is within it, whole pixels. */
  readonly size: Size;
  /** Where the sheet lies there, as large as in the capture along its upper edge. */
  readonly rectangle: Rectangle;
}

/**
 * Turns a capture, and mirrors or stretches it, so that a sheet in it lies upright; one that does stays as it is.
 *
 * @param capture - its pixels
 * @param sheet - trimmed pixels of the sheet
 * @param placed - pixels of the sheet → pixels of the capture
 */
export function straightened(capture: Size, sheet: Size, placed: Affine): Straightened {
  const [a, b, c, d, e, f] = placed;
  if (b === 0 && c === 0 && a > 0 && Math.abs(d / a - 1) < STRETCHED) {
    const rectangle = { x: e, y: f, width: a * sheet.width, height: d * sheet.height };
    const size = { width: capture.width, height: capture.height };
    return { toUpright: [1, 0, 0, 1, 0, 0], size, rectangle };
  }
  const scale = Math.hypot(a, b);
  const turned = compose(scaling(scale, scale), invertAffine(placed));
  const bounds = boundsOfPoints(
    [0, capture.width].flatMap((x) => [0, capture.height].map((y) => applyAffine(turned, { x, y }))),
  );
  return {
    toUpright: compose(translation(-bounds.x, -bounds.y), turned),
    size: { width: Math.ceil(bounds.width), height: Math.ceil(bounds.height) },
    rectangle: { x: -bounds.x, y: -bounds.y, width: sheet.width * scale, height: sheet.height * scale },
  };
}
