import type { Mesh } from './mesh.ts';
import { describeSurface, type Place } from './surfaces.ts';

/** Where a ray met a surface: its normal and what it is made of. Answers stay in fields, for speed. */
export class Hit {
  readonly #mesh: Mesh;
  readonly #place: Place = {
    ...{ x: 0, y: 0, z: 0, worldX: 0, worldY: 0, worldZ: 0, facesUp: 0, seed: 0, close: true },
    ...{ r: 0, g: 0, b: 0, gloss: 0, rough: 1, glow: 0, translucent: 0, slopeX: 0, slopeY: 0, slopeZ: 0 },
  };
  nx = 0;
  ny = 0;
  nz = 0;

  constructor(mesh: Mesh) {
    this.#mesh = mesh;
  }

  /** The smooth normal of a hit, turned towards the eye. */
  face(triangle: number, u: number, v: number, dx: number, dy: number, dz: number): void {
    const { normals } = this.#mesh;
    const at = triangle * 9;
    const w = 1 - u - v;
    let nx = normals[at]! * w + normals[at + 3]! * u + normals[at + 6]! * v;
    let ny = normals[at + 1]! * w + normals[at + 4]! * u + normals[at + 7]! * v;
    let nz = normals[at + 2]! * w + normals[at + 5]! * u + normals[at + 8]! * v;
    const length = Math.hypot(nx, ny, nz) || 1;
    const side = nx * dx + ny * dy + nz * dz > 0 ? -1 / length : 1 / length;
    nx *= side;
    ny *= side;
    nz *= side;
    this.nx = nx;
    this.ny = ny;
    this.nz = nz;
  }

  /** Asks the surface at a hit for its colour, and bends the normal by its relief. */
  describe(triangle: number, u: number, v: number, x: number, y: number, z: number, close: boolean): Place {
    const { rest, part, seeds, material, turns } = this.#mesh;
    const place = this.#place;
    const at = triangle * 9;
    const w = 1 - u - v;
    place.x = rest[at]! * w + rest[at + 3]! * u + rest[at + 6]! * v;
    place.y = rest[at + 1]! * w + rest[at + 4]! * u + rest[at + 7]! * v;
    place.z = rest[at + 2]! * w + rest[at + 5]! * u + rest[at + 8]! * v;
    place.worldX = x;
    place.worldY = y;
    place.worldZ = z;
    place.facesUp = this.ny;
    const own = part[triangle]!;
    place.seed = seeds[own]!;
    place.close = close;
    describeSurface(material[triangle]!, place);
    if (close && (place.slopeX !== 0 || place.slopeY !== 0 || place.slopeZ !== 0)) {
      const m = own * 9;
      const gx = turns[m]! * place.slopeX + turns[m + 1]! * place.slopeY + turns[m + 2]! * place.slopeZ;
      const gy = turns[m + 3]! * place.slopeX + turns[m + 4]! * place.slopeY + turns[m + 5]! * place.slopeZ;
      const gz = turns[m + 6]! * place.slopeX + turns[m + 7]! * place.slopeY + turns[m + 8]! * place.slopeZ;
      const along = gx * this.nx + gy * this.ny + gz * this.nz;
      const nx = this.nx - (gx - along * this.nx);
      const ny = this.ny - (gy - along * this.ny);
      const nz = this.nz - (gz - along * this.nz);
      const length = Math.hypot(nx, ny, nz);
      this.nx = nx / length;
      this.ny = ny / length;
      this.nz = nz / length;
    }
    return place;
  }
}
