import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { boundsOf, freeCentre, keysOnTop } from '@miradero/core/board';
import {
  colourOfArea,
  colourWords,
  hexOfRgb,
  histogramOf,
  oklabToHex,
  PALETTE_SIZES,
  paletteOfHistogram,
  rgbToOklab,
} from '@miradero/core/colour';
import { createPalette, heightOf, type PaletteItem } from '@miradero/core/items';
import type { Item, Purpose } from '@miradero/core/schema';
import sharp from 'sharp';

const PICTURES = fileURLToPath(new URL('./pictures/', import.meta.url));

/** Points whose colour was read and pinned, by file; fractions of the picture. */
const PINNED: Readonly<Record<string, readonly { readonly x: number; readonly y: number }[]>> = {
  'last-crossing.jpg': [
    { x: 0.31, y: 0.3 },
    { x: 0.42, y: 0.62 },
  ],
};

async function pixelsOf(file: string) {
  const { data, info } = await sharp(await readFile(`${PICTURES}${file}`))
    .rotate()
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data: Uint8ClampedArray.from(data), width: info.width, height: info.height };
}

/** Readings that are pinned on a picture, each the colour that is there. */
export async function pinnedOn(file: string): Promise<Purpose[]> {
  const points = PINNED[file] ?? [];
  if (points.length === 0) return [];
  const { data, width, height } = await pixelsOf(file);
  return points.map(({ x, y }): Purpose => {
    const at = (Math.floor(y * height) * width + Math.floor(x * width)) * 4;
    const { mean } = colourOfArea(data.slice(at, at + 4))!;
    const hex = hexOfRgb(mean);
    const word = `${colourWords(rgbToOklab(mean))} ${hex}`;
    return { purpose: 'colour', isNot: false, word, colour: hex, region: { x, y, width: 0, height: 0 } };
  });
}

const GAP = 12;

/** The palette of a picture that stands on a board, in free space below it. @param title - what it is called */
export async function paletteBelow(
  items: readonly Item[],
  of: Item,
  file: string,
  title: string,
  id: string,
): Promise<PaletteItem> {
  const { data } = await pixelsOf(file);
  const made = paletteOfHistogram(histogramOf(data), { count: PALETTE_SIZES.usual });
  const palette = createPalette({
    ...{ id, title, stack: keysOnTop(items, 1)[0]!, centre: of.centre, width: of.width },
    madeOf: { items: [of.id], outline: null },
    swatches: made.map((swatch) => ({
      ...{ hex: oklabToHex(swatch), share: swatch.share, name: colourWords(swatch), isLocked: false },
    })),
  });
  const { y, height } = boundsOf(of);
  const high = heightOf(palette);
  const below = { x: of.centre.x, y: y + height + GAP + high / 2 };
  const standing = items.filter(({ kind }) => kind !== 'working-set').map(boundsOf);
  return { ...palette, centre: freeCentre(below, { width: of.width, height: high }, standing, GAP) };
}
