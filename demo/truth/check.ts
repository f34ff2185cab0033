import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { PerspectiveCamera, Vector3 } from 'three';
import type { Truth } from './truth.ts';

export const PICTURES = fileURLToPath(new URL('../pictures/', import.meta.url));
const ENDING = '.truth.json';

export const truths = (): Truth[] =>
  readdirSync(PICTURES)
    .filter((name) => name.endsWith(ENDING))
    .map((name) => JSON.parse(readFileSync(`${PICTURES}${name}`, 'utf8')) as Truth);

export const files = (): string[] =>
  readdirSync(PICTURES).filter((name) => !name.endsWith(ENDING) && !name.endsWith('.poster.webp'));

type Camera = NonNullable<Truth['camera']>;

/**
 * The camera of a truth file as three.js has it: another way from the same words to the same pixels. The focal length is
 * the 35-mm equivalent over the longest side of the picture.
 */
export function cameraOf(
  { azimuthDeg, elevationDeg, rollDeg, distanceM, focalMm, targetM }: Camera,
  width: number,
  height: number,
) {
  const shortest = (36 / focalMm) * (height / Math.max(width, height));
  const fov = (2 * Math.atan(shortest / 2) * 180) / Math.PI;
  const camera = new PerspectiveCamera(fov, width / height, 0.01, 1000);
  const target = new Vector3(...(targetM as [number, number, number]));
  const away = new Vector3().setFromSphericalCoords(
    distanceM,
    ((90 - elevationDeg) * Math.PI) / 180,
    (azimuthDeg * Math.PI) / 180,
  );
  camera.position.copy(target).add(away);
  camera.lookAt(target);
  camera.rotateZ((rollDeg * Math.PI) / 180);
  camera.updateMatrixWorld();
  return (at: readonly number[]): { x: number; y: number } => {
    const on = new Vector3(at[0], at[1], at[2]).project(camera);
    return { x: ((on.x + 1) / 2) * width, y: ((1 - on.y) / 2) * height };
  };
}

/** A picture as lightness, row by row, 0..255. */
export interface Grey {
  readonly data: Uint8Array;
  readonly width: number;
  readonly height: number;
}

function sample({ data, width, height }: Grey, x: number, y: number): number {
  const left = Math.min(width - 2, Math.max(0, Math.floor(x - 0.5)));
  const top = Math.min(height - 2, Math.max(0, Math.floor(y - 0.5)));
  const u = Math.min(1, Math.max(0, x - 0.5 - left));
  const v = Math.min(1, Math.max(0, y - 0.5 - top));
  const at = top * width + left;
  const upper = data[at]! * (1 - u) + data[at + 1]! * u;
  const lower = data[at + width]! * (1 - u) + data[at + width + 1]! * u;
  return upper * (1 - v) + lower * v;
}

export interface EdgeFound {
  /** How far the picture's edge lies from where it should, pixels across it. */
  readonly offsetPx: number;
  /** Step of lightness over it. */
  readonly contrast: number;
}

type Place = { readonly x: number; readonly y: number };

const REACH_PX = 3;
const STEP_PX = 0.25;

/** Looks for an edge across the line between two places: at each of many cuts, where the steepest step is; the median. */
export function findEdge(grey: Grey, from: Place, to: Place): EdgeFound {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const [nx, ny] = [-(to.y - from.y) / length, (to.x - from.x) / length];
  const cuts = Math.max(8, Math.round(length / 2));
  const found: { offset: number; step: number }[] = [];
  for (let cut = 0; cut < cuts; cut += 1) {
    const t = 0.12 + (0.76 * cut) / (cuts - 1);
    const x = from.x + (to.x - from.x) * t;
    const y = from.y + (to.y - from.y) * t;
    let best = { offset: 0, step: 0 };
    for (let offset = -REACH_PX; offset <= REACH_PX; offset += STEP_PX) {
      const before = sample(grey, x + nx * (offset - 1), y + ny * (offset - 1));
      const after = sample(grey, x + nx * (offset + 1), y + ny * (offset + 1));
      const step = Math.abs(after - before);
      if (step > best.step) best = { offset, step };
    }
    found.push(best);
  }
  const middle = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]!;
  return {
    offsetPx: middle(found.map(({ offset }) => offset)),
    contrast: middle(found.map(({ step }) => step)),
  };
}
