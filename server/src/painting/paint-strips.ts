import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  compose,
  intersectionOf,
  overlaps,
  type Rectangle,
  unionOf,
} from '@miradero/core/geometry';
import type { Drawn, PictureQuad, Primitive } from '@miradero/core/items';
import {
  blendOver,
  emptyRaster,
  type PixelSize,
  type PlacedPicture,
  paintPicture,
  placePicture,
  type Raster,
} from '@miradero/core/raster';
import sharp from 'sharp';
import { drawMarks, type Marks } from './svg-marks.ts';

/** Pixels of a part of a picture, as large as they are painted. */
export interface PartPixels {
  readonly width: number;
  readonly height: number;
  /** A window of them, within their sides. */
  read(window: Rectangle): Raster;
  close(): void;
}

export interface FlatPicture {
  /** Lowest first. */
  readonly list: readonly Drawn[];
  /** Board → pixels of the target. */
  readonly toTarget: Affine;
  readonly size: PixelSize;
  /** sRGB of the ground, 0..255; null: none. */
  readonly ground: number | null;
  /** Pixels of the upright pictures. */
  readonly pictures: ReadonlyMap<string, PixelSize>;
}

/** A strip has about so many pixels. */
const STRIP_PIXELS = 3_000_000;
/** Columns that are painted at once of what is turned: what has to be read of it stays small. */
const COLUMNS = 512;
/** Read around what is sampled, pixels. */
const MARGIN = 2;

interface PictureLayer {
  readonly kind: 'picture';
  readonly placed: PlacedPicture;
  readonly bounds: Rectangle;
  pixels: Promise<PartPixels | undefined> | undefined;
}
interface MarksLayer {
  readonly kind: 'marks';
  readonly marks: Marks;
  readonly bounds: Rectangle;
}
type PlainLayer = PictureLayer | MarksLayer;
/** What is painted by itself first, and then multiplied with what is below. */
interface MultipliedLayer {
  readonly kind: 'multiplied';
  readonly layers: readonly PlainLayer[];
  readonly bounds: Rectangle;
}
type Layer = PlainLayer | MultipliedLayer;

const unitSquare = (drawn: Drawn) =>
  [0, 1].flatMap((x) => [0, 1].map((y) => ({ x: x * drawn.width, y: y * drawn.height })));

/** What is painted, lowest first, of what is within the target. */
function layersOf({ list, toTarget, size, pictures }: FlatPicture): Layer[] {
  const layers: Layer[] = [];
  for (const drawn of list) {
    const own = layersOfOne(drawn, toTarget, size, pictures);
    if (!drawn.isMultiplied) layers.push(...own);
    else if (own.length > 0)
      layers.push({ kind: 'multiplied', layers: own, bounds: unionOf(own.map(({ bounds }) => bounds))! });
  }
  return layers;
}

function layersOfOne(
  drawn: Drawn,
  toTarget: Affine,
  size: PixelSize,
  pictures: FlatPicture['pictures'],
): PlainLayer[] {
  const layers: PlainLayer[] = [];
  const frame = compose(toTarget, drawn.frame);
  const bounds = boundsOfPoints(unitSquare(drawn).map((corner) => applyAffine(frame, corner)));
  let own: Exclude<Primitive, PictureQuad>[] = [];
  const finishOwn = () => {
    if (own.length > 0) layers.push({ kind: 'marks', marks: { drawn, primitives: own }, bounds });
    own = [];
  };
  for (const primitive of drawn.primitives) {
    if (primitive.kind !== 'picture') {
      own.push(primitive);
      continue;
    }
    const picture = pictures.get(primitive.picture);
    const placed = picture && placePicture(drawn, primitive as PictureQuad, toTarget, size, picture);
    if (!placed) continue;
    finishOwn();
    layers.push({ kind: 'picture', placed, bounds: boundsOfPoints(placed.polygon), pixels: undefined });
  }
  finishOwn();
  return layers;
}

/** The part of a picture that is sampled for a window of the target. */
function windowFor(
  { toSource }: PlacedPicture,
  pixels: PartPixels,
  window: Rectangle,
): Rectangle | undefined {
  const corners = [window.x, window.x + window.width].flatMap((x) =>
    [window.y, window.y + window.height].map((y) => applyAffine(toSource, { x, y })),
  );
  const wanted = boundsOfPoints(corners);
  const left = Math.max(0, Math.floor(wanted.x) - MARGIN);
  const top = Math.max(0, Math.floor(wanted.y) - MARGIN);
  const width = Math.min(pixels.width, Math.ceil(wanted.x + wanted.width) + MARGIN) - left;
  const height = Math.min(pixels.height, Math.ceil(wanted.y + wanted.height) + MARGIN) - top;
  return width > 0 && height > 0 ? { x: left, y: top, width, height } : undefined;
}

