import type { Bvh } from './bvh.ts';
import type { Camera } from './camera.ts';
import { Hit } from './hit.ts';
import type { Mesh } from './mesh.ts';
import { FAR, SHADOW_REACH } from './scene.ts';

/** What can be seen from a camera, without its light: for marks, silhouettes and flat colour. */
export class Sight {
  readonly #bvh: Bvh;
  readonly #mesh: Mesh;
  readonly #hit: Hit;
  #looked: readonly number[] = [];

  constructor(mesh: Mesh, bvh: Bvh) {
    this.#mesh = mesh;
    this.#bvh = bvh;
    this.#hit = new Hit(mesh);
  }

  /** Whether the thing last looked at faces a far light that nothing keeps off it. */
  isLit([lx, ly, lz]: readonly [number, number, number]): boolean {
    const { triangle, u, v, distance } = this.#bvh;
    const [ox, oy, oz, dx, dy, dz] = this.#looked as readonly number[] as [
      ...[number, number, number],
      ...[number, number, number],
    ];
    this.#hit.face(triangle, u, v, dx, dy, dz);
    if (this.#hit.nx * lx + this.#hit.ny * ly + this.#hit.nz * lz <= 0.02) return false;
    const lift = 1e-3 + distance * 2e-5;
    const x = ox + dx * distance + this.#hit.nx * lift;
    const y = oy + dy * distance + this.#hit.ny * lift;
    const z = oz + dz * distance + this.#hit.nz * lift;
    return !this.#bvh.cast(x, y, z, lx, ly, lz, SHADOW_REACH, true);
  }

  /** The first thing along a ray: its part and distance; for silhouettes and what hides what. */
  look(
    camera: Camera,
    x: number,
    y: number,
  ): { part: number; material: number; distance: number } | undefined {
    const px = x - camera.width / 2;
    const py = camera.height / 2 - y;
    const { forward, right, up, focalPx, eye } = camera;
    const d = [0, 1, 2].map(
      (axis) => forward[axis]! * focalPx + right[axis]! * px + up[axis]! * py,
    ) as unknown as [number, number, number];
    const length = Math.hypot(...d);
    this.#looked = [...eye, d[0] / length, d[1] / length, d[2] / length];
    if (!this.#bvh.cast(eye[0], eye[1], eye[2], d[0] / length, d[1] / length, d[2] / length, FAR, false))
      return undefined;
    const { triangle, distance } = this.#bvh;
    return { part: this.#mesh.part[triangle]!, material: this.#mesh.material[triangle]!, distance };
  }
}
