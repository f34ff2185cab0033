import type { Rectangle } from '@miradero/core/geometry';
import {
  type Layer,
  layOver,
  type PaintedSheet,
  type Rgb8,
  release,
  TILE_PX,
  type TilePixels,
  tileArea,
  tileOf,
  tilePlace,
  wholePixels,
} from '@miradero/core/paint';
import type { SeenPart } from '../messages.ts';

/** A part of a tile made as large as the pixels of a level need it. */
function alignedTo(level: number, { x, y, width, height }: Rectangle): Rectangle {
  const step = 1 << level;
  const [left, top] = [Math.floor(x / step) * step, Math.floor(y / step) * step];
  const [right, bottom] = [Math.ceil((x + width) / step) * step, Math.ceil((y + height) / step) * step];
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** Up to this level the sums of a square of pixels fit into 16 bits: two channels are added at once. */
const MOST_PACKED = 4;

/** A part of a tile, each pixel the mean of 2^level by 2^level; what is clear counts for as little. */
function madeSmaller(
  pixels: TilePixels,
  { x, y, width, height }: Rectangle,
  level: number,
): Uint8ClampedArray<ArrayBuffer> {
  const step = 1 << level;
  const columns = width / step;
  const rows = height / step;
  const data = new Uint8ClampedArray(columns * rows * 4);
  const from = wholePixels(pixels);
  const into = new Uint32Array(data.buffer);
  if (level === 0) {
    for (let row = 0; row < rows; row += 1) {
      const start = (y + row) * TILE_PX + x;
      into.set(from.subarray(start, start + width), row * width);
    }
    return data;
  }
  for (let row = 0; row < rows; row += 1) {
    const first = (y + row * step) * TILE_PX + x;
    if (level > MOST_PACKED) meansOfRow(pixels, first, step, data, row * columns, columns);
    else packedMeansOfRow(from, pixels, first, level, into, data, row * columns, columns);
  }
  return data;
}

/** One row of means, where all of its pixels are there wholly; else as they come. */
function packedMeansOfRow(
  from: Uint32Array,
  pixels: TilePixels,
  first: number,
  level: number,
  into: Uint32Array,
  data: Uint8ClampedArray,
  to: number,
  count: number,
): void {
  const step = 1 << level;
  const shift = 2 * level;
  const half = (1 << shift) >> 1;
  const whole = 255 << shift;
  for (let column = 0; column < count; column += 1) {
    let redBlue = 0;
    let greenAlpha = 0;
    const start = first + column * step;
    for (let down = 0; down < step; down += 1) {
      const line = start + down * TILE_PX;
      for (let at = line; at < line + step; at += 1) {
        const pixel = from[at]!;
        redBlue += pixel & 0xff_00_ff;
        greenAlpha += (pixel >>> 8) & 0xff_00_ff;
      }
    }
    if (greenAlpha >>> 16 === whole) {
      const red = ((redBlue & 0xff_ff) + half) >> shift;
      const green = ((greenAlpha & 0xff_ff) + half) >> shift;
      const blue = ((redBlue >>> 16) + half) >> shift;
      into[to + column] = (255 << 24) | (blue << 16) | (green << 8) | red;
    } else if (greenAlpha >>> 16 !== 0) meansOfRow(pixels, start, step, data, to + column, 1);
  }
}

/** Means of squares of pixels, premultiplied. */
function meansOfRow(
  pixels: TilePixels,
  first: number,
  step: number,
  data: Uint8ClampedArray,
  to: number,
  count: number,
): void {
  for (let column = 0; column < count; column += 1) {
    let red = 0;
    let green = 0;
    let blue = 0;
    let alpha = 0;
    for (let down = 0; down < step; down += 1)
      for (let right = 0; right < step; right += 1) {
        const at = (first + column * step + down * TILE_PX + right) * 4;
        const share = pixels[at + 3]!;
        red += pixels[at]! * share;
        green += pixels[at + 1]! * share;
        blue += pixels[at + 2]! * share;
        alpha += share;
      }
    if (alpha === 0) continue;
    const at = (to + column) * 4;
    data[at] = red / alpha;
    data[at + 1] = green / alpha;
    data[at + 2] = blue / alpha;
    data[at + 3] = alpha / (step * step);
  }
}

/** Bare ground where it is shown: vermilion. */
const BARE: Rgb8 = [191, 65, 40];

/** A colour that is there wholly as one pixel, its red lowest. */
const pixelOf = ([red, green, blue]: Rgb8): number => ((255 << 24) | (blue << 16) | (green << 8) | red) >>> 0;

function filled(width: number, height: number, pixel: number): Uint8ClampedArray<ArrayBuffer> {
  const data = new Uint8ClampedArray(width * height * 4);
  new Uint32Array(data.buffer).fill(pixel);
  return data;
}

/** What lies below is had of so many tiles: more than a stroke comes back to, mostly. */
const MOST_BELOW = 256;

/** Cuts what is seen of a sheet. While one layer is worked on, what lies below it is laid together once. */
export class Seen {
  readonly #sheet: PaintedSheet;
  readonly #scratch: TilePixels = tileOf(null);
  readonly #below = new Map<number, TilePixels>();
  #active: string | undefined;
  /** Where nothing is painted stands out. */
  isBareShown = false;

  constructor(sheet: PaintedSheet) {
    this.#sheet = sheet;
  }

  /** One layer is worked on from now on; undefined: none. */
  workOn(layer: string | undefined): void {
    this.#active = layer;
    for (const made of this.#below.values()) release(made);
    this.#below.clear();
  }

  /** A part of one tile as it is seen, at some levels. */
  parts(key: number, asked: Rectangle, levels: readonly number[]): SeenPart[] {
    const part = alignedTo(Math.max(...levels), asked);
    const { x, y } = tileArea(tilePlace(key));
    const blank = this.#blankOf(key);
    if (blank === undefined) this.#compose(key, part);
    return levels.map((level) => {
      const step = 1 << level;
      const [width, height] = [part.width / step, part.height / step];
      return {
        ...{ level, x: (x + part.x) / step, y: (y + part.y) / step, width, height },
        data: blank === undefined ? madeSmaller(this.#scratch, part, level) : filled(width, height, blank),
      };
    });
  }

  /** The pixel that all of a tile is; undefined where something is painted on it. */
  #blankOf(key: number): number | undefined {
    const { layers, ground } = this.#now();
    if (layers.some(({ tiles, isHidden }) => !isHidden && tiles.get(key))) return undefined;
    return ground ? pixelOf(ground) : 0;
  }

  #compose(key: number, part: Rectangle): void {
    const { layers, ground } = this.#now();
    const at = layers.findIndex(({ id }) => id === this.#active);
    const isPaintedBelow = layers.slice(0, at).some(({ tiles, isHidden }) => !isHidden && tiles.get(key));
    const below = at > 0 && isPaintedBelow ? wholePixels(this.#belowOf(key, at)) : undefined;
    const onto = wholePixels(this.#scratch);
    const pixel = ground ? pixelOf(ground) : 0;
    for (let row = part.y; row < part.y + part.height; row += 1) {
      const from = row * TILE_PX + part.x;
      if (below) onto.set(below.subarray(from, from + part.width), from);
      else onto.fill(pixel, from, from + part.width);
    }
    layOver(this.#scratch, below ? layers.slice(at) : layers, key, part);
  }

  /** What is laid together: where bare ground is shown, that is of one colour and nothing else. */
  #now(): { readonly layers: readonly Layer[]; readonly ground: Rgb8 | null } {
    const { layers, ground } = this.#sheet;
    if (!this.isBareShown) return { layers, ground };
    return { layers: layers.filter(({ kind }) => kind !== 'ground'), ground: BARE };
  }

  #belowOf(key: number, at: number): TilePixels {
    const known = this.#below.get(key);
    if (known) return known;
    const { layers, ground } = this.#now();
    const [oldest] = this.#below;
    const made = this.#below.size < MOST_BELOW ? tileOf(ground) : oldest![1];
    if (made === oldest?.[1]) {
      this.#below.delete(oldest[0]);
      wholePixels(made).fill(ground ? pixelOf(ground) : 0);
    }
    layOver(made, layers.slice(0, at), key);
    this.#below.set(key, made);
    return made;
  }
}
