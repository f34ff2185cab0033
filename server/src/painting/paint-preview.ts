import { munsellValueToGrey8 } from '@miradero/core/colour';
import { compose, type Rectangle, scaling, translation } from '@miradero/core/geometry';
import type { Drawn } from '@miradero/core/items';
import type { PlacedPicture } from '@miradero/core/raster';
import sharp from 'sharp';
import type { KnownLevels } from './level-pixels.ts';
import { bytesOf, type PartPixels, paintStrips } from './paint-strips.ts';

export const PREVIEW = { width: 720, height: 450 } as const;
const MARGIN_PX = 18;

/** Board → pixels of the preview: the extent of a board fits into it, centred, never larger than it stands. */
function paperFor(extent: Rectangle) {
  const scale = Math.min(
    1,
    (PREVIEW.width - 2 * MARGIN_PX) / extent.width,
    (PREVIEW.height - 2 * MARGIN_PX) / extent.height,
  );
  return compose(
    translation(PREVIEW.width / 2, PREVIEW.height / 2),
    scaling(scale, scale),
    translation(-extent.x - extent.width / 2, -extent.y - extent.height / 2),
  );
}

/**
 * Paints a board as it stands, from the same list from which screens are drawn.
 *
 * @param list - lowest first
 * @param extent - board units, all of it is shown
 * @param surround - Munsell value of the ground
 * @returns WebP of `PREVIEW` size
 */
export async function paintPreview(
  list: readonly Drawn[],
  extent: Rectangle,
  surround: number,
  pictures: ReadonlyMap<string, KnownLevels>,
  readPart: (placed: PlacedPicture) => Promise<PartPixels | undefined>,
): Promise<Buffer> {
  const strips: Buffer[] = [];
  await paintStrips(
    { list, toTarget: paperFor(extent), size: PREVIEW, ground: munsellValueToGrey8(surround), pictures },
    readPart,
    async (strip) => void strips.push(bytesOf(strip)),
  );
  return sharp(Buffer.concat(strips), { raw: { ...PREVIEW, channels: 4 } })
    .removeAlpha()
    .webp({ quality: 83, effort: 2 })
    .toBuffer();
}
