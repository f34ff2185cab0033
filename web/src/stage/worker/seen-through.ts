/** What something looks like through lenses, and how many pixels that takes. */
export interface Seen {
  readonly width: number;
  readonly height: number;
}

/**
 * What things look like through lenses, so that it is computed once: the last of each, within a budget of pixels; what was
 * used longest ago goes first.
 */
export class SeenThrough<Thing, Look extends Seen> {
  readonly #budget: number;
  /** In the order of use. */
  readonly #kept = new Map<Thing, { readonly key: string; readonly look: Look }>();
  #pixels = 0;

  /** @param budget - pixels */
  constructor(budget: number) {
    this.#budget = budget;
  }

  get pixels(): number {
    return this.#pixels;
  }

  /** @param key - everything that decides what it looks like */
  find(thing: Thing, key: string): Look | undefined {
    const kept = this.#kept.get(thing);
    if (kept?.key !== key) return undefined;
    this.#kept.delete(thing);
    this.#kept.set(thing, kept);
    return kept.look;
  }

  keep(thing: Thing, key: string, look: Look): void {
    this.#drop(thing);
    this.#kept.set(thing, { key, look });
    this.#pixels += look.width * look.height;
    for (const oldest of this.#kept.keys()) {
      if (this.#pixels <= this.#budget) break;
      this.#drop(oldest);
    }
  }

  #drop(thing: Thing): void {
    const kept = this.#kept.get(thing);
    if (!kept) return;
    this.#kept.delete(thing);
    this.#pixels -= kept.look.width * kept.look.height;
  }
}
