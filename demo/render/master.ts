import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import type { Bvh } from './bvh.ts';
import { Camera } from './camera.ts';
import { develop } from './develop.ts';
import { expose } from './expose.ts';
import { bvhOf, type Scene } from './scene.ts';
import { sceneOf } from './scenes.ts';
import type { Shot } from './shots/shot.ts';
import { Tracer } from './trace.ts';

/** Rendered once, kept without loss: what is shipped is made from them. */
export const MASTERS = fileURLToPath(new URL('../../.cache/masters/', import.meta.url));

/** Of the master of a shot; another shot under the same name has another file. */
export function masterOf(shot: Shot, scale = 1): string {
  const { title: _, ...seen } = shot;
  const digest = createHash('sha256').update(JSON.stringify(seen)).digest('hex').slice(0, 10);
  return `${MASTERS}${shot.id}${scale === 1 ? '' : `-at-${scale}`}.${digest}.png`;
}

let held: { readonly key: string; readonly scene: Scene; readonly bvh: Bvh } | undefined;

/** Scene and tree of a shot; the last one is kept, since shots of one scene follow each other. */
export function stageOf(shot: Shot): { readonly scene: Scene; readonly bvh: Bvh } {
  const key = JSON.stringify([shot.scene, shot.state]);
  if (held?.key !== key) {
    const scene = sceneOf(shot.scene, shot.state);
    held = { key, scene, bvh: bvhOf(scene) };
  }
  return held;
}

/** Renders a shot into its master (16 bits a channel); `scale` makes a small trial of it. */
export async function renderMaster(shot: Shot, scale = 1): Promise<string> {
  const { scene, bvh } = stageOf(shot);
  const width = Math.round(shot.width * scale);
  const height = Math.round(shot.height * scale);
  const tracer = new Tracer(scene, shot.light, bvh);
  const exposure = expose(tracer, new Camera(shot.pose, width, height), scale < 1 ? 4 : shot.samples);
  const developed = develop(exposure, shot.rounds, shot.light.exposure ?? 1, 65535);
  const file = masterOf(shot, scale);
  await sharp(developed, { raw: { width, height, channels: 3 } })
    .toColourspace('rgb16')
    .png({ compressionLevel: 6 })
    .toFile(file);
  return file;
}
