import type { Affine } from './affine.ts';
import type { Point } from './point.ts';
import { centreOf, type Rectangle } from './rectangle.ts';

/** Where a view looks: the board point in the middle of the viewport and CSS pixels per board unit. */
export interface Camera {
  readonly centre: Point;
  readonly scale: number;
}

/** CSS pixels; both sides > 0. */
export interface Viewport {
  readonly width: number;
  readonly height: number;
}

/** 1 % shows a board a hundred screens wide; 3,200 % shows single pixels of a picture as squares. */
export const MIN_SCALE = 0.01;
export const MAX_SCALE = 32;

export const clampScale = (scale: number): number => Math.min(MAX_SCALE, Math.max(MIN_SCALE, scale));

export const boardToScreen = (camera: Camera, viewport: Viewport, pointBoard: Point): Point => ({
  x: (pointBoard.x - camera.centre.x) * camera.scale + viewport.width / 2,
  y: (pointBoard.y - camera.centre.y) * camera.scale + viewport.height / 2,
});

export const screenToBoard = (camera: Camera, viewport: Viewport, pointPx: Point): Point => ({
  x: (pointPx.x - viewport.width / 2) / camera.scale + camera.centre.x,
  y: (pointPx.y - viewport.height / 2) / camera.scale + camera.centre.y,
});

export const boardToScreenAffine = (camera: Camera, viewport: Viewport): Affine => [
  camera.scale,
  0,
  0,
  camera.scale,
  viewport.width / 2 - camera.centre.x * camera.scale,
  viewport.height / 2 - camera.centre.y * camera.scale,
];

/** The part of the board in view, board units. */
export const viewOf = (camera: Camera, viewport: Viewport): Rectangle => ({
  x: camera.centre.x - viewport.width / 2 / camera.scale,
  y: camera.centre.y - viewport.height / 2 / camera.scale,
  width: viewport.width / camera.scale,
  height: viewport.height / camera.scale,
});

/** Zooms by `factor` so that the board point under `pointPx` stays under it; the scale is kept within its limits. */
export function zoomAt(camera: Camera, viewport: Viewport, pointPx: Point, factor: number): Camera {
  const scale = clampScale(camera.scale * factor);
  const held = screenToBoard(camera, viewport, pointPx);
  return {
    scale,
    centre: {
      x: held.x - (pointPx.x - viewport.width / 2) / scale,
      y: held.y - (pointPx.y - viewport.height / 2) / scale,
    },
  };
}

/** Moves the view so that the board follows the hand by `deltaPx`. */
export const panBy = (camera: Camera, deltaPx: Point): Camera => ({
  scale: camera.scale,
  centre: {
    x: camera.centre.x - deltaPx.x / camera.scale,
    y: camera.centre.y - deltaPx.y / camera.scale,
  },
});

/**
 * Returns the camera that shows `rectangle` whole, centred, with `marginPx` of space around it.
 *
 * @param rectangle - board units, both sides > 0
 * @throws RangeError if the rectangle or the viewport is empty
 */
export function cameraShowing(rectangle: Rectangle, viewport: Viewport, marginPx = 0): Camera {
  if (!(rectangle.width > 0 && rectangle.height > 0)) {
    throw new RangeError(`cannot show an empty rectangle: ${rectangle.width} × ${rectangle.height}`);
  }
  if (!(viewport.width > 0 && viewport.height > 0)) {
    throw new RangeError(`cannot show in an empty viewport: ${viewport.width} × ${viewport.height}`);
  }
  const width = Math.max(1, viewport.width - 2 * marginPx);
  const height = Math.max(1, viewport.height - 2 * marginPx);
  return {
    centre: centreOf(rectangle),
    scale: clampScale(Math.min(width / rectangle.width, height / rectangle.height)),
  };
}
