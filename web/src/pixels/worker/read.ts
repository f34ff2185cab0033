import {
  type AreaColour,
  colourOfArea,
  colourOfLight,
  type PixelSpace,
  pixelsOfLight,
  valueDistribution,
} from '@miradero/core/colour';
import {
  boundsOfPoints,
  intersectionOf,
  maskOfPolygon,
  type Point,
  type Rectangle,
} from '@miradero/core/geometry';
import { complexityOf, needsTiles, sizeAtSide, tilePart, tilesWithin } from '@miradero/core/picture';
import type { TileLevel } from '@miradero/core/schema';
import {
  type AreaRead,
  ORIGINAL,
  type PixelBlock,
  PixelError,
  type PixelSource,
  type ReadPart,
} from '../requests.ts';
import { tileLevelsOf } from '../tile-levels.ts';
import { exactPixels, hasExact } from './exact.ts';
import type { PixelStore, Wanted } from './store.ts';

/** More pixels than this are not handed out at once: 256 MB. */
const MOST_PIXELS = 64_000_000;

const contextOf = (width: number, height: number, colorSpace: PixelSpace = 'srgb') =>
  new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true, colorSpace })!;

/** Whole pixels of a part of something so large: from the first that it touches to the last, at least one. */
function pixelsOf(part: Rectangle, width: number, height: number): Rectangle {
  const [left, right] = range(part.x, part.width, width);
  const [top, bottom] = range(part.y, part.height, height);
  return { x: left, y: top, width: right - left, height: bottom - top };
}
function range(at: number, length: number, size: number): [number, number] {
  // What lies on the edge of a pixel but for rounding is on it.
  const first = Math.min(size - 1, Math.max(0, Math.floor(at * size + 1e-6)));
  const last = Math.min(size, Math.ceil((at + length) * size - 1e-6));
  return [first, Math.max(first + 1, last)];
}

function checkSize({ width, height }: Rectangle): void {
  if (width * height > MOST_PIXELS)
    throw new PixelError('too-large', `${width} × ${height} pixels are more than are handed out at once`);
}

/** The level of tiles that has what is wanted beyond the ladder; undefined where the ladder is enough. */
async function tilesFor(
  source: PixelSource,
  side: number,
  signal: AbortSignal,
): Promise<TileLevel | undefined> {
  const largest = Math.max(0, ...source.levels.map((level) => level.side));
  if (!source.hasTiles || side <= largest) return undefined;
  const levels = await tileLevelsOf(source.id, signal);
  return levels.findLast(({ width, height }) => Math.max(width, height) >= side) ?? levels[0];
}

async function fromTiles(
  store: PixelStore,
  level: TileLevel,
  part: Rectangle,
  asker: Wanted,
): Promise<PixelBlock> {
  const wanted = pixelsOf(part, level.width, level.height);
  checkSize(wanted);
  const context = contextOf(wanted.width, wanted.height);
  const exact = {
    x: wanted.x / level.width,
    y: wanted.y / level.height,
    width: wanted.width / level.width,
    height: wanted.height / level.height,
  };
  const { signal } = asker;
  const tiles = tilesWithin(level, exact);
  let done = 0;
  for (const { column, row } of tiles) {
    const hash = level.hashes[row * level.columns + column]!;
    const { x, y } = tilePart(level, column, row);
    const load = (by: Wanted) => store.take(`/api/levels/${hash}`, by);
    await store.using(`tile:${hash}`, { signal }, load, (tile) =>
      context.drawImage(
        tile,
        Math.round(x * level.width) - wanted.x,
        Math.round(y * level.height) - wanted.y,
      ),
    );
    done += 1;
    asker.onProgress?.({ done, total: tiles.length });
  }
  const { data } = context.getImageData(0, 0, wanted.width, wanted.height);
  return { width: wanted.width, height: wanted.height, data, side: Math.max(level.width, level.height) };
}

/** Pixels of a part (fractions 0..1) of a picture, at the size that is wanted or the next larger there is. */
export async function regionOf(
  store: PixelStore,
  { source, part, side }: { source: PixelSource; part: Rectangle; side: number },
  asker: Wanted,
  space: PixelSpace = 'srgb',
): Promise<PixelBlock> {
  const within = intersectionOf(part, { x: 0, y: 0, width: 1, height: 1 });
  const level = await tilesFor(source, side, asker.signal);
  if (level) return fromTiles(store, level, within, asker);
  return store.whole(source, side, asker, ({ bitmap, side: real }) => {
    const { x, y, width, height } = pixelsOf(within, bitmap.width, bitmap.height);
    checkSize({ x, y, width, height });
    const context = contextOf(width, height, space);
    context.drawImage(bitmap, x, y, width, height, 0, 0, width, height);
    return { width, height, data: context.getImageData(0, 0, width, height).data, side: real };
  });
}

export async function distributionOf(
  store: PixelStore,
  request: { source: PixelSource; part: Rectangle; side: number; bins: number },
  asker: Wanted,
): Promise<Float32Array<ArrayBuffer>> {
  const shares = valueDistribution(await regionOf(store, request, asker), request.bins);
  return shares as Float32Array<ArrayBuffer>;
}

export async function colourOf(
  store: PixelStore,
  { source, at, side }: { source: PixelSource; at: Point; side: number },
  asker: Wanted,
): Promise<readonly [number, number, number]> {
  const part = { ...at, width: 0, height: 0 };
  const { data } = await regionOf(store, { source, part, side: side || ORIGINAL }, asker);
  return [data[0]!, data[1]!, data[2]!];
}

