/** A mesh of triangles. */
export interface TriangleMesh {
  /** x, y, z of each corner. */
  readonly positions: ArrayLike<number>;
  /** Three corners of each triangle. */
  readonly indices: ArrayLike<number>;
}

/** A mesh with fewer triangles, made of corners that the other had. */
export interface ThinnedMesh {
  /** Which corners were kept. */
  readonly kept: Uint32Array;
  /** Three of each triangle, by their place among `kept`. */
  readonly indices: Uint32Array;
}

interface Extent {
  readonly min: readonly number[];
  readonly side: number;
}

function extentOf(positions: ArrayLike<number>): Extent {
  const min = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const max = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let at = 0; at < positions.length; at += 1) {
    const axis = at % 3;
    const value = positions[at]!;
    if (value < min[axis]!) min[axis] = value;
    if (value > max[axis]!) max[axis] = value;
  }
  return { min, side: Math.max(...max.map((value, axis) => value - min[axis]!), Number.MIN_VALUE) };
}

/** Numbers things by a key: open addressing in typed arrays, since maps of millions of keys are many times slower. */
class Numbering {
  readonly #slots: Int32Array;
  readonly #mask: number;
  size = 0;

  /** @param most - things, at most */
  constructor(most: number) {
    this.#mask = 2 ** Math.ceil(Math.log2(most * 2 + 2)) - 1;
    this.#slots = new Int32Array(this.#mask + 1).fill(-1);
  }

  /** The number of a thing, a new one where none of those that are known is the same. */
  numberOf(hash: number, isSame: (known: number) => boolean): number {
    let slot = hash & this.#mask;
    for (let known = this.#slots[slot]!; known >= 0; known = this.#slots[slot]!) {
      if (isSame(known)) return known;
      slot = (slot + 1) & this.#mask;
    }
    this.#slots[slot] = this.size;
    this.size += 1;
    return this.size - 1;
  }
}

const mixed = (a: number, b: number, c: number): number => {
  let hash = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b) ^ Math.imul(c, 0xc2b2ae35);
  hash ^= hash >>> 15;
  return Math.imul(hash, 0x2c1b3c6d) ^ (hash >>> 13);
};

/** Number of the grid's cell in which each corner lies, and how many cells there are. */
function cellsOf(positions: ArrayLike<number>, { min, side }: Extent, cells: number) {
  const corners = positions.length / 3;
  const cellOf = new Uint32Array(corners);
  const keys = new Float64Array(corners);
  const numbering = new Numbering(corners);
  const along = (at: number, axis: number) =>
    Math.min(cells - 1, Math.floor(((positions[at + axis]! - min[axis]!) / side) * cells));
  for (let corner = 0; corner < corners; corner += 1) {
    const [x, y, z] = [along(corner * 3, 0), along(corner * 3, 1), along(corner * 3, 2)];
    const key = (x * cells + y) * cells + z;
    const cell = numbering.numberOf(mixed(x, y, z), (known) => keys[known] === key);
    keys[cell] = key;
    cellOf[corner] = cell;
  }
  return { cellOf, count: numbering.size };
}

/** Of each cell the corner nearest to the middle of all that lie in it. */
function keptOf(positions: ArrayLike<number>, cellOf: Uint32Array, count: number): Uint32Array {
  const sums = new Float64Array(count * 4);
  for (let corner = 0; corner < cellOf.length; corner += 1) {
    const cell = cellOf[corner]! * 4;
    for (let axis = 0; axis < 3; axis += 1) sums[cell + axis]! += positions[corner * 3 + axis]!;
    sums[cell + 3]! += 1;
  }
  const kept = new Uint32Array(count);
  const nearest = new Float64Array(count).fill(Number.POSITIVE_INFINITY);
  for (let corner = 0; corner < cellOf.length; corner += 1) {
    const cell = cellOf[corner]!;
    let away = 0;
    for (let axis = 0; axis < 3; axis += 1)
      away += (positions[corner * 3 + axis]! - sums[cell * 4 + axis]! / sums[cell * 4 + 3]!) ** 2;
    if (away < nearest[cell]!) {
      nearest[cell] = away;
      kept[cell] = corner;
    }
  }
  return kept;
}

/** Corners are gathered in cells of a grid; triangles that fall onto a line, or onto another, are left out. */
function byGrid({ positions, indices }: TriangleMesh, extent: Extent, cells: number): ThinnedMesh {
  const { cellOf, count } = cellsOf(positions, extent, cells);
  const triangles = Math.floor(indices.length / 3);
  const joined = new Uint32Array(triangles * 3);
  const numbering = new Numbering(triangles);
  for (let triangle = 0; triangle < triangles; triangle += 1) {
    const at = triangle * 3;
    const [a, b, c] = [cellOf[indices[at]!]!, cellOf[indices[at + 1]!]!, cellOf[indices[at + 2]!]!];
    if (a === b || b === c || c === a) continue;
    // Turned so that the least comes first: the same triangle is kept once; seen from behind it is another.
    const least = Math.min(a, b, c);
    const [p, q, r] = least === a ? [a, b, c] : least === b ? [b, c, a] : [c, a, b];
    const number = numbering.numberOf(
      mixed(p, q, r),
      (known) => joined[known * 3] === p && joined[known * 3 + 1] === q && joined[known * 3 + 2] === r,
    );
    joined[number * 3] = p;
    joined[number * 3 + 1] = q;
    joined[number * 3 + 2] = r;
  }
  return { kept: keptOf(positions, cellOf, count), indices: joined.slice(0, numbering.size * 3) };
}

/** Grids that are tried until one leaves nearly as many triangles as may be. */
const TRIES = 8;
const NEARLY = 0.8;

/**
 * A mesh of at most so many triangles. Corners are gathered on a grid as fine as the count allows: flat and fine parts
 * alike become coarser; holes and thin parts smaller than a cell may close. Source: Rossignac and Borrel,
 * Multi-resolution 3D approximations for rendering complex scenes, 1993.
 *
 * @param most - triangles; at least 1
 */
export function thinned(mesh: TriangleMesh, most: number): ThinnedMesh {
  const corners = mesh.positions.length / 3;
  if (mesh.indices.length / 3 <= most)
    return {
      kept: Uint32Array.from({ length: corners }, (_, corner) => corner),
      indices: Uint32Array.from(mesh.indices),
    };
  const extent = extentOf(mesh.positions);
  let least = 1;
  let greatest = Number.POSITIVE_INFINITY;
  let found: ThinnedMesh = { kept: new Uint32Array(), indices: new Uint32Array() };
  // The sides of a box cross 6 n² cells of a grid of n, and have two triangles in each.
  let cells = Math.max(1, Math.round(Math.sqrt(most / 12)));
  for (let tried = 0; least <= greatest && (tried < TRIES || found.indices.length === 0); tried += 1) {
    const now = byGrid(mesh, extent, cells);
    const count = now.indices.length / 3;
    if (count <= most) {
      if (count >= found.indices.length / 3) found = now;
      if (count >= most * NEARLY) break;
      least = cells + 1;
    } else greatest = cells - 1;
    // Finer as long as none was too fine, by at most twice; then between the finest that does and the coarsest that does not.
    const finer = Math.max(least, Math.round(cells * Math.min(2, Math.sqrt(most / Math.max(1, count)))));
    cells = Number.isFinite(greatest) ? Math.max(least, Math.floor((least + greatest) / 2)) : finer;
  }
  return found;
}
