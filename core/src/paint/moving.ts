import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  compose,
  intersectionOf,
  invertAffine,
  type Point,
  type Rectangle,
  scaling,
  translation,
} from '../geometry/index.ts';
import { emptyRaster, paintPicture, type Raster } from '../raster/index.ts';
import { type Floating, floatingOf } from './floating.ts';
import type { Layer } from './layers.ts';
import type { Mask } from './mask.ts';
import { tileLike } from './paint-tile.ts';
import { TILE_PX, type TilePixels, tileArea, tileKey, tilePlace, tilesIn } from './tiles.ts';
import { type AlteredParts, wholeTiles } from './touched.ts';
import type { TileChange } from './undo.ts';

/** Half as wide and high: each pixel the mean of four, by how much they cover. */
function halved({ width, height, data }: Raster): Raster {
  const half = emptyRaster(0, 0, Math.ceil(width / 2), Math.ceil(height / 2));
  for (let y = 0, to = 0; y < half.height; y += 1)
    for (let x = 0; x < half.width; x += 1, to += 4) {
      const sums = [0, 0, 0, 0];
      for (let part = 0; part < 4; part += 1) {
        const [column, row] = [2 * x + (part & 1), 2 * y + (part >> 1)];
        if (column >= width || row >= height) continue;
        const at = (row * width + column) * 4;
        const alpha = data[at + 3]!;
        for (let band = 0; band < 3; band += 1) sums[band]! += data[at + band]! * alpha;
        sums[3]! += alpha;
      }
      for (let band = 0; band < 3; band += 1)
        half.data[to + band] = sums[3]! > 0 ? sums[band]! / sums[3]! : 0;
      half.data[to + 3] = sums[3]! / 4;
    }
  return half;
}

interface TileState {
  readonly before: TilePixels | undefined;
  /** Without what moves. */
  readonly rest: TilePixels | undefined;
}

/** Moves, scales and turns what was selected of a layer: seen at each step, taken up or left as a whole. */
export class Moving {
  readonly #layer: Layer;
  readonly #frame: Rectangle;
  readonly #pixels: Raster;
  readonly #tiles: Map<number, TileState>;
  /** Tiles on which it is seen now. */
  #shown: ReadonlySet<number> = new Set();

  /**
   * @param frame - pixels of the sheet that may be painted, whole ones
   * @returns undefined where nothing of the layer is selected
   * @throws RangeError where the layer is locked
   */
  static of(layer: Layer, mask: Mask, frame: Rectangle): Moving | undefined {
    if (layer.isLocked) throw new RangeError(`The layer “${layer.name}” is locked.`);
    const floating = floatingOf(layer, mask);
    return floating && new Moving(layer, floating, frame);
  }

  private constructor(layer: Layer, { pixels, tiles }: Floating, frame: Rectangle) {
    this.#layer = layer;
    this.#frame = frame;
    this.#pixels = pixels;
    this.#tiles = new Map(tiles);
  }

  /** Where it was, pixels of the sheet. */
  get bounds(): Rectangle {
    const { x, y, width, height } = this.#pixels;
    return { x, y, width, height };
  }

  /** Shows it elsewhere. @param to - pixels of the sheet where it was → where it is @returns what looks otherwise now */
  show(to: Affine): AlteredParts {
    const { x, y, width, height } = this.#pixels;
    const polygon = [
      ...[
        { x, y },
        { x: x + width, y },
      ],
      ...[
        { x: x + width, y: y + height },
        { x, y: y + height },
      ],
    ].map((corner) => applyAffine(to, corner));
    const next = new Set([...tilesIn(intersectionOf(boundsOfPoints(polygon), this.#frame))].map(tileKey));
    const touched = new Set([...this.#tiles.keys(), ...this.#shown, ...next]);
    const { source, toSource } = smallEnough(
      { ...this.#pixels, x: 0, y: 0 },
      invertAffine(compose(to, translation(x, y))),
    );
    for (const key of touched) {
      const before = this.#layer.tiles.get(key);
      const state = this.#tiles.get(key) ?? { before, rest: before };
      this.#tiles.set(key, state);
      const onto = tileLike(state.rest);
      if (next.has(key)) this.#paintOn(key, onto, source, toSource, polygon);
      this.#layer.tiles.set(key, onto);
    }
    this.#shown = next;
    return wholeTiles(touched);
  }

  /** It stays where it is. @returns what altered, for undo */
  end(): TileChange[] {
    return [...this.#tiles].flatMap(([key, { before }]) => {
      const after = this.#layer.tiles.get(key);
      return before === after ? [] : [{ layer: this.#layer.id, key, before, after }];
    });
  }

  /** It is taken away: what was not selected is left. @returns what looks otherwise now */
  discard(): AlteredParts {
    for (const [key, { rest }] of this.#tiles) this.#layer.tiles.set(key, rest);
    return wholeTiles(this.#tiles.keys());
  }

  /** It is where it was. @returns what looks otherwise now */
  cancel(): AlteredParts {
    for (const [key, { before }] of this.#tiles) this.#layer.tiles.set(key, before);
    return wholeTiles(this.#tiles.keys());
  }

  /** Paints it on one tile, within the frame alone. */
  #paintOn(key: number, onto: TilePixels, source: Raster, toSource: Affine, polygon: readonly Point[]): void {
    const area = tileArea(tilePlace(key));
    const part = intersectionOf(area, this.#frame);
    if (part.width === area.width && part.height === area.height) {
      paintPicture({ ...area, data: onto }, source, toSource, polygon, 1);
      return;
    }
    const within = tileLike(onto);
    paintPicture({ ...area, data: within }, source, toSource, polygon, 1);
    for (let row = part.y - area.y; row < part.y - area.y + part.height; row += 1) {
      const from = (row * TILE_PX + part.x - area.x) * 4;
      onto.set(within.subarray(from, from + part.width * 4), from);
    }
  }
}

/** Made much smaller, pixels are halved first: between four of them the others would be lost. */
function smallEnough(pixels: Raster, asked: Affine): { readonly source: Raster; readonly toSource: Affine } {
  let [source, toSource] = [pixels, asked];
  while (Math.min(Math.hypot(toSource[0], toSource[1]), Math.hypot(toSource[2], toSource[3])) >= 2) {
    source = halved(source);
    toSource = compose(scaling(0.5, 0.5), toSource);
  }
  return { source, toSource };
}
