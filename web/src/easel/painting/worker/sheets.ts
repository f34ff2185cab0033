import type { Rectangle } from '@miradero/core/geometry';
import {
  type KeptSheet,
  type KeptStep,
  type Layer,
  newLayers,
  PaintedSheet,
  type PaintStep,
  type SeenPixels,
  TILE_PX,
  type TilePixels,
  Tiles,
  tileArea,
  tilePlace,
} from '@miradero/core/paint';
import type { FreshSheet } from '../messages.ts';
import type { SheetContent } from './openraster-file.ts';

/** A sheet on which nothing is painted. */
export const blank = ({ width, height, ppi, ground, reference }: FreshSheet): SheetContent => ({
  ...{ width, height, ppi, reference },
  layers: newLayers(ground).map((facts) => ({ ...facts, tiles: new Tiles() })),
});

const areaOfKey = (key: number): Rectangle => tileArea(tilePlace(key));

/** @param width, height - pixels */
export function paintedSheet(width: number, height: number, layers: readonly Layer[]): PaintedSheet {
  const sheet = new PaintedSheet(
    { x: 0, y: 0, width, height },
    layers.map(({ tiles: _, ...facts }) => facts),
  );
  for (const { id, tiles } of layers) {
    const own = sheet.layer(id).tiles;
    for (const key of tiles.keys) own.set(key, tiles.get(key));
  }
  return sheet;
}

/** Tiles by the numbers under which they were kept. */
type Numbered = ReadonlyMap<number, TilePixels>;

/** Where a tile lies that was kept. */
interface KeptPlace {
  readonly layer: string;
  readonly key: number;
  readonly tile: number;
}

/** The tiles of the layers of a sheet, row by row from above. */
export function rowsOf({ tiles }: KeptSheet): Map<number, KeptPlace[]> {
  const rows = new Map<number, KeptPlace[]>();
  for (const [layer, own] of Object.entries(tiles))
    for (const [key, tile] of own) {
      const { row } = tilePlace(key);
      rows.set(row, [...(rows.get(row) ?? []), { layer, key, tile }]);
    }
  return new Map([...rows].sort(([one], [other]) => one - other));
}

/** What can be taken back on it comes after it. */
export function restorePast(sheet: PaintedSheet, { done, undone }: KeptSheet, tiles: Numbered): void {
  const step = ({ tiles: changes, layers }: KeptStep): PaintStep => ({
    tiles: changes.map(([layer, key, before, after]) => ({
      ...{ layer, key, before: tiles.get(before), after: tiles.get(after) },
    })),
    ...(layers && { layers }),
  });
  sheet.history.restore(done.map(step), undone.map(step));
}

/** All of a sheet as it is seen. */
export function pixelsOf(sheet: PaintedSheet, keys: Iterable<number>): SeenPixels {
  const { width, height } = sheet.frame;
  const data = new Uint8ClampedArray(width * height * 4);
  for (const key of keys) {
    const tile = sheet.composed(key);
    const { x, y } = areaOfKey(key);
    const across = Math.min(TILE_PX, width - x);
    for (let row = 0; row < Math.min(TILE_PX, height - y); row += 1)
      data.set(tile.subarray(row * TILE_PX * 4, (row * TILE_PX + across) * 4), ((y + row) * width + x) * 4);
  }
  return { width, height, data };
}

/** One tile of a picture that is stretched over a sheet. */
export function tileOfPicture(
  picture: ImageBitmap,
  key: number,
  { width, height }: { readonly width: number; readonly height: number },
): TilePixels {
  const { x, y } = areaOfKey(key);
  const canvas = new OffscreenCanvas(TILE_PX, TILE_PX);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(picture, -x, -y, width, height);
  return new Uint8ClampedArray(context.getImageData(0, 0, TILE_PX, TILE_PX).data);
}
