import type { Light } from '../light.ts';
import { POSES } from '../models/poses.ts';
import { LARGE, type Shot, SMALL, STANDING } from './shot.ts';

/** A lit room: the key's place is given from the camera, since a turntable turns and the lamps stay. */
type Room = (cameraAzimuthDeg: number) => Light;

const soft: Room = (camera) => ({
  ...{ kind: 'soft', azimuthDeg: camera - 30, elevationDeg: 48, radiusDeg: 24 },
  ...{ colour: [1.12, 1.1, 1.06], low: [0.28, 0.28, 0.29], high: [0.44, 0.46, 0.5] },
});

const side: Room = (camera) => ({
  ...{ kind: 'side', azimuthDeg: camera - 74, elevationDeg: 26, radiusDeg: 4 },
  ...{ colour: [2.7, 2.35, 1.95], low: [0.13, 0.14, 0.17], high: [0.15, 0.17, 0.21] },
});

const rake: Room = (camera) => ({
  ...{ kind: 'raking', azimuthDeg: camera - 35, elevationDeg: 60, radiusDeg: 3 },
  ...{ colour: [2.9, 2.75, 2.5], low: [0.1, 0.11, 0.13], high: [0.14, 0.15, 0.18] },
});

const back: Room = (camera) => ({
  ...{ kind: 'back', azimuthDeg: camera + 150, elevationDeg: 26, radiusDeg: 3.5 },
  ...{ colour: [3.6, 3, 2.3], low: [0.16, 0.18, 0.22], high: [0.2, 0.23, 0.29] },
});

const HEAD_LIGHTS = [
  { key: 'soft', word: 'soft light', light: soft },
  { key: 'side', word: 'from the side', light: side },
  { key: 'raking', word: 'raking from above', light: rake },
  { key: 'back', word: 'against the light', light: back },
] as const;

const HEAD_ANGLES = [
  { key: 'front', word: 'Head, front', azimuthDeg: 0, elevationDeg: 0 },
  { key: 'quarter', word: 'Head, three-quarter', azimuthDeg: 42, elevationDeg: 4 },
  { key: 'profile', word: 'Head, profile', azimuthDeg: 90, elevationDeg: 0 },
  { key: 'below', word: 'Head, from below', azimuthDeg: -28, elevationDeg: -27 },
  { key: 'above', word: 'Head, from above', azimuthDeg: 33, elevationDeg: 38 },
] as const;

const heads: Shot[] = HEAD_ANGLES.flatMap(({ key, word, azimuthDeg, elevationDeg }) =>
  HEAD_LIGHTS.map((room) => ({
    ...{ id: `head-${key}-${room.key}`, title: `${word}, ${room.word}` },
    ...{ subject: 'a sculpted head', scene: 'head' },
    pose: { target: [0, -0.045, 0.005], azimuthDeg, elevationDeg, distanceM: 1.05, focalMm: 85 },
    light: room.light(azimuthDeg),
    ...STANDING,
    ...(key === 'quarter' && room.key === 'side' ? { width: 3000, height: 4000, samples: 4 } : {}),
  })),
);

const lanternLight: Room = (camera) => ({
  ...{ kind: 'night', azimuthDeg: camera - 64, elevationDeg: 34, radiusDeg: 7 },
  ...{ colour: [0.34, 0.42, 0.56], low: [0.05, 0.055, 0.07], high: [0.07, 0.08, 0.11] },
  lamps: [{ at: [0, 0.17, 0], radiusM: 0.011, colour: [0.085, 0.052, 0.021] }],
});

const daylight: Room = (camera) => ({
  ...{ kind: 'side', azimuthDeg: camera - 58, elevationDeg: 38, radiusDeg: 6 },
  ...{ colour: [1.9, 1.86, 1.8], low: [0.3, 0.31, 0.33], high: [0.36, 0.38, 0.42] },
});

const turn: Shot[] = Array.from({ length: 12 }, (_, index) => ({
  id: `lantern-${String(index * 30).padStart(3, '0')}`,
  title: `Storm lantern, turn ${index + 1} of 12`,
  ...{ subject: 'the storm lantern', scene: 'lantern' },
  pose: {
    ...{ target: [0, 0.165, 0], azimuthDeg: index * 30, elevationDeg: 11 },
    ...{ distanceM: 1.02, focalMm: 70, apertureM: 0.003 },
  },
  light: daylight(index * 30),
  ...SMALL,
}));

const lit: Shot[] = [
  {
    ...{ id: 'storm-lantern-dusk', title: 'Storm lantern at dusk' },
    ...{ subject: 'the storm lantern', scene: 'lantern' },
    pose: {
      ...{ target: [0.01, 0.17, 0], azimuthDeg: 24, elevationDeg: 8 },
      ...{ distanceM: 0.98, focalMm: 66, apertureM: 0.003 },
    },
    light: lanternLight(24),
    ...{ ...LARGE, width: 3000, height: 4000 },
  },
  {
    ...{ id: 'storm-lantern-glass', title: 'Storm lantern, flame and glass' },
    ...{ subject: 'the storm lantern', scene: 'lantern' },
    pose: {
      ...{ target: [0, 0.172, 0], azimuthDeg: -38, elevationDeg: 6 },
      ...{ distanceM: 0.46, focalMm: 64, apertureM: 0.003 },
    },
    light: lanternLight(-38),
    ...STANDING,
  },
];

/** From where each pose reads best, degrees about the figure. */
const POSE_VIEWS: Readonly<Record<string, readonly [azimuthDeg: number, elevationDeg: number]>> = {
  'waiting, weight on one leg': [14, 4],
  'hauling on the chain': [64, 6],
  'turning the crank, low': [56, 10],
  'turning the crank, high': [48, 3],
  'lifting the lantern to look': [-30, 4],
  'bearing a crate': [38, 6],
  'lifting from the deck': [52, 12],
  'walking into the wind': [72, 4],
  'sitting on a crate, tired': [44, 10],
  'kneeling to tie a knot': [50, 14],
  'throwing a line': [-8, 5],
  'leaning on the rail': [60, 8],
  'poling off the bank': [-58, 6],
  'looking out, hand over the eyes': [-24, 2],
  'slipping on the wet deck': [30, 8],
  'pushing the jammed wheel': [78, 5],
  'climbing onto the ramp': [58, 8],
  'coiling rope': [20, 8],
  'calling across the water': [36, -2],
  'standing at ease': [0, 3],
};

const POSE_ROOMS = [soft, side, back, soft, rake] as const;

const mannequins: Shot[] = POSES.map(({ name }, index) => {
  const [azimuthDeg, elevationDeg] = POSE_VIEWS[name]!;
  return {
    ...{ id: `mannequin-${String(index + 1).padStart(2, '0')}`, title: `Mannequin, ${name}` },
    ...{ subject: 'the mannequin', scene: 'mannequin', state: { pose: name } },
    pose: { target: [0, 0.2, 0], azimuthDeg, elevationDeg, distanceM: 1.5, focalMm: 85 },
    light: POSE_ROOMS[index % POSE_ROOMS.length]!(azimuthDeg),
    ...SMALL,
  };
});

export const STUDIO_SHOTS: readonly Shot[] = [...heads, ...turn, ...lit, ...mannequins];
