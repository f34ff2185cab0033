import type { Stance } from './extent.ts';
import { lookAtGlb } from './glb.ts';
import { MODEL_LIMITS, type ModelLook, type ModelTrouble } from './look.ts';
import { lookAtObj } from './obj.ts';
import { lookAtObjArchive } from './obj-archive.ts';
import { lookAtStl } from './stl.ts';

export const MODEL_TYPES = ['model/gltf-binary', 'model/stl', 'model/obj', 'model/x.obj+zip'] as const;
export type ModelType = (typeof MODEL_TYPES)[number];

export const isModelType = (type: string): type is ModelType =>
  (MODEL_TYPES as readonly string[]).includes(type);

/** How a model stands where nobody said so: files of things to be printed have z up. */
export const usualStance = (type: string): Stance => ({ up: type === 'model/stl' ? 'z' : 'y', frontDeg: 0 });

const LOOKS: Readonly<Record<ModelType, (bytes: Uint8Array) => ModelLook | ModelTrouble>> = {
  'model/gltf-binary': lookAtGlb,
  'model/stl': lookAtStl,
  'model/obj': lookAtObj,
  'model/x.obj+zip': lookAtObjArchive,
};

/**
 * Looks whether a model can be shown, without drawing it, and how many triangles it has. Whether its geometry is right
 * shows when it is drawn.
 */
export function lookAtModel(bytes: Uint8Array, type: ModelType): ModelLook | ModelTrouble {
  const look = LOOKS[type](bytes);
  if (typeof look === 'string') return look;
  return look.triangles > MODEL_LIMITS.triangles ? 'too-many-triangles' : look;
}
