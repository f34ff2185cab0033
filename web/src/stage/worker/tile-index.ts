import type { TileLevel } from '@miradero/core/schema';
import { tileLevelsOf } from '../../pixels/index.ts';

/** The pyramids of very large pictures, each asked for once. */
export class TileIndex {
  readonly #known = new Map<string, readonly TileLevel[]>();
  readonly #asking = new Set<string>();
  readonly #onNews: () => void;

  constructor(onNews: () => void) {
    this.#onNews = onNews;
  }

  /** The levels of a picture, finest first; undefined while they are on their way. */
  levelsOf(picture: string): readonly TileLevel[] | undefined {
    const known = this.#known.get(picture);
    if (!known && !this.#asking.has(picture)) void this.#ask(picture);
    return known;
  }

  async #ask(picture: string): Promise<void> {
    this.#asking.add(picture);
    try {
      this.#known.set(picture, await tileLevelsOf(picture));
      this.#onNews();
    } catch {
      // The server is away: asked for again by a later frame.
    }
    this.#asking.delete(picture);
  }
}
