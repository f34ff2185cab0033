import {
  filteredRows,
  openRasterFile,
  partsOfPng,
  pngChunk,
  pngEnd,
  pngHead,
  readOpenRaster,
  unfilteredRows,
} from '@miradero/core/formats';
import type { Rectangle } from '@miradero/core/geometry';
import {
  blendOf,
  composeTile,
  groundOf,
  LAYER_KINDS,
  type Layer,
  type LayerFacts,
  layerFacts,
  newLayers,
  TILE_BYTES,
  TILE_PX,
  type TilePixels,
  Tiles,
  tileKey,
  tileOf,
  tilePlace,
} from '@miradero/core/paint';
import type { StudiedPart } from '../messages.ts';
import { MOST_PIXELS } from '../most-pixels.ts';
import { unpacked } from './packing.ts';

/** A sheet with all its pixels at hand. */
export interface SheetContent {
  readonly width: number;
  readonly height: number;
  readonly ppi: number;
  readonly reference: StudiedPart | null;
  readonly layers: readonly Layer[];
}

/** A layer whose tiles are unpacked when they are needed. */
export interface PackedLayer extends LayerFacts {
  readonly keys: readonly number[];
  tile(key: number): Promise<TilePixels | undefined>;
}

/** A sheet as it is written to a file, row of tiles by row of tiles: never is all of it at hand. */
export interface PackedSheet extends Omit<SheetContent, 'layers'> {
  readonly layers: readonly PackedLayer[];
}

/** What of a sheet OpenRaster has no words for. */
interface Beside {
  readonly reference: StudiedPart | null;
  readonly layers: readonly LayerFacts[];
}
const BESIDE = 'sheet.json';
const THUMBNAIL_PX = 256;
/** A file with more of them was made by nobody. */
const MOST_LAYERS = 200;

/** Rows of tiles as one, cut off where the picture ends. */
function band(
  area: Rectangle,
  row: number,
  pixelsAt: (key: number) => TilePixels | undefined,
): Uint8ClampedArray<ArrayBuffer> {
  const height = Math.min(TILE_PX, area.y + area.height - row * TILE_PX);
  const out = new Uint8ClampedArray(area.width * height * 4);
  for (let column = Math.floor(area.x / TILE_PX); column * TILE_PX < area.x + area.width; column += 1) {
    const pixels = pixelsAt(tileKey({ column, row }));
    if (!pixels) continue;
    const left = column * TILE_PX;
    const width = Math.min(TILE_PX, area.x + area.width - left);
    for (let y = 0; y < height; y += 1)
      out.set(
        pixels.subarray(y * TILE_PX * 4, (y * TILE_PX + width) * 4),
        (y * area.width + left - area.x) * 4,
      );
  }
  return out;
}

/** Pixels of one tile, when they are needed. */
type PixelsAt = (key: number) => Promise<TilePixels | undefined>;

/** A PNG of a part of a sheet that begins where a tile does. */
async function pngOf(area: Rectangle, ppi: number, pixelsAt: PixelsAt): Promise<Uint8Array<ArrayBuffer>> {
  const stream = new CompressionStream('deflate');
  const writer = stream.writable.getWriter();
  const write = async () => {
    let above: Uint8ClampedArray<ArrayBuffer> | undefined;
    for (let row = Math.floor(area.y / TILE_PX); row * TILE_PX < area.y + area.height; row += 1) {
      const tiles = new Map<number, TilePixels>();
      for (let column = Math.floor(area.x / TILE_PX); column * TILE_PX < area.x + area.width; column += 1) {
        const key = tileKey({ column, row });
        const pixels = await pixelsAt(key);
        if (pixels) tiles.set(key, pixels);
      }
      const rows = band(area, row, (key) => tiles.get(key));
      await writer.write(filteredRows(rows, area.width, above));
      above = rows.slice(rows.length - area.width * 4);
    }
    await writer.close();
  };
  const [data] = await Promise.all([new Response(stream.readable).arrayBuffer(), write()]);
  const parts = [...pngHead(area, ppi), pngChunk('IDAT', new Uint8Array(data)), pngEnd()];
  return new Uint8Array(await new Blob(parts).arrayBuffer());
}

