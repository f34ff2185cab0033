import { Vector3 } from 'three';
import type { Camera, Point } from './camera.ts';
import { FERRY_AXES, FERRY_MARKS, FERRY_WINDOWS } from './models/ferry-marks.ts';
import { FERRY } from './models/ferry-sizes.ts';
import { BODY, figureOf } from './models/figure.ts';
import { HEAD } from './models/head.ts';
import { LANTERN } from './models/lantern.ts';
import { WINCH_HOUSE } from './models/places.ts';
import { POSES } from './models/poses.ts';
import { MANNEQUIN_M } from './scenes.ts';
import type { Shot } from './shots/shot.ts';
import type { Sight } from './sight.ts';

/** What is known of a scene: lengths, directions that are parallel in it, places, and straight edges between places. */
export interface Known {
  readonly dimensionsM: Readonly<Record<string, number>>;
  readonly axes: Readonly<Record<string, Point>>;
  readonly marks: Readonly<Record<string, Point>>;
  readonly edges: readonly (readonly [from: string, to: string])[];
}

const NOTHING: Known = { dimensionsM: {}, axes: {}, marks: {}, edges: [] };

function ferry(): Known {
  const marks = { ...FERRY_MARKS };
  const edges: [string, string][] = [];
  for (const [name, corners] of Object.entries(FERRY_WINDOWS)) {
    for (const [corner, at] of Object.entries(corners)) marks[`${name}, ${corner}`] = at;
    edges.push(
      [`${name}, upper left`, `${name}, upper right`],
      [`${name}, upper left`, `${name}, lower left`],
      [`${name}, upper right`, `${name}, lower right`],
    );
  }
  const axes = Object.fromEntries(
    Object.entries(FERRY_AXES).map(([name, { x, y, z }]) => [name, [x, y, z] as Point]),
  );
  return { dimensionsM: FERRY, axes: { ...axes, upright: [0, 1, 0] }, marks, edges };
}

/** Corners of the plinth, where its broken edges begin. */
const PLINTH: Record<string, Point> = {
  'plinth, front left': [-0.1, -0.216, 0.055],
  'plinth, front right': [0.1, -0.216, 0.055],
  'plinth, back left': [-0.1, -0.216, -0.095],
  'plinth, back right': [0.1, -0.216, -0.095],
};

function head(): Known {
  const unit = HEAD.heightM;
  return {
    dimensionsM: { ...HEAD, plinthWidthM: 0.2, plinthDepthM: 0.15 },
    axes: { 'across the face': [1, 0, 0], 'along the gaze': [0, 0, 1], upright: [0, 1, 0] },
    marks: {
      'tip of the nose': [0, -0.148 * unit, 0.474 * unit],
      'left eye': [0.118 * unit, 0, 0.304 * unit],
      'right eye': [-0.118 * unit, 0, 0.304 * unit],
      chin: [0, -0.45 * unit, 0.342 * unit],
      ...PLINTH,
    },
    edges: [],
  };
}

function lantern(): Known {
  return {
    dimensionsM: LANTERN,
    axes: { upright: [0, 1, 0] },
    marks: { flame: [0, LANTERN.flameM, 0], 'top of the hood': [0, 0.331, 0], foot: [0, 0, 0] },
    edges: [],
  };
}

function mannequin(shot: Shot): Known {
  const pose = POSES.find(({ name }) => name === shot.state?.pose)!;
  const { at, limbs, centre } = figureOf(pose);
  const scale = MANNEQUIN_M / BODY.heightM;
  const point = ({ x, y, z }: Vector3): Point => [x * scale, y * scale, z * scale];
  const marks: Record<string, Point> = {
    ...{ pelvis: point(at.pelvis), waist: point(at.waist), neck: point(at.neck) },
    'centre of mass': point(centre),
  };
  for (const side of ['left', 'right'] as const) {
    for (const joint of ['shoulder', 'elbow', 'wrist', 'hip', 'knee', 'ankle'] as const)
      marks[`${side} ${joint}`] = point(limbs[side][joint]);
  }
  return { ...NOTHING, dimensionsM: { heightM: MANNEQUIN_M, headM: 0.244 * scale }, marks };
}

/** What is known of the scene of a shot. */
export function knownOf(shot: Shot): Known {
  if (shot.scene === 'ferry' || shot.scene === 'wheel') return ferry();
  if (shot.scene === 'head') return head();
  if (shot.scene === 'lantern') return lantern();
  if (shot.scene === 'mannequin') return mannequin(shot);
  if (shot.scene === 'winchHouse') return { ...NOTHING, dimensionsM: WINCH_HOUSE, axes: ferry().axes };
  return NOTHING;
}

/** Whether nothing lies before a place, seen from the camera; `tolerance` metres. */
export function isSeen(sight: Sight, camera: Camera, at: Point, tolerance = 0.03): boolean {
  const on = camera.project(at);
  if (!on || on.x < 0 || on.y < 0 || on.x >= camera.width || on.y >= camera.height) return false;
  const seen = sight.look(camera, on.x, on.y);
  const away = new Vector3(...at).distanceTo(new Vector3(...camera.eye));
  return seen !== undefined && seen.distance > away - tolerance;
}

/** Share of an edge that is in view, 0..1. */
export function seenShare(sight: Sight, camera: Camera, from: Point, to: Point, steps = 24): number {
  let seen = 0;
  for (let step = 1; step < steps; step += 1) {
    const t = step / steps;
    const at = from.map((value, axis) => value + (to[axis]! - value) * t) as unknown as Point;
    if (isSeen(sight, camera, at)) seen += 1;
  }
  return seen / (steps - 1);
}
