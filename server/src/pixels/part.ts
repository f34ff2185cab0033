import type { Rectangle } from '@miradero/core/geometry';
import sharp, { type Sharp } from 'sharp';
import type { PictureFile } from './levels.ts';
import { openPicture } from './open-picture.ts';

export interface PartOf {
  /** Whole pixels of the upright picture. */
  readonly part: Rectangle;
  /** How large it is laid down, whole pixels. */
  readonly size: { readonly width: number; readonly height: number };
  /** Where; ends in `.v`. */
  readonly out: string;
}

const extracted = ({ x, y, width, height }: Rectangle) => ({ left: x, top: y, width, height });

/** A part in another size of the whole picture, within it. */
function scaledPart(part: Rectangle, across: number, down: number, width: number, height: number): Rectangle {
  const left = Math.min(width - 1, Math.round(part.x * across));
  const top = Math.min(height - 1, Math.round(part.y * down));
  return {
    ...{ x: left, y: top },
    width: Math.max(1, Math.min(width - left, Math.round(part.width * across))),
    height: Math.max(1, Math.min(height - top, Math.round(part.height * down))),
  };
}

/** Lays a part of a picture down, upright, in sRGB; libvips streams, so that memory stays low. */
export async function writePart(picture: PictureFile, { part, size, out }: PartOf): Promise<void> {
  const { original, type, width, height } = picture;
  let upright: Sharp;
  if (type === 'image/svg+xml') {
    // A drawing has the pixels that it is asked for.
    const [across, down] = [size.width / part.width, size.height / part.height];
    const whole = [Math.max(1, Math.round(width * across)), Math.max(1, Math.round(height * down))] as const;
    const drawn = await (await openPicture(original, type, ...whole)).png({ compressionLevel: 0 }).toBuffer();
    upright = sharp(drawn, { limitInputPixels: false }).extract(
      extracted(scaledPart(part, across, down, ...whole)),
    );
  } else {
    const opened = (await openPicture(original, type, width, height)).autoOrient();
    const { autoOrient } = await opened.metadata();
    // A still that stands for what only a browser can show may be smaller than that.
    const [across, down] = [autoOrient.width / width, autoOrient.height / height];
    upright = opened.extract(extracted(scaledPart(part, across, down, autoOrient.width, autoOrient.height)));
  }
  await upright
    .resize(size.width, size.height, { fit: 'fill' })
    .toColourspace('srgb')
    .ensureAlpha()
    .toFile(out);
}
