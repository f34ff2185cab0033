/** Triangles of a leaf: below this, testing costs less than another box. */
const LEAF_TRIANGLES = 4;
const BINS = 12;

/**
 * A bounding volume hierarchy over triangles, built by binned surface area; first hits and any hits of rays.
 * Sources: Wald, "On fast construction of SAH-based bounding volume hierarchies", 2007;
 * Möller and Trumbore, "Fast, minimum storage ray/triangle intersection", 1997.
 */
export class Bvh {
  /** Six floats a node: least corner, greatest corner. */
  readonly #bounds: Float32Array;
  /** Two a node: first child (count 0) or first triangle, and the count. */
  readonly #links: Int32Array;
  /** Nine floats a triangle in leaf order: corner, two edges. */
  readonly #triangles: Float32Array;
  /** Leaf order → triangle as it was given. */
  readonly #order: Uint32Array;
  readonly #unshaded: Uint8Array;
  readonly #stack = new Int32Array(128);
  readonly #starts = new Float64Array(128);
  /** Of the last hit: distance, barycentric weights of the second and third corner, triangle. */
  distance = 0;
  u = 0;
  v = 0;
  triangle = -1;

  /** @param corners - nine floats a triangle; `castsNone` tells triangles that stop no light */
  constructor(corners: Float32Array, castsNone: (triangle: number) => boolean = () => false) {
    const count = corners.length / 9;
    const { bounds, links, order } = grow(corners, count);
    this.#bounds = bounds;
    this.#links = links;
    this.#order = order;
    this.#triangles = new Float32Array(count * 9);
    this.#unshaded = new Uint8Array(count);
    for (let index = 0; index < count; index += 1) {
      const from = order[index]! * 9;
      for (let axis = 0; axis < 3; axis += 1) {
        this.#triangles[index * 9 + axis] = corners[from + axis]!;
        this.#triangles[index * 9 + 3 + axis] = corners[from + 3 + axis]! - corners[from + axis]!;
        this.#triangles[index * 9 + 6 + axis] = corners[from + 6 + axis]! - corners[from + axis]!;
      }
      this.#unshaded[index] = castsNone(order[index]!) ? 1 : 0;
    }
  }