function paintLayer(strip: Raster, { placed, bounds }: PictureLayer, pixels: PartPixels): void {
  const within = intersectionOf(bounds, strip);
  const { toSource, polygon, opacity } = placed;
  const isTurned = toSource[1] !== 0;
  const step = isTurned ? COLUMNS : strip.width;
  const right = Math.min(strip.x + strip.width, Math.ceil(within.x + within.width));
  for (let from = Math.max(strip.x, Math.floor(within.x)); from < right; from += step) {
    const columns = { from, to: Math.min(right, from + step) };
    const window = windowFor(placed, pixels, {
      ...{ x: columns.from, width: columns.to - columns.from },
      ...{ y: within.y, height: within.height },
    });
    if (window) paintPicture(strip, pixels.read(window), toSource, polygon, opacity, columns);
  }
}

async function paintMarks(strip: Raster, layers: readonly MarksLayer[], toTarget: Affine): Promise<void> {
  const parts = layers.map(({ bounds }) => intersectionOf(bounds, strip));
  const left = Math.floor(Math.min(...parts.map(({ x }) => x)));
  const right = Math.min(
    strip.x + strip.width,
    Math.ceil(Math.max(...parts.map(({ x, width }) => x + width))),
  );
  const window = { x: left, y: strip.y, width: right - left, height: strip.height };
  if (window.width <= 0) return;
  const svg = drawMarks(
    layers.map(({ marks }) => marks),
    toTarget,
    window,
  );
  const { data } = await sharp(Buffer.from(svg), { limitInputPixels: false })
    .ensureAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  blendOver(strip, { ...window, data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length) });
}

async function paintLayers(
  strip: Raster,
  layers: readonly Layer[],
  toTarget: Affine,
  readPart: (placed: PlacedPicture) => Promise<PartPixels | undefined>,
): Promise<void> {
  let marks: MarksLayer[] = [];
  const finishMarks = async () => {
    if (marks.length > 0) await paintMarks(strip, marks, toTarget);
    marks = [];
  };
  for (const layer of layers) {
    if (!overlaps(layer.bounds, strip)) continue;
    if (layer.kind === 'marks') {
      marks.push(layer);
      continue;
    }
    await finishMarks();
    if (layer.kind === 'multiplied') {
      const alone = emptyRaster(strip.x, strip.y, strip.width, strip.height);
      await paintLayers(alone, layer.layers, toTarget, readPart);
      blendOver(strip, alone, true);
      continue;
    }
    layer.pixels ??= readPart(layer.placed);
    const pixels = await layer.pixels;
    if (pixels) paintLayer(strip, layer, pixels);
    await nextTurn();
  }
  await finishMarks();
}

/** The bytes of pixels, not copied. */
export const bytesOf = ({ data }: Raster): Buffer => Buffer.from(data.buffer, data.byteOffset, data.length);

const nextTurn = () => new Promise<void>((resolve) => setImmediate(resolve));

/**
 * Paints a flat picture in strips, from the same list from which screens are drawn: whatever its size, only a strip of it and what
 * is read for that are in memory.
 *
 * @param readPart - the pixels of a part of a picture; undefined where there are none
 * @param onStrip - is handed each strip, top first; what it throws ends the painting
 */
export async function paintStrips(
  flat: FlatPicture,
  readPart: (placed: PlacedPicture) => Promise<PartPixels | undefined>,
  onStrip: (strip: Raster) => Promise<void>,
): Promise<void> {
  const { size, ground, toTarget } = flat;
  const layers = layersOf(flat);
  const rows = Math.max(1, Math.min(size.height, Math.floor(STRIP_PIXELS / size.width)));
  try {
    for (let y = 0; y < size.height; y += rows) {
      const strip = emptyRaster(0, y, size.width, Math.min(rows, size.height - y));
      if (ground !== null) fill(strip, ground);
      await paintLayers(strip, layers, toTarget, readPart);
      await onStrip(strip);
      await closePast(layers, y + rows);
    }
  } finally {
    await closePast(layers, Number.POSITIVE_INFINITY);
  }
}

const CLOSED = Promise.resolve(undefined);

/** What lies above a row is not read any more. */
async function closePast(layers: readonly Layer[], y: number): Promise<void> {
  for (const layer of layers) {
    if (layer.kind === 'multiplied') await closePast(layer.layers, y);
    if (layer.kind !== 'picture' || !layer.pixels || layer.pixels === CLOSED) continue;
    if (layer.bounds.y + layer.bounds.height > y) continue;
    const pixels = await layer.pixels.catch(() => undefined);
    pixels?.close();
    layer.pixels = CLOSED;
  }
}

function fill({ data }: Raster, grey: number): void {
  data.fill(grey);
  for (let at = 3; at < data.length; at += 4) data[at] = 255;
}