/** One tile of a sheet, of all its layers or some. */
async function composedOf(
  layers: readonly PackedLayer[],
  key: number,
  ground: LayerFacts['colour'],
): Promise<TilePixels> {
  const own = await Promise.all(
    layers.map(async (layer): Promise<Layer> => {
      const tiles = new Tiles();
      if (!layer.isHidden) tiles.set(key, await layer.tile(key));
      return { ...layer, tiles };
    }),
  );
  return composeTile(own, key, ground ?? null);
}

/** The flat picture as it is seen. */
export function flatPng({ width, height, ppi, layers }: PackedSheet): Promise<Uint8Array<ArrayBuffer>> {
  const ground = groundOf(layers);
  return pngOf({ x: 0, y: 0, width, height }, ppi, (key) => composedOf(layers, key, ground));
}

/** What tiles of a layer cover, cut off where the sheet ends; undefined where it has none. */
function areaOf(keys: readonly number[], { width, height }: PackedSheet): Rectangle | undefined {
  const places = keys.map(tilePlace);
  if (places.length === 0) return undefined;
  const least = (values: number[]) => values.reduce((one, other) => Math.min(one, other));
  const most = (values: number[]) => values.reduce((one, other) => Math.max(one, other));
  const [columns, rows] = [places.map(({ column }) => column), places.map(({ row }) => row)];
  const [x, y] = [least(columns) * TILE_PX, least(rows) * TILE_PX];
  return {
    ...{ x, y, width: Math.min(width, (most(columns) + 1) * TILE_PX) - x },
    height: Math.min(height, (most(rows) + 1) * TILE_PX) - y,
  };
}

async function thumbnail(png: Uint8Array<ArrayBuffer>, { width, height }: PackedSheet) {
  const scale = Math.min(1, THUMBNAIL_PX / Math.max(width, height));
  const [resizeWidth, resizeHeight] = [width, height].map((side) => Math.max(1, Math.round(side * scale)));
  const bitmap = await createImageBitmap(new Blob([png]), {
    resizeWidth,
    resizeHeight,
  } as ImageBitmapOptions);
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0);
  bitmap.close();
  return new Uint8Array(await (await canvas.convertToBlob()).arrayBuffer());
}

/** All of a sheet with its layers. Source: OpenRaster 0.0.6. */
export async function openRasterOf(sheet: PackedSheet): Promise<Uint8Array<ArrayBuffer>> {
  const { width, height, ppi, layers } = sheet;
  const stacked = [];
  for (const [at, layer] of layers.entries()) {
    const { keys, name, opacity, isHidden, kind, colour } = layer;
    const isGround = kind === 'ground' && colour;
    const area = isGround ? { x: 0, y: 0, width, height } : areaOf(keys, sheet);
    if (!area) continue;
    const alone = [{ ...layer, opacity: 1, isHidden: false }];
    const png = await pngOf(area, ppi, (key) =>
      isGround ? composedOf(alone, key, colour) : layer.tile(key),
    );
    stacked.push({
      ...{ name, src: `data/${at}-${kind}.png`, x: area.x, y: area.y },
      ...{ opacity, blend: blendOf(kind), isHidden, png },
    });
  }
  const merged = await flatPng(sheet);
  const facts = layers.map(({ keys: _, tile: __, ...told }): LayerFacts => told);
  const beside: Beside = { reference: sheet.reference, layers: facts };
  return openRasterFile({ width, height }, stacked, {
    ...{ ppi, merged, thumbnail: await thumbnail(merged, sheet) },
    beside: { [BESIDE]: new TextEncoder().encode(JSON.stringify(beside)) },
  });
}

/** Pixels of a PNG as tiles. @throws Error for what is no RGBA of 8 bits */
async function tilesOfPng(png: Uint8Array<ArrayBuffer>, x: number, y: number): Promise<Tiles> {
  const parts = partsOfPng(png);
  if (!parts) throw new Error('a layer of the file is no PNG of RGBA');
  const { width } = parts;
  const pixels = unfilteredRows(await unpacked(parts.packed, 'deflate'), width);
  const height = pixels.length / (width * 4);
  const tiles = new Tiles();
  for (let row = Math.floor(y / TILE_PX); row * TILE_PX < y + height; row += 1)
    for (let column = Math.floor(x / TILE_PX); column * TILE_PX < x + width; column += 1) {
      const tile: TilePixels = new Uint8ClampedArray(TILE_BYTES);
      const [left, top] = [Math.max(x, column * TILE_PX), Math.max(y, row * TILE_PX)];
      const right = Math.min(x + width, (column + 1) * TILE_PX);
      for (let line = top; line < Math.min(y + height, (row + 1) * TILE_PX); line += 1) {
        const from = ((line - y) * width + left - x) * 4;
        const to = ((line - row * TILE_PX) * TILE_PX + left - column * TILE_PX) * 4;
        tile.set(pixels.subarray(from, from + (right - left) * 4), to);
      }
      tiles.set(tileKey({ column, row }), tile);
    }
  return tiles;
}