/** Longest side at which complexity is measured, pixels. */
const COMPLEXITY_SIDE = 128;

export async function complexityAt(
  store: PixelStore,
  { path }: { path: string },
  asker: Wanted,
): Promise<readonly [number]> {
  const bitmap = await store.take(path, asker);
  const { width, height } = sizeAtSide(bitmap.width, bitmap.height, COMPLEXITY_SIDE);
  const context = contextOf(width, height);
  context.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  return [complexityOf({ width, height, data: context.getImageData(0, 0, width, height).data })];
}

/** So many pixels beside what is read come along to be looked at. */
const AROUND_PX = 6;
/** What is looked at has at least so many. */
const LEAST_SEEN_PX = 21;

/** The part that is asked for to read a square about a point: it, and what is around it. */
function partAround({ width, height }: PixelSource, at: Point, sizePx: number): Rectangle {
  const half = Math.max(LEAST_SEEN_PX, sizePx + 2 * AROUND_PX) / 2;
  // From pixel to pixel: the middle one is that under the point.
  const from = (share: number, size: number) => Math.floor(share * size) + 0.5 - half;
  return {
    ...{ x: from(at.x, width) / width, width: (2 * half) / width },
    ...{ y: from(at.y, height) / height, height: (2 * half) / height },
  };
}

/** No pixels, made each time: they are handed over. */
const nothing = (): PixelBlock => ({ width: 0, height: 0, data: new Uint8ClampedArray(), side: 0 });

/** What a browser decodes of a picture is not what its file says: too large, too deep or too wide. */
const isBeyondBrowser = ({ space, width, height }: PixelSource): boolean =>
  space === 'own' || needsTiles(width, height);

/** What is partly clear loses a level or two by how browsers keep it. */
function isPartlyClear({ data }: PixelBlock): boolean {
  for (let at = 3; at < data.length; at += 4) if (data[at]! > 0 && data[at]! < 255) return true;
  return false;
}

interface Block {
  readonly block: PixelBlock;
  colourOf(mask: Uint8Array): AreaColour | undefined;
  readonly isExact: boolean;
}

/** The pixels of a part to read a colour of: exact ones where they are wanted and there are any. */
async function blockOf(
  store: PixelStore,
  source: PixelSource,
  part: Rectangle,
  side: number,
  asker: Wanted,
): Promise<Block> {
  const { width, height, space } = source;
  const wanted = pixelsOf(intersectionOf(part, { x: 0, y: 0, width: 1, height: 1 }), width, height);
  if (side === ORIGINAL && hasExact(source, wanted)) {
    const as = space === 'srgb' ? 'srgb8' : 'light';
    const pixels = await exactPixels(source, wanted, as, asker.signal);
    const data = pixels instanceof Float32Array ? pixelsOfLight(pixels) : pixels;
    return {
      block: { width: wanted.width, height: wanted.height, data, side: Math.max(width, height) },
      colourOf: (mask) =>
        pixels instanceof Float32Array ? colourOfLight(pixels, mask) : colourOfArea(pixels, mask),
      isExact: true,
    };
  }
  const decoded = space === 'display-p3' ? 'display-p3' : 'srgb';
  const block = await regionOf(store, { source, part, side }, asker, decoded);
  return {
    block,
    colourOf: (mask) => colourOfArea(block.data, mask, decoded),
    isExact: !isBeyondBrowser(source) && block.side >= Math.max(width, height) && !isPartlyClear(block),
  };
}

export async function areaRead(
  store: PixelStore,
  { source, read, side }: { source: PixelSource; read: ReadPart; side: number },
  asker: Wanted,
): Promise<AreaRead> {
  const part = 'at' in read ? partAround(source, read.at, read.sizePx) : boundsOfPoints(read.outline);
  const { block, colourOf, isExact } = await blockOf(store, source, part, side, asker);
  // A shrunken copy has fewer pixels: what is read of it is as large as on the original.
  const scale = block.side / Math.max(source.width, source.height);
  const whole = { width: source.width * scale, height: source.height * scale };
  const x = Math.max(0, Math.floor(part.x * whole.width + 1e-6));
  const y = Math.max(0, Math.floor(part.y * whole.height + 1e-6));
  const inBlock = (at: Point) => ({ x: at.x * whole.width - x, y: at.y * whole.height - y });
  if ('outline' in read) {
    const mask = maskOfPolygon(read.outline.map(inBlock), block.width, block.height);
    const colour = colourOf(mask);
    if (!colour) throw new PixelError('absent', 'nothing opaque is enclosed');
    return {
      ...nothing(),
      ...colour,
      isExact,
      side: block.side,
      x,
      y,
      area: { x: 0, y: 0, width: 0, height: 0 },
    };
  }
  const middle = inBlock(read.at);
  const size = Math.max(1, Math.round(read.sizePx * scale));
  const first = (at: number) => Math.max(0, Math.floor(at) - (size - 1) / 2);
  const [left, top] = [Math.floor(first(middle.x)), Math.floor(first(middle.y))];
  const last = (at: number, length: number) => Math.min(length, Math.floor(at) + Math.ceil((size + 1) / 2));
  const area = {
    ...{ x: left, y: top },
    ...{ width: last(middle.x, block.width) - left, height: last(middle.y, block.height) - top },
  };
  const mask = new Uint8Array(block.width * block.height);
  for (let row = top; row < top + area.height; row += 1)
    mask.fill(1, row * block.width + left, row * block.width + left + area.width);
  const colour = colourOf(mask);
  if (!colour) throw new PixelError('absent', 'nothing opaque is there');
  return { ...block, ...colour, isExact, x, y, area };
}
