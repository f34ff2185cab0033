import { frameMatrix } from '@miradero/core/board';
import { type Affine, compose, type Rectangle } from '@miradero/core/geometry';
import { heightOf, isMultiplied, outlinePolygon, type Placement, pictureToFrame } from '@miradero/core/items';
import type { ViewOfMoving } from '../stage/index.ts';
import { drawBelow } from './below.ts';

/** An image as it is drawn in place of a picture. */
export interface DrawnImage {
  readonly image: ImageBitmap | HTMLCanvasElement;
  /** 0..1, of the placement's own. */
  readonly opacity: number;
  /** Which part of the picture it is, in parts of the whole; by default all. */
  readonly place?: Rectangle;
}

/** A picture is drawn so far over its edges, CSS pixels. */
const RIM_PX = 0.75;

/**
 * Draws images in place of a picture where it stands, one over the other, cut off where it is trimmed.
 *
 * @param isClear - they let something through
 */
export function drawOver(
  context: CanvasRenderingContext2D,
  seen: ViewOfMoving,
  item: Placement,
  images: readonly DrawnImage[],
  isClear = false,
): void {
  const { scale } = seen.camera;
  const { x, y } = seen.view;
  const toView: Affine = [scale, 0, 0, scale, -x * scale, -y * scale];
  context.save();
  const before = context.getTransform();
  context.transform(...compose(toView, frameMatrix(item)));
  // What was painted before reaches into the pixels of the rim: nothing of it is left to be seen there.
  const rim = { x: RIM_PX / (item.width * scale), y: RIM_PX / (heightOf(item) * scale) };
  context.beginPath();
  const { outline } = item.trim;
  if (outline) for (const corner of outlinePolygon(outline)) context.lineTo(corner.x, corner.y);
  else context.rect(-rim.x, -rim.y, 1 + 2 * rim.x, 1 + 2 * rim.y);
  context.clip('evenodd');
  const onFrame = context.getTransform();
  context.setTransform(before);
  drawBelow(context, seen, item, isClear);
  context.setTransform(onFrame);
  if (isMultiplied(item)) context.globalCompositeOperation = 'multiply';
  context.transform(...pictureToFrame(item));
  const around = { x: rim.x * item.trim.width, y: rim.y * item.trim.height };
  for (const { image, opacity, place } of images) {
    context.globalAlpha = item.opacity * opacity;
    if (place) context.drawImage(image, place.x, place.y, place.width, place.height);
    else context.drawImage(image, -around.x, -around.y, 1 + 2 * around.x, 1 + 2 * around.y);
  }
  context.restore();
}
