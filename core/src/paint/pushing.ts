import { inflate, type Point, type Rectangle, unionOf } from '../geometry/index.ts';
import type { PenPoint } from './brush.ts';
import type { Layer } from './layers.ts';
import { PushPull } from './push-pull.ts';
import { TILE_PX, type TilePixels, type Tiles, tileArea, tileKey, tilePlace } from './tiles.ts';
import { type AlteredParts, joinParts, TouchedTiles } from './touched.ts';
import type { TileChange } from './undo.ts';

/** Pushes and pulls what is painted on a layer, from the first touch until the pen is lifted. */
export class Pushing {
  readonly #before: Tiles;
  readonly #tiles: TouchedTiles;
  readonly #mesh: PushPull;
  readonly #radius: number;
  readonly #keepsToPainted: boolean;
  #last: Point | undefined;

  /**
   * @param radius - of what is pushed, px
   * @param within - pixels of the sheet that may be altered, whole ones; its edge stays
   * @throws RangeError where the layer is locked
   */
  constructor(layer: Layer, radius: number, within: Rectangle) {
    this.#tiles = new TouchedTiles(layer, within);
    this.#before = layer.tiles.copy();
    this.#mesh = new PushPull(within);
    this.#radius = Math.max(2, radius);
    this.#keepsToPainted = layer.keepsToPainted;
  }

  /** Goes on along points. @returns what looks otherwise now */
  to(points: readonly PenPoint[]): AlteredParts {
    const altered = new Map<number, Rectangle>();
    for (const point of points) joinParts(altered, this.#pushTo(point));
    return altered;
  }

  #pushTo(point: PenPoint): AlteredParts {
    const from = this.#last;
    this.#last = point;
    if (!from || (from.x === point.x && from.y === point.y)) return new Map();
    this.#mesh.push(from, point, this.#radius);
    const reach = inflate(unionOf([boxAt(from), boxAt(point)])!, this.#radius + 1);
    return this.#tiles.alter(reach, ({ key, pixels, part }) => {
      const { x: left, y: top } = tileArea(tilePlace(key));
      for (let y = part.y; y < part.y + part.height; y += 1)
        for (let x = part.x; x < part.x + part.width; x += 1) {
          const source = this.#mesh.sourceOf({ x: left + x + 0.5, y: top + y + 0.5 });
          this.#lay(pixels, (y * TILE_PX + x) * 4, source.x - 0.5, source.y - 0.5);
        }
    });
  }

  end(): TileChange[] {
    return this.#tiles.end();
  }

  cancel(): AlteredParts {
    return this.#tiles.cancel();
  }

  /** Mixes the four nearest pixels, premultiplied, as they were before. */
  #lay(pixels: TilePixels, at: number, x: number, y: number): void {
    const [column, row] = [Math.floor(x), Math.floor(y)];
    const [right, down] = [x - column, y - row];
    let [red, green, blue, alpha] = [0, 0, 0, 0];
    for (let corner = 0; corner < 4; corner += 1) {
      const [dx, dy] = [corner & 1, corner >> 1];
      const share = (dx ? right : 1 - right) * (dy ? down : 1 - down);
      if (share === 0) continue;
      const tile = this.#tileAt(column + dx, row + dy);
      if (!tile) continue;
      const from = (((row + dy) % TILE_PX) * TILE_PX + ((column + dx) % TILE_PX)) * 4;
      const weight = share * tile[from + 3]!;
      red += tile[from]! * weight;
      green += tile[from + 1]! * weight;
      blue += tile[from + 2]! * weight;
      alpha += weight;
    }
    if (this.#keepsToPainted) {
      if (pixels[at + 3] === 0 || alpha === 0) return;
    } else pixels[at + 3] = alpha;
    pixels[at] = alpha > 0 ? red / alpha : 0;
    pixels[at + 1] = alpha > 0 ? green / alpha : 0;
    pixels[at + 2] = alpha > 0 ? blue / alpha : 0;
  }

  #tileAt(x: number, y: number): TilePixels | undefined {
    if (x < 0 || y < 0) return undefined;
    return this.#before.get(tileKey({ column: Math.floor(x / TILE_PX), row: Math.floor(y / TILE_PX) }));
  }
}

const boxAt = ({ x, y }: Point): Rectangle => ({ x, y, width: 0, height: 0 });
