import type { Rectangle } from '@miradero/core/geometry';
import type { ViewNow } from './buffer.ts';

/** What alters is drawn with a rim around it, device pixels: edges are smoothed. */
const RIM_PX = 2;

/** The device pixels of a view in which a part of the board lies, with a rim; whole ones. @param part - board units */
export function pixelsAround(part: Rectangle, { view, scale }: Pick<ViewNow, 'view' | 'scale'>): Rectangle {
  const x = Math.floor((part.x - view.x) * scale) - RIM_PX;
  const y = Math.floor((part.y - view.y) * scale) - RIM_PX;
  const right = Math.ceil((part.x + part.width - view.x) * scale) + RIM_PX;
  const bottom = Math.ceil((part.y + part.height - view.y) * scale) + RIM_PX;
  return { x, y, width: right - x, height: bottom - y };
}

/** From now on nothing beyond a part of a canvas is drawn on. @param part - its device pixels */
export function clipTo(context: CanvasRenderingContext2D, { x, y, width, height }: Rectangle): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.beginPath();
  context.rect(x, y, width, height);
  context.clip();
}

/**
 * What lies around a hole, as strips above, below, left and right of it; whole device pixels.
 *
 * @param hole - CSS pixels
 */
export function around(all: Rectangle, hole: Rectangle, ratio: number): Rectangle[] {
  const left = Math.max(0, Math.ceil(hole.x * ratio));
  const top = Math.max(0, Math.ceil(hole.y * ratio));
  const right = Math.min(all.width, Math.floor((hole.x + hole.width) * ratio));
  const bottom = Math.min(all.height, Math.floor((hole.y + hole.height) * ratio));
  if (right <= left || bottom <= top) return [all];
  return [
    { x: 0, y: 0, width: all.width, height: top },
    { x: 0, y: bottom, width: all.width, height: all.height - bottom },
    { x: 0, y: top, width: left, height: bottom - top },
    { x: right, y: top, width: all.width - right, height: bottom - top },
  ].filter(({ width, height }) => width > 0 && height > 0);
}