/** Whether a tile of a ground is nothing but its colour. */
function isBlank(pixels: TilePixels, colour: LayerFacts['colour']): boolean {
  if (!colour) return false;
  const [of, blank] = [new Uint32Array(pixels.buffer), new Uint32Array(tileOf(colour).buffer)];
  return of.every((value, at) => value === blank[at] || value === 0);
}

const isByte = (value: unknown): value is number =>
  Number.isInteger(value) && (value as number) >= 0 && (value as number) <= 255;

/** What a file says of a layer, as far as it can be meant; undefined for what is none. */
function layerOf(read: unknown): LayerFacts | undefined {
  const { id, kind, name, opacity, isHidden, isLocked, keepsToPainted, colour } = (read ??
    {}) as Partial<LayerFacts>;
  const known = LAYER_KINDS.find((one) => one === kind);
  if (!known || typeof id !== 'string') return undefined;
  const isColour = Array.isArray(colour) && colour.length === 3 && colour.every(isByte);
  return {
    ...layerFacts(id.slice(0, 64), known, typeof name === 'string' ? name.slice(0, 64) : known),
    ...(typeof opacity === 'number' && opacity >= 0 && opacity <= 1 && { opacity }),
    ...{ isHidden: isHidden === true, isLocked: isLocked === true, keepsToPainted: keepsToPainted === true },
    ...(known === 'ground' && { colour: isColour ? colour : null }),
  };
}

/** What stands beside the layers; a file of another hand may say anything. */
function besideOf(bytes: Uint8Array | undefined): Beside {
  try {
    const read = JSON.parse(new TextDecoder().decode(bytes)) as { layers?: unknown; reference?: unknown };
    const told = Array.isArray(read.layers)
      ? read.layers.slice(0, MOST_LAYERS).flatMap((one) => layerOf(one) ?? [])
      : [];
    const layers = told.filter((one, at) => told.findIndex(({ id }) => id === one.id) === at);
    const { picture, part } = (read.reference ?? {}) as Partial<StudiedPart>;
    const isPart =
      part && [part.x, part.y, part.width, part.height].every((value) => value >= 0 && value <= 1);
    const isSound = typeof picture === 'string' && isPart === true && part.width > 0 && part.height > 0;
    return { layers, reference: isSound ? { picture, part } : null };
  } catch {
    return { layers: [], reference: null };
  }
}

/** Reads a sheet with its layers. @throws Error in words */
export async function sheetOfOpenRaster(bytes: Uint8Array): Promise<SheetContent> {
  const read = readOpenRaster(bytes);
  if (!read) throw new Error('This is no OpenRaster file that can be read.');
  const { width, height, ppi, files, stack } = read;
  if (width * height > MOST_PIXELS) throw new Error('The drawing has too many pixels to be drawn on here.');
  const beside = besideOf(files.get(BESIDE));
  const facts = beside.layers.length > 0 ? beside.layers : newLayers(null);
  const layers: Layer[] = [];
  for (const [at, one] of facts.entries()) {
    const entry = stack.find(({ src }) => src === `data/${at}-${one.kind}.png`);
    const png = entry && files.get(entry.src);
    if (!entry || !png) {
      layers.push({ ...one, tiles: new Tiles() });
      continue;
    }
    const tiles = await tilesOfPng(new Uint8Array(png), entry.x, entry.y);
    if (one.kind === 'ground')
      for (const key of [...tiles.keys]) if (isBlank(tiles.get(key)!, one.colour)) tiles.set(key, undefined);
    layers.push({ ...one, tiles });
  }
  return { width, height, ppi, layers, reference: beside.reference };
}
