import type { Rectangle } from '../geometry/index.ts';
import { type Brush, coverageAt, type Dab, DabWalker, type PenPoint } from './brush.ts';
import type { Layer } from './layers.ts';
import { reachOf } from './stroke.ts';
import { TILE_PX, type TilePixels, tileArea, tileKey, tilePlace } from './tiles.ts';
import { type AlteredParts, joinParts, TouchedTiles } from './touched.ts';
import type { TileChange } from './undo.ts';

/** What a smudging brush carries: premultiplied RGBA, 0..255, of a square about its middle; row-major. */
interface Carried {
  readonly side: number;
  readonly pixels: Float32Array;
}

/** Draws wet paint along: the brush takes up what it passes over and leaves it further on. */
export class Smudge {
  readonly #layer: Layer;
  readonly #brush: Brush;
  readonly #strength: number;
  readonly #walker: DabWalker;
  readonly #tiles: TouchedTiles;
  #carried: Carried | undefined;

  /**
   * @param brush - its size, hardness and what pressure does; how much it carries on follows from its opacity
   * @param within - pixels of the sheet that may be altered
   * @throws RangeError where the layer is locked
   */
  constructor(layer: Layer, brush: Brush, within: Rectangle) {
    this.#layer = layer;
    this.#brush = { ...brush, flow: 1, pressureTo: { ...brush.pressureTo, size: false } };
    this.#strength = brush.opacity;
    this.#walker = new DabWalker(this.#brush);
    this.#tiles = new TouchedTiles(layer, within);
  }

  /** Goes on along points. @returns what looks otherwise now */
  to(points: readonly PenPoint[]): AlteredParts {
    const altered = new Map<number, Rectangle>();
    for (const dab of points.flatMap((point) => this.#walker.to(point))) joinParts(altered, this.#pass(dab));
    return altered;
  }

  end(): TileChange[] {
    return this.#tiles.end();
  }

  cancel(): AlteredParts {
    return this.#tiles.cancel();
  }

  #pass(dab: Dab): AlteredParts {
    const half = Math.ceil(dab.radius) + 1;
    const [middleX, middleY] = [Math.floor(dab.x), Math.floor(dab.y)];
    const under = this.#under(middleX - half, middleY - half, 2 * half + 1);
    const carried = this.#carried;
    const strength = this.#strength * dab.strength;
    if (!carried || carried.side !== under.side) {
      // The first touch only takes up.
      this.#carried = under;
      return new Map();
    }
    const keys = this.#tiles.alter(reachOf(dab), ({ key, pixels, part }) => {
      const { x: left, y: top } = tileArea(tilePlace(key));
      for (let y = part.y; y < part.y + part.height; y += 1)
        for (let x = part.x; x < part.x + part.width; x += 1) {
          const [column, row] = [left + x - middleX + half, top + y - middleY + half];
          if (column < 0 || row < 0 || column >= under.side || row >= under.side) continue;
          const away = Math.hypot(left + x + 0.5 - dab.x, top + y + 0.5 - dab.y);
          const share = coverageAt(away, dab.radius, this.#brush.hardness) * strength;
          if (share > 0)
            lay(
              pixels,
              (y * TILE_PX + x) * 4,
              under,
              carried,
              (row * under.side + column) * 4,
              share,
              this.#layer,
            );
        }
    });
    // It goes on with what it had, and with a little of what it passed over.
    for (let at = 0; at < under.pixels.length; at += 1)
      under.pixels[at] = under.pixels[at]! + (carried.pixels[at]! - under.pixels[at]!) * strength;
    this.#carried = under;
    return keys;
  }

  #under(left: number, top: number, side: number): Carried {
    const pixels = new Float32Array(side * side * 4);
    let [known, tile] = [-1, undefined as TilePixels | undefined];
    for (let row = 0, to = 0; row < side; row += 1)
      for (let column = 0; column < side; column += 1, to += 4) {
        const [x, y] = [left + column, top + row];
        if (x < 0 || y < 0) continue;
        const key = tileKey({ column: Math.floor(x / TILE_PX), row: Math.floor(y / TILE_PX) });
        if (key !== known) {
          known = key;
          tile = this.#layer.tiles.get(key);
        }
        if (!tile) continue;
        const at = ((y % TILE_PX) * TILE_PX + (x % TILE_PX)) * 4;
        const alpha = tile[at + 3]! / 255;
        for (let part = 0; part < 3; part += 1) pixels[to + part] = tile[at + part]! * alpha;
        pixels[to + 3] = tile[at + 3]!;
      }
    return { side, pixels };
  }
}

/** Mixes what is under a brush with what it carries, premultiplied, into one pixel. */
function lay(
  pixels: TilePixels,
  at: number,
  under: Carried,
  carried: Carried,
  from: number,
  share: number,
  { keepsToPainted }: Layer,
): void {
  const mixed = (part: number) =>
    under.pixels[from + part]! + (carried.pixels[from + part]! - under.pixels[from + part]!) * share;
  const alpha = mixed(3);
  if (keepsToPainted && pixels[at + 3] === 0) return;
  for (let part = 0; part < 3; part += 1) pixels[at + part] = alpha > 0 ? (mixed(part) * 255) / alpha : 0;
  if (!keepsToPainted) pixels[at + 3] = alpha;
}
