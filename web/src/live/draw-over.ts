import { frameMatrix } from '@miradero/core/board';
import { type Affine, compose } from '@miradero/core/geometry';
import { heightOf, outlinePolygon, type Placement, pictureToFrame } from '@miradero/core/items';
import type { ViewOfMoving } from '../stage/index.ts';

/** An image as it is drawn in place of a picture. */
export interface DrawnImage {
  readonly image: ImageBitmap;
  /** 0..1, of the placement's own. */
  readonly opacity: number;
}

/** A picture is drawn so far over its edges, CSS pixels. */
const RIM_PX = 0.75;

/** Draws images in place of a picture where it stands, one over the other, cut off where it is trimmed. */
export function drawOver(
  context: CanvasRenderingContext2D,
  { camera: { scale }, view: { x, y } }: ViewOfMoving,
  item: Placement,
  images: readonly DrawnImage[],
): void {
  const toView: Affine = [scale, 0, 0, scale, -x * scale, -y * scale];
  context.save();
  context.transform(...compose(toView, frameMatrix(item)));
  // What was painted before reaches into the pixels of the rim: nothing of it is left to be seen there.
  const rim = { x: RIM_PX / (item.width * scale), y: RIM_PX / (heightOf(item) * scale) };
  context.beginPath();
  const { outline } = item.trim;
  if (outline) for (const corner of outlinePolygon(outline)) context.lineTo(corner.x, corner.y);
  else context.rect(-rim.x, -rim.y, 1 + 2 * rim.x, 1 + 2 * rim.y);
  context.clip('evenodd');
  context.transform(...pictureToFrame(item));
  const around = { x: rim.x * item.trim.width, y: rim.y * item.trim.height };
  for (const { image, opacity } of images) {
    context.globalAlpha = item.opacity * opacity;
    context.drawImage(image, -around.x, -around.y, 1 + 2 * around.x, 1 + 2 * around.y);
  }
  context.restore();
}