  /** Whether anything lies along the ray before `far`; `any` stops at the first thing that casts a shadow. */
  cast(
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    far: number,
    any: boolean,
  ): boolean {
    const bounds = this.#bounds;
    const links = this.#links;
    const triangles = this.#triangles;
    const stack = this.#stack;
    const starts = this.#starts;
    const ix = 1 / dx;
    const iy = 1 / dy;
    const iz = 1 / dz;
    const nearX = ix < 0 ? 3 : 0;
    const nearY = iy < 0 ? 4 : 1;
    const nearZ = iz < 0 ? 5 : 2;
    const farX = 3 - nearX;
    const farY = 5 - nearY;
    const farZ = 7 - nearZ;
    let best = far;
    let found = -1;
    let foundU = 0;
    let foundV = 0;
    let depth = 0;
    let node = 0;
    for (;;) {
      const count = links[node * 2 + 1]!;
      if (count > 0) {
        const first = links[node * 2]!;
        for (let index = first; index < first + count; index += 1) {
          const at = index * 9;
          const e1x = triangles[at + 3]!;
          const e1y = triangles[at + 4]!;
          const e1z = triangles[at + 5]!;
          const e2x = triangles[at + 6]!;
          const e2y = triangles[at + 7]!;
          const e2z = triangles[at + 8]!;
          const px = dy * e2z - dz * e2y;
          const py = dz * e2x - dx * e2z;
          const pz = dx * e2y - dy * e2x;
          const det = e1x * px + e1y * py + e1z * pz;
          if (det > -1e-14 && det < 1e-14) continue;
          const inverse = 1 / det;
          const tx = ox - triangles[at]!;
          const ty = oy - triangles[at + 1]!;
          const tz = oz - triangles[at + 2]!;
          const u = (tx * px + ty * py + tz * pz) * inverse;
          if (u < 0 || u > 1) continue;
          const qx = ty * e1z - tz * e1y;
          const qy = tz * e1x - tx * e1z;
          const qz = tx * e1y - ty * e1x;
          const v = (dx * qx + dy * qy + dz * qz) * inverse;
          if (v < 0 || u + v > 1) continue;
          const t = (e2x * qx + e2y * qy + e2z * qz) * inverse;
          if (t <= 1e-6 || t >= best) continue;
          if (any) {
            if (this.#unshaded[index] === 1) continue;
            return true;
          }
          best = t;
          found = index;
          foundU = u;
          foundV = v;
        }
      } else {
        const left = links[node * 2]!;
        const at = left * 6;
        // Both children in one go: where the ray enters each, and whether it leaves it later.
        let from = (bounds[at + nearX]! - ox) * ix;
        const fromY = (bounds[at + nearY]! - oy) * iy;
        const fromZ = (bounds[at + nearZ]! - oz) * iz;
        if (fromY > from) from = fromY;
        if (fromZ > from) from = fromZ;
        const hitsLeft =
          from < best &&
          from <= (bounds[at + farX]! - ox) * ix &&
          from <= (bounds[at + farY]! - oy) * iy &&
          from <= (bounds[at + farZ]! - oz) * iz &&
          (bounds[at + farX]! - ox) * ix >= 0 &&
          (bounds[at + farY]! - oy) * iy >= 0 &&
          (bounds[at + farZ]! - oz) * iz >= 0;
        let other = (bounds[at + 6 + nearX]! - ox) * ix;
        const otherY = (bounds[at + 6 + nearY]! - oy) * iy;
        const otherZ = (bounds[at + 6 + nearZ]! - oz) * iz;
        if (otherY > other) other = otherY;
        if (otherZ > other) other = otherZ;
        const hitsRight =
          other < best &&
          other <= (bounds[at + 6 + farX]! - ox) * ix &&
          other <= (bounds[at + 6 + farY]! - oy) * iy &&
          other <= (bounds[at + 6 + farZ]! - oz) * iz &&
          (bounds[at + 6 + farX]! - ox) * ix >= 0 &&
          (bounds[at + 6 + farY]! - oy) * iy >= 0 &&
          (bounds[at + 6 + farZ]! - oz) * iz >= 0;
        if (hitsLeft) {
          if (!hitsRight) {
            node = left;
          } else if (from <= other) {
            stack[depth] = left + 1;
            starts[depth] = other;
            depth += 1;
            node = left;
          } else {
            stack[depth] = left;
            starts[depth] = from;
            depth += 1;
            node = left + 1;
          }
          continue;
        }
        if (hitsRight) {
          node = left + 1;
          continue;
        }
      }
      do {
        if (depth === 0) {
          node = -1;
          break;
        }
        depth -= 1;
        node = stack[depth]!;
      } while (starts[depth]! >= best);
      if (node < 0) break;
    }
    if (found < 0) return false;
    this.distance = best;
    this.u = foundU;
    this.v = foundV;
    this.triangle = this.#order[found]!;
    return true;
  }
}

interface Grown {
  readonly bounds: Float32Array;
  readonly links: Int32Array;
  readonly order: Uint32Array;
}

function grow(corners: Float32Array, count: number): Grown {
  const order = Uint32Array.from({ length: count }, (_, index) => index);
  const boxes = boxesOf(corners, count);
  const bounds = new Float32Array(count * 2 * 6 + 6);
  const links = new Int32Array(count * 4 + 2);
  let nodes = 1;
  const waiting: [node: number, from: number, to: number][] = [[0, 0, count]];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const [node, from, to] = next;
    enclose(boxes, order, from, to, bounds, node * 6);
    const middle = to - from > LEAF_TRIANGLES ? divide(boxes, order, from, to) : -1;
    if (middle < 0) {
      links[node * 2] = from;
      links[node * 2 + 1] = to - from;
      continue;
    }
    links[node * 2] = nodes;
    links[node * 2 + 1] = 0;
    waiting.push([nodes, from, middle], [nodes + 1, middle, to]);
    nodes += 2;
  }
  return { bounds: bounds.slice(0, nodes * 6), links: links.slice(0, nodes * 2), order };
}

function boxesOf(corners: Float32Array, count: number): Float32Array {
  const boxes = new Float32Array(count * 6);
  for (let index = 0; index < count; index += 1) {
    for (let axis = 0; axis < 3; axis += 1) {
      const a = corners[index * 9 + axis]!;
      const b = corners[index * 9 + 3 + axis]!;
      const c = corners[index * 9 + 6 + axis]!;
      boxes[index * 6 + axis] = Math.min(a, b, c);
      boxes[index * 6 + 3 + axis] = Math.max(a, b, c);
    }
  }
  return boxes;
}

