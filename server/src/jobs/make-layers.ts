import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { boundsOf, compareStacking, drawList, marksByPicture } from '@miradero/core/board';
import { munsellValueToGrey8 } from '@miradero/core/colour';
import { openRasterStack, type StackedLayer } from '@miradero/core/formats';
import type { Rectangle } from '@miradero/core/geometry';
import { isMultiplied, kindOf, wordsOf } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import { cutText } from '@miradero/core/text';
import sharp from 'sharp';
import type { Knex } from '../database/connection.ts';
import type { Decoding } from '../pixels/decoding/decoders.ts';
import { type Made, type MakingFlat, makeFlat } from './make-flat.ts';
import { writeStoredZip } from './stored-zip.ts';

/** Source: OpenRaster 0.0.6, "File layout": names and places of its files. */
const MEDIA_TYPE = 'image/openraster';
const THUMBNAIL_PX = 256;

/** A rectangle of whole pixels, from the upper left corner of the picture. */
interface PixelRectangle {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The pixels that a rectangle of the board touches. @param scale - pixels a board unit */
function pixelsOf({ x, y, width, height }: Rectangle, origin: Rectangle, scale: number): PixelRectangle {
  const [left, top] = [Math.floor((x - origin.x) * scale), Math.floor((y - origin.y) * scale)];
  const [right, bottom] = [
    Math.ceil((x + width - origin.x) * scale),
    Math.ceil((y + height - origin.y) * scale),
  ];
  return { x: left, y: top, width: Math.max(1, right - left), height: Math.max(1, bottom - top) };
}

/** What a layer is called: after its picture, its words, or its kind. */
function nameOf(item: Item, making: MakingFlat): string {
  const words = wordsOf(item, (picture) => making.pictures.get(picture)?.name);
  return cutText(words, 120) || kindOf(item).title;
}

/** Makes a layered picture (OpenRaster): everything that stands is a layer of its own, named and as faded as it is. */
export async function makeLayers(
  knex: Knex,
  decoders: Decoding,
  making: MakingFlat,
  all: ReadonlyMap<string, Item>,
  tell: (share: number) => void,
): Promise<Made> {
  const { region, folder, side, ground, surround } = making;
  const scale = (side ?? 4_096) / Math.max(region.width, region.height);
  const whole = pixelsOf(region, region, scale);
  const marks = marksByPicture(all);
  const items = [...making.items].sort(compareStacking);
  const files: { name: string; path: string }[] = [];
  const layers: StackedLayer[] = [];
  const missing = new Set<string>();
  const flat = async (
    of: readonly Item[],
    at: PixelRectangle,
    path: string,
    behind: MakingFlat['ground'],
  ) => {
    // Exactly those pixels, so that layers lie on each other as the whole does.
    const part = {
      x: region.x + at.x / scale,
      y: region.y + at.y / scale,
      width: at.width / scale,
      height: at.height / scale,
    };
    const withOwn = of.flatMap((item) => [item, ...(marks.get(item.id) ?? [])]);
    const made = await makeFlat(
      ...([knex, decoders] as const),
      {
        ...making,
        ...{ list: drawList(withOwn, part), items: of, region: part, path, ground: behind },
        ...{ type: 'image/png' as const, side: Math.max(at.width, at.height) },
      },
      () => {},
    );
    return made.missing;
  };
  if (ground !== 'clear') {
    const grey = ground === 'white' ? 255 : munsellValueToGrey8(surround);
    const path = join(folder, 'ground.png');
    const background = { r: grey, g: grey, b: grey };
    await sharp({ create: { width: whole.width, height: whole.height, channels: 3, background } })
      .png()
      .toFile(path);
    files.push({ name: 'data/ground.png', path });
    layers.push({
      ...{ name: 'Surround', src: 'data/ground.png' },
      ...{ x: 0, y: 0, opacity: 1, blend: 'normal' },
    });
  }
  for (const [index, item] of items.entries()) {
    const at = pixelsOf(boundsOf(item), region, scale);
    const src = `data/layer${index}.png`;
    const path = join(folder, `layer${index}.png`);
    if ((await flat([{ ...item, opacity: 1 } as Item], at, path, 'clear')) > 0) missing.add(item.id);
    files.push({ name: src, path });
    const blend = isMultiplied(item) ? 'multiply' : 'normal';
    layers.push({ name: nameOf(item, making), src, x: at.x, y: at.y, opacity: item.opacity, blend });
    tell((0.8 * (index + 1)) / items.length);
  }
  const merged = join(folder, 'merged.png');
  await flat(items, whole, merged, ground);
  const thumbnail = join(folder, 'thumbnail.png');
  await sharp(merged, { limitInputPixels: false })
    .resize(THUMBNAIL_PX, THUMBNAIL_PX, { fit: 'inside', withoutEnlargement: true })
    .png()
    .toFile(thumbnail);
  const path = join(folder, 'board.ora');
  await writeStoredZip(path, [
    // First and stored, so that the kind of file is told by its first bytes.
    { name: 'mimetype', bytes: Buffer.from(MEDIA_TYPE) },
    { name: 'stack.xml', bytes: Buffer.from(openRasterStack(whole, layers)) },
    ...files,
    { name: 'Thumbnails/thumbnail.png', bytes: await readFile(thumbnail) },
    { name: 'mergedimage.png', path: merged },
  ]);
  return { path, type: MEDIA_TYPE, width: whole.width, height: whole.height, missing: missing.size };
}
