import { type Rectangle, unionOf } from '../geometry/index.ts';
import { type Brush, type Dab, DabWalker, type PenPoint } from './brush.ts';
import type { Layer } from './layers.ts';
import { Mask } from './mask.ts';
import { type Paint, paintTile } from './paint-tile.ts';
import { type AlteredParts, TouchedTiles } from './touched.ts';
import type { TileChange } from './undo.ts';

/** What a dab reaches, pixels of the sheet: its edge takes a pixel more. */
export const reachOf = ({ x, y, radius }: Dab): Rectangle => ({
  x: x - radius - 1,
  y: y - radius - 1,
  width: 2 * radius + 2,
  height: 2 * radius + 2,
});

/** One stroke on a layer, from the first touch until the pen is lifted: seen as it grows, taken up or left as a whole. */
export class PaintStroke {
  readonly #paint: Paint;
  readonly #brush: Brush;
  readonly #walker: DabWalker;
  readonly #mask: Mask;
  readonly #tiles: TouchedTiles;

  /**
   * @param colour - sRGB 0..255; null takes away
   * @param within - pixels of the sheet that may be painted
   * @throws RangeError where the layer is locked
   */
  constructor(layer: Layer, brush: Brush, colour: Paint['colour'], within: Rectangle) {
    this.#tiles = new TouchedTiles(layer, within);
    this.#brush = brush;
    this.#walker = new DabWalker(brush);
    this.#mask = new Mask(within);
    this.#paint = { colour, opacity: brush.opacity, keepsToPainted: layer.keepsToPainted };
  }

  /** Goes on along points. @returns what looks otherwise now */
  to(points: readonly PenPoint[]): AlteredParts {
    const dabs = points.flatMap((point) => this.#walker.to(point));
    for (const dab of dabs) this.#mask.stamp(dab, this.#brush.hardness);
    const area = unionOf(dabs.map(reachOf));
    if (!area) return new Map();
    return this.#tiles.alter(area, ({ key, before, pixels, part }) => {
      const mask = this.#mask.get(key);
      if (mask) paintTile(before, mask, this.#paint, pixels, part);
    });
  }

  /** The pen was lifted. @returns what it altered, for undo */
  end(): TileChange[] {
    return this.#tiles.end();
  }

  /** It is as if it had not been begun. @returns what looks otherwise now */
  cancel(): AlteredParts {
    return this.#tiles.cancel();
  }

  /** It goes on no more: what it needed for that is given back. */
  close(): void {
    this.#mask.release();
  }
}
