import { BufferGeometry, Float32BufferAttribute } from 'three';

/** Signed distance to a surface, negative inside; metres. */
export type Distance = (x: number, y: number, z: number) => number;

export interface Bounds {
  readonly least: readonly [number, number, number];
  readonly greatest: readonly [number, number, number];
}

/** Cells along the side of a block that is left out as a whole where the surface is far. */
const BLOCK = 8;

/**
 * Triangles of the surface where `distance` is 0, about one `cell` wide, with its smooth normals.
 * Source: Gibson, "Constrained elastic surface nets", 1998, in the form without relaxation.
 */
export function surfaceOf(distance: Distance, { least, greatest }: Bounds, cell: number): BufferGeometry {
  const [nx, ny, nz] = least.map(
    (from, axis) => Math.ceil((greatest[axis]! - from) / cell / BLOCK) * BLOCK + 1,
  ) as [number, number, number];
  const values = sampled(distance, least, cell, nx, ny, nz);
  const at = (x: number, y: number, z: number) => (z * ny + y) * nx + x;
  const vertexOf = new Map<number, number>();
  const positions: number[] = [];
  const place = (x: number, y: number, z: number): number => {
    const key = at(x, y, z);
    const known = vertexOf.get(key);
    if (known !== undefined) return known;
    const [px, py, pz] = crossing(values, at, x, y, z);
    const index = positions.length / 3;
    positions.push(least[0] + px * cell, least[1] + py * cell, least[2] + pz * cell);
    vertexOf.set(key, index);
    return index;
  };
  const faces: number[] = [];
  const quad = (a: number, b: number, c: number, d: number, isTurned: boolean) => {
    if (isTurned) faces.push(a, c, b, b, c, d);
    else faces.push(a, b, c, b, d, c);
  };
  for (let z = 1; z < nz - 1; z += 1) {
    for (let y = 1; y < ny - 1; y += 1) {
      for (let x = 1; x < nx - 1; x += 1) {
        const here = values[at(x, y, z)]! < 0;
        if (here !== values[at(x + 1, y, z)]! < 0)
          quad(place(x, y - 1, z - 1), place(x, y, z - 1), place(x, y - 1, z), place(x, y, z), !here);
        if (here !== values[at(x, y + 1, z)]! < 0)
          quad(place(x - 1, y, z - 1), place(x - 1, y, z), place(x, y, z - 1), place(x, y, z), !here);
        if (here !== values[at(x, y, z + 1)]! < 0)
          quad(place(x - 1, y - 1, z), place(x, y - 1, z), place(x - 1, y, z), place(x, y, z), !here);
      }
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new Float32BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new Float32BufferAttribute(normalsOf(distance, positions, cell), 3));
  geometry.setIndex(faces);
  return geometry;
}

/** Values on the lattice; blocks the surface cannot reach hold their middle's value. */
function sampled(
  distance: Distance,
  least: Bounds['least'],
  cell: number,
  nx: number,
  ny: number,
  nz: number,
): Float32Array {
  const values = new Float32Array(nx * ny * nz);
  const reach = (BLOCK / 2 + 1) * cell * Math.sqrt(3) * 1.5;
  for (let bz = 0; bz < nz; bz += BLOCK) {
    for (let by = 0; by < ny; by += BLOCK) {
      for (let bx = 0; bx < nx; bx += BLOCK) {
        const [x0, y0, z0] = [least[0] + bx * cell, least[1] + by * cell, least[2] + bz * cell];
        const half = (BLOCK / 2) * cell;
        const middle = distance(x0 + half, y0 + half, z0 + half);
        const isFar = Math.abs(middle) > reach && cornersAgree(distance, x0, y0, z0, BLOCK * cell, middle);
        for (let z = bz; z < Math.min(bz + BLOCK, nz); z += 1) {
          for (let y = by; y < Math.min(by + BLOCK, ny); y += 1) {
            for (let x = bx; x < Math.min(bx + BLOCK, nx); x += 1) {
              values[(z * ny + y) * nx + x] = isFar
                ? middle
                : distance(least[0] + x * cell, least[1] + y * cell, least[2] + z * cell);
            }
          }
        }
      }
    }
  }
  return values;
}

/** Whether all corners of a block lie on the side of its middle, none of them near: fields are not exact distances. */
function cornersAgree(
  distance: Distance,
  x: number,
  y: number,
  z: number,
  side: number,
  middle: number,
): boolean {
  for (let corner = 0; corner < 8; corner += 1) {
    const value = distance(
      x + (corner & 1) * side,
      y + ((corner >> 1) & 1) * side,
      z + ((corner >> 2) & 1) * side,
    );
    if (value < 0 !== middle < 0 || Math.abs(value) < side * 0.4) return false;
  }
  return true;
}

const CUBE_EDGES = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((corner) =>
  [1, 2, 4].filter((bit) => (corner & bit) === 0).map((bit) => [corner, corner | bit] as const),
);

/** Middle of where the edges of a cube are crossed, in cells. */
function crossing(
  values: Float32Array,
  at: (x: number, y: number, z: number) => number,
  x: number,
  y: number,
  z: number,
): [number, number, number] {
  const corner = (index: number) =>
    [x + (index & 1), y + ((index >> 1) & 1), z + ((index >> 2) & 1)] as const;
  let count = 0;
  const sum: [number, number, number] = [0, 0, 0];
  for (const [from, to] of CUBE_EDGES) {
    const a = corner(from);
    const b = corner(to);
    const va = values[at(...a)]!;
    const vb = values[at(...b)]!;
    if (va < 0 === vb < 0) continue;
    const t = va / (va - vb);
    for (let axis = 0; axis < 3; axis += 1) sum[axis] = sum[axis]! + a[axis]! + (b[axis]! - a[axis]!) * t;
    count += 1;
  }
  return count === 0 ? [x + 0.5, y + 0.5, z + 0.5] : [sum[0] / count, sum[1] / count, sum[2] / count];
}

function normalsOf(distance: Distance, positions: readonly number[], cell: number): number[] {
  const normals: number[] = [];
  const step = cell * 0.7;
  for (let index = 0; index < positions.length; index += 3) {
    const [x, y, z] = [positions[index]!, positions[index + 1]!, positions[index + 2]!];
    const gx = distance(x + step, y, z) - distance(x - step, y, z);
    const gy = distance(x, y + step, z) - distance(x, y - step, z);
    const gz = distance(x, y, z + step) - distance(x, y, z - step);
    const length = Math.hypot(gx, gy, gz) || 1;
    normals.push(gx / length, gy / length, gz / length);
  }
  return normals;
}
