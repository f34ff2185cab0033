import { KNOT_FRAMES } from '../models/knot.ts';
import { lowSun } from './lights.ts';
import type { Shot } from './shot.ts';

const FRAME = { width: 640, height: 480, samples: 6, rounds: 3 } as const;

/** The knot, seen by someone who ties it. */
export const KNOT_SHOTS: readonly Shot[] = Array.from({ length: KNOT_FRAMES }, (_, frame) => ({
  id: `knot-frame-${String(frame + 1).padStart(2, '0')}`,
  title: `Knot, step ${frame + 1}`,
  ...{ subject: 'the knot', scene: 'knot', state: { frame } },
  pose: { target: [0, 0, -0.03], azimuthDeg: 0, elevationDeg: 52, distanceM: 0.98, focalMm: 42 },
  light: {
    ...{ kind: 'side', azimuthDeg: -64, elevationDeg: 40, radiusDeg: 5 },
    ...{ colour: [2, 1.9, 1.75], low: [0.26, 0.27, 0.29], high: [0.32, 0.34, 0.38] },
  },
  ...FRAME,
}));

export const WHEEL_CLIP = { frames: 48, seconds: 4, degrees: 90 } as const;

/** The wheel while it hauls: a quarter turn in four seconds. */
export const WHEEL_SHOTS: readonly Shot[] = Array.from({ length: WHEEL_CLIP.frames }, (_, frame) => ({
  id: `wheel-frame-${String(frame + 1).padStart(2, '0')}`,
  title: `Chain wheel turning, frame ${frame + 1}`,
  subject: 'the ferry',
  scene: 'wheel',
  state: { wheelDeg: Number(((frame / WHEEL_CLIP.frames) * WHEEL_CLIP.degrees).toFixed(4)) },
  pose: { target: [-1.05, 1.66, 0.5], azimuthDeg: 27, elevationDeg: 8, distanceM: 4.1, focalMm: 46 },
  light: { ...lowSun(-40), lamps: [] },
  ...{ ...FRAME, height: 416, samples: 4 },
}));
