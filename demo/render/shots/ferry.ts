import type { Pose } from '../camera.ts';
import type { Light } from '../light.ts';
import { dawn, dusk, fogbound, lowSun, overcast, raking } from './lights.ts';
import { LARGE, LYING, type Shot, STANDING } from './shot.ts';

const ROUND = [0, 45, 90, 135, 180, 225, 270, 315];
const SIDES = [
  'wheel side',
  'wheel side and bow',
  'bow',
  'far side and bow',
  'far side',
  'far side and stern',
  'stern',
  'wheel side and stern',
];

const FERRY = { subject: 'the ferry', scene: 'ferry' } as const;

/** How the ferry is seen under each light: from the bank, from a boat, from low water. */
const LIGHTS = [
  {
    ...{ key: 'soft', word: 'overcast', light: () => overcast(40) },
    ...{ elevationDeg: 13, focalMm: 56, distanceM: 24 },
  },
  {
    ...{ key: 'side', word: 'low sun', light: (azimuth: number) => lowSun(azimuth - 72) },
    ...{ elevationDeg: 8, focalMm: 35, distanceM: 16.5 },
  },
  {
    ...{ key: 'dusk', word: 'dusk, against the light', light: (azimuth: number) => dusk(azimuth + 157) },
    ...{ elevationDeg: 3.4, focalMm: 44, distanceM: 20 },
  },
] as const;

const rounds: Shot[] = ROUND.flatMap((azimuthDeg, index) =>
  LIGHTS.map(({ key, word, light, elevationDeg, focalMm, distanceM }) => {
    // End on, the ferry is a third as wide: the camera steps nearer.
    const isEnd = azimuthDeg % 180 === 90;
    const pose: Pose = {
      ...{ target: [0.1, key === 'dusk' ? 1.7 : 1.35, 0], azimuthDeg, elevationDeg, focalMm },
      distanceM: isEnd ? distanceM * 0.78 : distanceM,
    };
    const size = azimuthDeg === 45 && key === 'side' ? LARGE : LYING;
    return {
      ...FERRY,
      id: `ferry-${String(azimuthDeg).padStart(3, '0')}-${key}`,
      title: `Ferry, ${SIDES[index]}, ${word}`,
      ...{ pose, light: light(azimuthDeg), ...size },
    };
  }),
);

type Size = Pick<Shot, 'width' | 'height' | 'samples' | 'rounds'>;

function detail(id: string, title: string, pose: Pose, light: Light, size: Size = LYING): Shot {
  // What lies out of focus needs more rays to become smooth.
  const samples = pose.apertureM ? 5 : size.samples;
  return { ...FERRY, id, title, pose, light, ...size, samples };
}

const details: Shot[] = [
  detail(
    'chain-wheel-raking',
    'Chain wheel, raking light',
    {
      target: [-1.15, 1.68, 0.5],
      azimuthDeg: 22,
      elevationDeg: 7,
      distanceM: 3.4,
      focalMm: 48,
      apertureM: 0.012,
    },
    raking(95),
    STANDING,
  ),
  detail(
    'chain-wheel-edge',
    'Chain wheel along its axle, the chain coming in',
    {
      target: [-1.0, 1.75, 0.5],
      azimuthDeg: 76,
      elevationDeg: 12,
      distanceM: 2.9,
      focalMm: 50,
      apertureM: 0.014,
    },
    overcast(10),
    STANDING,
  ),
  detail(
    'winch-house-window',
    'Window of the winch house, life ring',
    { target: [0.7, 1.98, 0.3], azimuthDeg: 14, elevationDeg: 5, distanceM: 2.7, focalMm: 44 },
    { ...lowSun(-62), exposure: 0.85 },
  ),
  detail(
    'bow-ramp-hinge',
    'Bow ramp at its hinge, chain on the roller',
    {
      target: [5.15, 0.92, 0.9],
      azimuthDeg: 52,
      elevationDeg: 22,
      distanceM: 2.7,
      focalMm: 42,
      apertureM: 0.008,
    },
    lowSun(130),
  ),
  detail(
    'deck-planks-wet',
    'Deck planks, wet, against the light',
    {
      target: [-2.7, 0.78, 0.6],
      azimuthDeg: 250,
      elevationDeg: 19,
      distanceM: 2.2,
      focalMm: 40,
      apertureM: 0.008,
    },
    dawn(75),
  ),
  detail(
    'mast-lamp-dusk',
    'Mast lamp, just lit',
    {
      target: [2.52, 4.12, -0.9],
      azimuthDeg: 28,
      elevationDeg: -4,
      distanceM: 1.9,
      focalMm: 62,
      apertureM: 0.02,
    },
    dusk(140),
    STANDING,
  ),
  detail(
    'rail-rope',
    'Rail post and hand ropes',
    {
      target: [-2.36, 1.52, 1.72],
      azimuthDeg: 48,
      elevationDeg: 9,
      distanceM: 1.7,
      focalMm: 52,
      apertureM: 0.018,
    },
    lowSun(-30),
    STANDING,
  ),
  detail(
    'barrels-and-crates',
    'Crates on deck, the stern behind',
    {
      target: [-3.0, 1.1, -1.0],
      azimuthDeg: 62,
      elevationDeg: 20,
      distanceM: 3.2,
      focalMm: 42,
      apertureM: 0.01,
    },
    overcast(-60),
  ),
  detail(
    'hull-rust-fender',
    'Hull plates, rust and a fender',
    { target: [-0.7, 0.42, 1.93], azimuthDeg: 16, elevationDeg: 4, distanceM: 2.6, focalMm: 40 },
    lowSun(62),
  ),
  detail(
    'winch-house-door',
    'Door of the winch house, ajar',
    { target: [-0.05, 1.75, -0.5], azimuthDeg: 292, elevationDeg: 6, distanceM: 3.5, focalMm: 40 },
    overcast(250),
    STANDING,
  ),
];

const moments: Shot[] = [
  detail(
    'dawn-first-crossing',
    'First crossing, dawn',
    { target: [0.6, 2.5, 0], azimuthDeg: 12, elevationDeg: 2.6, distanceM: 22, focalMm: 38 },
    dawn(196),
    { ...LARGE, height: 2250 },
  ),
  detail(
    'fog-closing-in',
    'Fog closes in',
    { target: [-0.6, 2.2, 0], azimuthDeg: 322, elevationDeg: 4.5, distanceM: 25, focalMm: 45 },
    fogbound(120),
    { ...LYING, height: 900 },
  ),
  detail(
    'last-crossing',
    'The last crossing',
    { target: [1.5, 2.6, 0], azimuthDeg: 205, elevationDeg: 2.4, distanceM: 27, focalMm: 44 },
    dusk(30),
    { ...LYING, height: 900 },
  ),
];

export const FERRY_SHOTS: readonly Shot[] = [...rounds, ...details, ...moments];
