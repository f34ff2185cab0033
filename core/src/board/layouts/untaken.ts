/** Sizes by width, greatest first, of which those that are taken are skipped in nearly constant time. */
export class Untaken {
  readonly order: Uint32Array;
  readonly #widths: Float64Array;
  /** Where to look on, for each place of the order: its own place while it is not taken. */
  readonly #next: Uint32Array;
  #last: number;
  count: number;

  /** @param order - indices into `widths`, by falling width */
  constructor(widths: Float64Array, order: Uint32Array) {
    this.order = order;
    this.#widths = widths;
    this.count = order.length;
    this.#last = order.length - 1;
    this.#next = new Uint32Array(order.length + 1).map((_, index) => index);
  }

  /** The first place at or after `place` that is not taken; the length of the order for none. */
  from(place: number): number {
    const next = this.#next;
    let root = place;
    while (next[root] !== root) root = next[root]!;
    for (let at = place; at !== root; ) {
      const following = next[at]!;
      next[at] = root;
      at = following;
    }
    return root;
  }

  /** The first place whose size is no wider than `width`. */
  notWiderThan(width: number): number {
    let [low, high] = [0, this.order.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.#widths[this.order[middle]!]! > width) low = middle + 1;
      else high = middle;
    }
    return this.from(low);
  }

  /** Width of the narrowest that is left; infinite for none. */
  get narrowest(): number {
    while (this.#last >= 0 && this.#next[this.#last] !== this.#last) this.#last -= 1;
    return this.#last < 0 ? Number.POSITIVE_INFINITY : this.#widths[this.order[this.#last]!]!;
  }

  take(place: number): void {
    this.#next[place] = place + 1;
    this.count -= 1;
  }
}
