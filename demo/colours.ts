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
import { maskOfPolygon, type Point } from '@miradero/core/geometry';
import { createLitBall, createPalette, heightOf, type LitBall, type PaletteItem } from '@miradero/core/items';
import { suggestLight } from '@miradero/core/light';
import type { Item, Purpose, PutPalette } from '@miradero/core/schema';
import sharp from 'sharp';
import type { FormInPicture } from './boards.ts';

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

/** The colours of a picture, each with its share and what it is called. */
export async function swatchesOf(file: string): Promise<PutPalette['swatches']> {
  const { data } = await pixelsOf(file);
  return paletteOfHistogram(histogramOf(data), { count: PALETTE_SIZES.usual }).map((swatch) => ({
    ...{ hex: oklabToHex(swatch), share: swatch.share, name: colourWords(swatch) },
  }));
}

/** The palette of a picture that stands on a board, in free space below it. @param title - what it is called */
export async function paletteBelow(
  items: readonly Item[],
  of: Item,
  file: string,
  title: string,
  id: string,
): Promise<PaletteItem> {
  const swatches = await swatchesOf(file);
  const palette = createPalette({
    ...{ id, title, stack: keysOnTop(items, 1)[0]!, centre: of.centre, width: of.width },
    madeOf: { items: [of.id], outline: null },
    swatches: swatches.map((swatch) => ({ ...swatch, isLocked: false })),
  });
  return { ...palette, centre: freeBelow(items, of, { width: of.width, height: heightOf(palette) }) };
}

/** Free space as near to below something as can be. */
function freeBelow(items: readonly Item[], of: Item, size: { width: number; height: number }): Point {
  const { y, height } = boundsOf(of);
  const below = { x: of.centre.x, y: y + height + GAP + size.height / 2 };
  const standing = items.filter(({ kind }) => kind !== 'working-set').map(boundsOf);
  return freeCentre(below, size, standing, GAP);
}

const CORNERS = 60;

/** What light makes of a form in a picture that stands on a board: read of its pixels, as the person's own hand would. */
export async function litBallBelow(
  items: readonly Item[],
  of: Item,
  { of: file, title, centre, radii }: FormInPicture,
  id: string,
): Promise<LitBall> {
  const pixels = await pixelsOf(file);
  const outline = Array.from({ length: CORNERS }, (_, index) => {
    const angle = (2 * Math.PI * index) / CORNERS;
    return {
      x: (centre.x + radii.x * Math.cos(angle)) * pixels.width,
      y: (centre.y + radii.y * Math.sin(angle)) * pixels.height,
    };
  });
  const suggested = suggestLight(pixels, maskOfPolygon(outline, pixels.width, pixels.height));
  if (!suggested?.estimate) throw new Error(`no light is claimed for ${file}`);
  const { azimuthDeg, elevationDeg, fit } = suggested.estimate;
  const ball = createLitBall({
    ...{ id, title, stack: keysOnTop(items, 1)[0]!, centre: of.centre },
    ...{ colours: suggested.colours, direction: { azimuthDeg, elevationDeg }, fit, of: of.id },
  });
  return { ...ball, centre: freeBelow(items, of, { width: ball.width, height: heightOf(ball) }) };
}