function enclose(
  boxes: Float32Array,
  order: Uint32Array,
  from: number,
  to: number,
  into: Float32Array,
  at: number,
): void {
  for (let axis = 0; axis < 3; axis += 1) {
    let least = Infinity;
    let greatest = -Infinity;
    for (let index = from; index < to; index += 1) {
      const box = order[index]! * 6;
      if (boxes[box + axis]! < least) least = boxes[box + axis]!;
      if (boxes[box + 3 + axis]! > greatest) greatest = boxes[box + 3 + axis]!;
    }
    into[at + axis] = least;
    into[at + 3 + axis] = greatest;
  }
}

const binCount = new Int32Array(BINS);
const binBox = new Float32Array(BINS * 6);
const rightArea = new Float64Array(BINS);
const sweep = new Float32Array(6);

function areaOf(box: Float32Array): number {
  const x = box[3]! - box[0]!;
  const y = box[4]! - box[1]!;
  const z = box[5]! - box[2]!;
  return x < 0 ? 0 : x * y + y * z + z * x;
}

function widen(box: Float32Array, other: Float32Array, at: number): void {
  for (let axis = 0; axis < 3; axis += 1) {
    if (other[at + axis]! < box[axis]!) box[axis] = other[at + axis]!;
    if (other[at + 3 + axis]! > box[axis + 3]!) box[axis + 3] = other[at + 3 + axis]!;
  }
}

function clear(box: Float32Array): void {
  box[0] = Infinity;
  box[1] = Infinity;
  box[2] = Infinity;
  box[3] = -Infinity;
  box[4] = -Infinity;
  box[5] = -Infinity;
}

/** Sorts `order[from, to)` about the cheapest cut and returns where it lies; -1 if the triangles cannot be told apart. */
function divide(boxes: Float32Array, order: Uint32Array, from: number, to: number): number {
  let bestCost = Infinity;
  let bestAxis = -1;
  let bestBin = 0;
  let bestLow = 0;
  let bestScale = 0;
  for (let axis = 0; axis < 3; axis += 1) {
    let low = Infinity;
    let high = -Infinity;
    for (let index = from; index < to; index += 1) {
      const box = order[index]! * 6;
      const centre = boxes[box + axis]! + boxes[box + 3 + axis]!;
      if (centre < low) low = centre;
      if (centre > high) high = centre;
    }
    if (!(high > low)) continue;
    const scale = (BINS * 0.9999) / (high - low);
    fillBins(boxes, order, from, to, axis, low, scale);
    clear(sweep);
    let behind = 0;
    for (let bin = BINS - 1; bin > 0; bin -= 1) {
      widen(sweep, binBox, bin * 6);
      behind += binCount[bin]!;
      rightArea[bin] = areaOf(sweep) * behind;
    }
    clear(sweep);
    let before = 0;
    for (let bin = 0; bin < BINS - 1; bin += 1) {
      widen(sweep, binBox, bin * 6);
      before += binCount[bin]!;
      const cost = areaOf(sweep) * before + rightArea[bin + 1]!;
      if (before > 0 && before < to - from && cost < bestCost) {
        bestCost = cost;
        bestAxis = axis;
        bestBin = bin;
        bestLow = low;
        bestScale = scale;
      }
    }
  }
  if (bestAxis < 0) return -1;
  let left = from;
  let right = to - 1;
  while (left <= right) {
    const box = order[left]! * 6;
    const centre = boxes[box + bestAxis]! + boxes[box + 3 + bestAxis]!;
    if (Math.floor((centre - bestLow) * bestScale) <= bestBin) left += 1;
    else {
      const swapped = order[left]!;
      order[left] = order[right]!;
      order[right] = swapped;
      right -= 1;
    }
  }
  return left > from && left < to ? left : -1;
}

function fillBins(
  boxes: Float32Array,
  order: Uint32Array,
  from: number,
  to: number,
  axis: number,
  low: number,
  scale: number,
): void {
  binCount.fill(0);
  for (let at = 0; at < BINS * 6; at += 6) {
    for (let side = 0; side < 3; side += 1) {
      binBox[at + side] = Infinity;
      binBox[at + 3 + side] = -Infinity;
    }
  }
  for (let index = from; index < to; index += 1) {
    const box = order[index]! * 6;
    const centre = boxes[box + axis]! + boxes[box + 3 + axis]!;
    const bin = Math.floor((centre - low) * scale);
    binCount[bin] = binCount[bin]! + 1;
    for (let side = 0; side < 3; side += 1) {
      const at = bin * 6 + side;
      if (boxes[box + side]! < binBox[at]!) binBox[at] = boxes[box + side]!;
      if (boxes[box + 3 + side]! > binBox[at + 3]!) binBox[at + 3] = boxes[box + 3 + side]!;
    }
  }
}
