import { type Level, sizeAtSide, sufficientSide } from '@miradero/core/picture';
import type { PlacedPicture } from '@miradero/core/raster';
import sharp from 'sharp';
import type { PartPixels } from './paint-strips.ts';
import { pixelsInMemory } from './part-pixels.ts';

/** A picture with its copies. */
export interface KnownLevels {
  readonly width: number;
  readonly height: number;
  readonly levels: readonly Level[];
}

/** The longest side that the whole of a picture has where a part of it is painted, pixels. */
export const paintedSide = ({ part, size }: PlacedPicture, picture: KnownLevels): number =>
  Math.max((picture.width * size.width) / part.width, (picture.height * size.height) / part.height);

/** A part of a picture from the smallest of its copies that is large enough; undefined where it has none. */
export async function readLevelPart(
  placed: PlacedPicture,
  picture: KnownLevels,
  readBytes: (hash: string) => Promise<Buffer>,
): Promise<PartPixels | undefined> {
  const side = sufficientSide(
    picture.levels.map((level) => level.side),
    paintedSide(placed, picture),
  );
  const level = picture.levels.find((known) => known.side === side);
  if (!level) return undefined;
  const whole = sizeAtSide(picture.width, picture.height, level.side);
  const across = whole.width / picture.width;
  const down = whole.height / picture.height;
  const { part, size } = placed;
  const left = Math.min(whole.width - 1, Math.round(part.x * across));
  const top = Math.min(whole.height - 1, Math.round(part.y * down));
  const { data, info } = await sharp(await readBytes(level.hash))
    .extract({
      ...{ left, top },
      width: Math.max(1, Math.min(whole.width - left, Math.round(part.width * across))),
      height: Math.max(1, Math.min(whole.height - top, Math.round(part.height * down))),
    })
    .resize(size.width, size.height, { fit: 'fill' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return pixelsInMemory(data, info.width, info.height);
}
