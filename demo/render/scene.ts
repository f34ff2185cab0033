import { Bvh } from './bvh.ts';
import type { Mesh } from './mesh.ts';
import { SURFACE } from './surfaces.ts';

/** How water moves: height of its waves, metres; undefined where there is none. Its surface is y = 0. */
export interface Water {
  readonly waves: number;
  readonly murk: readonly [number, number, number];
}

export interface Scene {
  readonly mesh: Mesh;
  readonly water?: Water;
}

/** Farther than anything, metres. */
export const FAR = 4000;
/** So far away a thing throws no shadow that anyone would see, metres. */
export const SHADOW_REACH = 34;

/** What throws no shadow: glass, flames, and the wall of a studio, whose lamps stand behind it. */
const LETS_THROUGH = new Set([SURFACE.glass, SURFACE.flame, SURFACE.lampGlass, SURFACE.backdrop]);

export function bvhOf({ mesh }: Scene): Bvh {
  return new Bvh(mesh.corners, (triangle) => {
    const material = mesh.material[triangle]!;
    return LETS_THROUGH.has(material);
  });
}
