import type { Camera, Rectangle, Viewport } from '@miradero/core/geometry';

/** How a view begins, and what its whole is. */
export interface ViewStart {
  /** Where to look first; undefined shows the whole. */
  readonly camera?: Camera | undefined;
  /** Space around the whole, CSS pixels. */
  readonly marginPx?: number;
  /** The part of the board that is the whole of it for this view; undefined: everything that stands. */
  readonly home?: (room: Viewport) => Rectangle | undefined;
}

/** Where a view looks, and how large it is. */
export interface Look {
  readonly camera: Camera;
  /** CSS pixels. */
  readonly viewport: Viewport;
}
