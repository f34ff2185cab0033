import type { Rectangle } from '@miradero/core/geometry';
import { type LaidLens, type Lens, lensOf } from '@miradero/core/lens';

/** A painted part of the board. */
export interface Buffer {
  readonly bitmap: ImageBitmap;
  readonly view: Rectangle;
  readonly scale: number;
  readonly version: number;
  readonly staleness: number;
  readonly isSharp: boolean;
  readonly isComplete: boolean;
  readonly isAwaiting: boolean;
  readonly except: readonly string[];
  /** Through what it was painted. */
  readonly lenses: readonly LaidLens[];
  /** Parts painted again since, in pixels of the bitmap; later ones lie above. */
  readonly patches: readonly { readonly bitmap: ImageBitmap; readonly x: number; readonly y: number }[];
}

/** What a view shows right now. */
export interface ViewNow {
  readonly view: Rectangle;
  /** Device pixels per board unit. */
  readonly scale: number;
  readonly ground: string;
  /** What is looked through; the same array until that alters. Lengths are CSS pixels. */
  readonly lenses: readonly LaidLens[];
  /** Device pixels per CSS pixel. */
  readonly ratio: number;
}

/** What one drawn frame showed, for those who measure. */
export interface FrameReport {
  /** Share of the view, 0..1, that holds something of the board and was shown by no buffer. */
  readonly unpaintedShare: number;
  /** Time since the front buffer was last painted, milliseconds. */
  readonly bufferAgeMs: number;
}

export const NO_LENSES: readonly LaidLens[] = [];

/** Scales that differ by rounding alone. */
export const isNear = (a: number, b: number) => Math.abs(a / b - 1) < 1e-6;

/** Where a view lies in a buffer, whole pixels of it. */
export const partOf = ({ view, scale }: Buffer, of: Rectangle): Rectangle => ({
  x: Math.round((of.x - view.x) * scale),
  y: Math.round((of.y - view.y) * scale),
  width: Math.round(of.width * scale),
  height: Math.round(of.height * scale),
});

/** Frees the pixels of a buffer at once instead of at the next collection. */
export function discard(buffer: Buffer | undefined): void {
  buffer?.bitmap.close();
  for (const patch of buffer?.patches ?? []) patch.bitmap.close();
}

/** Draws a buffer where the view has it now. */
export function drawBuffer(context: CanvasRenderingContext2D, buffer: Buffer, now: ViewNow): void {
  const factor = now.scale / buffer.scale;
  const x = (buffer.view.x - now.view.x) * now.scale;
  const y = (buffer.view.y - now.view.y) * now.scale;
  // At its own scale a buffer lies on whole pixels, or it would be blurred.
  if (isNear(factor, 1)) context.setTransform(1, 0, 0, 1, Math.round(x), Math.round(y));
  else context.setTransform(factor, 0, 0, factor, x, y);
  context.drawImage(buffer.bitmap, 0, 0);
  for (const patch of buffer.patches) context.drawImage(patch.bitmap, patch.x, patch.y);
  context.setTransform(1, 0, 0, 1, 0, 0);
}

/** Whether what was seen through nothing can be seen through lenses by its pixels alone. */
export const isOfPixels = (before: readonly LaidLens[], now: readonly LaidLens[]): boolean =>
  before.length === 0 &&
  now.length > 0 &&
  now.every(({ lens, on }) => {
    const { seesPixels, mirrors }: Lens = lensOf(lens);
    return on === null && seesPixels === true && !mirrors;
  });
