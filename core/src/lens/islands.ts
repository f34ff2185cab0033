/** Which part a part became a piece of. */
class Parts {
  readonly #parents: Int32Array;
  constructor(count: number) {
    this.#parents = Int32Array.from({ length: count }, (_, part) => part);
  }
  find(part: number): number {
    const parents = this.#parents;
    let root = part;
    while (parents[root] !== root) root = parents[root]!;
    for (let at = part; at !== root; ) {
      const next = parents[at]!;
      parents[at] = root;
      at = next;
    }
    return root;
  }
  /** @param to - is the root afterwards */
  join(part: number, to: number): void {
    this.#parents[part] = to;
  }
}

/** Parts of one label that hang together by their sides. @returns for each pixel the number of its part, and how many there are */
function partsOf(labels: Uint8Array, width: number): { readonly part: Int32Array; readonly count: number } {
  const part = new Int32Array(labels.length);
  const parents: number[] = [];
  const find = (one: number) => {
    let root = one;
    while (parents[root] !== root) root = parents[root]!;
    let at = one;
    while (parents[at] !== root) {
      const next = parents[at]!;
      parents[at] = root;
      at = next;
    }
    return root;
  };
  for (let at = 0; at < labels.length; at += 1) {
    const label = labels[at]!;
    const isLeft = at % width > 0 && labels[at - 1] === label;
    const isAbove = at >= width && labels[at - width] === label;
    if (!isLeft && !isAbove) {
      part[at] = parents.length;
      parents.push(parents.length);
    } else if (isLeft && isAbove && part[at - 1] !== part[at - width]) {
      const [one, other] = [find(part[at - 1]!), find(part[at - width]!)];
      const root = Math.min(one, other);
      parents[Math.max(one, other)] = root;
      part[at] = root;
    } else part[at] = isLeft ? part[at - 1]! : part[at - width]!;
  }
  const numbers = new Int32Array(parents.length);
  let count = 0;
  for (let one = 0; one < parents.length; one += 1) {
    // A root comes before all that it stands for.
    if (parents[one] === one) numbers[one] = count++;
    else numbers[one] = numbers[find(one)]!;
  }
  for (let at = 0; at < part.length; at += 1) part[at] = numbers[part[at]!]!;
  return { part, count };
}

/** For each part the parts beside it, once for every side that they share: lists in one array, joined at their ends. */
class Beside {
  readonly #head: Int32Array;
  readonly #tail: Int32Array;
  #next: Int32Array;
  #other: Int32Array;
  #count = 0;

  constructor(parts: number) {
    this.#head = new Int32Array(parts).fill(-1);
    this.#tail = new Int32Array(parts).fill(-1);
    this.#next = new Int32Array(1 << 16);
    this.#other = new Int32Array(1 << 16);
  }

  add(part: number, other: number): void {
    const at = this.#count;
    if (at === this.#next.length) {
      const longer = (from: Int32Array) => {
        const to = new Int32Array(from.length * 2);
        to.set(from);
        return to;
      };
      this.#next = longer(this.#next);
      this.#other = longer(this.#other);
    }
    this.#count += 1;
    this.#other[at] = other;
    this.#next[at] = this.#head[part]!;
    if (this.#head[part] === -1) this.#tail[part] = at;
    this.#head[part] = at;
  }

  /** What lay beside one lies beside the other. */
  join(part: number, to: number): void {
    if (this.#head[part] === -1) return;
    if (this.#head[to] === -1) this.#tail[to] = this.#tail[part]!;
    else this.#next[this.#tail[part]!] = this.#head[to]!;
    this.#head[to] = this.#head[part]!;
  }

  *of(part: number): Generator<number> {
    for (let at = this.#head[part]!; at !== -1; at = this.#next[at]!) yield this.#other[at]!;
  }
}

/**
 * Parts that are too small join what lies beside them: the smallest first, each the neighbour with which it shares most of its
 * edge, one that is large enough before others, until none is too small.
 *
 * @param labels - altered in place; row by row
 * @param least - pixels
 */
export function joinIslands(labels: Uint8Array, width: number, least: number): void {
  const { part, count } = partsOf(labels, width);
  const sizes = new Int32Array(count);
  const labelOf = new Uint8Array(count);
  for (let at = 0; at < part.length; at += 1) {
    sizes[part[at]!]! += 1;
    labelOf[part[at]!] = labels[at]!;
  }
  const beside = new Beside(count);
  const meet = (one: number, other: number) => {
    if (one === other) return;
    if (sizes[one]! < least) beside.add(one, other);
    if (sizes[other]! < least) beside.add(other, one);
  };
  for (let at = 0; at < part.length; at += 1) {
    if (at % width > 0) meet(part[at]!, part[at - 1]!);
    if (at >= width) meet(part[at]!, part[at - width]!);
  }
  /** Small parts by their size; of those that grew meanwhile a later entry counts. */
  const waiting: number[][] = Array.from({ length: Math.ceil(least) }, () => []);
  for (let one = 0; one < count; one += 1) if (sizes[one]! < least) waiting[sizes[one]!]!.push(one);
  const parts = new Parts(count);
  const shared = new Map<number, number>();
  for (const [size, all] of waiting.entries())
    for (const one of all) {
      if (parts.find(one) !== one || sizes[one] !== size) continue;
      shared.clear();
      for (const other of beside.of(one)) {
        const root = parts.find(other);
        if (root !== one) shared.set(root, (shared.get(root) ?? 0) + 1);
      }
      let to = -1;
      let [most, isLarge] = [0, false];
      for (const [other, sides] of shared) {
        const large = sizes[other]! >= least;
        if (large === isLarge ? sides > most : large) {
          to = other;
          most = sides;
          isLarge = large;
        }
      }
      if (to === -1) continue;
      const label = labelOf[to]!;
      // It may have lain between several of that label: they hang together now.
      for (const other of [one, ...shared.keys()]) {
        if (other === to || (other !== one && labelOf[other] !== label)) continue;
        parts.join(other, to);
        beside.join(other, to);
        sizes[to]! += sizes[other]!;
      }
      if (sizes[to]! < least) waiting[sizes[to]!]!.push(to);
    }
  for (let at = 0; at < labels.length; at += 1) labels[at] = labelOf[parts.find(part[at]!)]!;
}
