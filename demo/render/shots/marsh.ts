import type { Pose } from '../camera.ts';
import type { Light } from '../light.ts';
import { dawn, dusk, fogbound, lowSun, noon, overcast, raking } from './lights.ts';
import { LARGE, LYING, type Shot, STANDING } from './shot.ts';

const plain = (light: Light): Light => ({ ...light, lamps: [] });

const SKY: Pose = {
  ...{ target: [0, 2.2, 0], azimuthDeg: 180, elevationDeg: -5.5, distanceM: 4, focalMm: 26 },
};

function sky(id: string, title: string, light: Light): Shot {
  return {
    ...{ id, title, subject: 'sky and water', scene: 'openWater', pose: SKY, light: plain(light) },
    ...{ ...LYING, samples: 6, rounds: 0 },
  };
}

const skies: Shot[] = [
  sky('sky-0510-dawn', 'Sky and water, ten past five', { ...dawn(16), elevationDeg: 5, fog: 0.006 }),
  sky('sky-0830-morning', 'Sky and water, half past eight', { ...lowSun(-38), elevationDeg: 24, cloud: 0.7 }),
  sky('sky-1240-noon', 'Sky and water, twenty to one', { ...noon(70), cloud: 0.62 }),
  sky('sky-1730-rain-coming', 'Sky and water, half past five, rain coming', {
    ...overcast(-60),
    ...{
      low: [0.4, 0.43, 0.46],
      high: [0.2, 0.23, 0.28],
      cloud: 1.7,
      colour: [0.5, 0.52, 0.56],
      exposure: 0.9,
    },
  }),
  {
    ...sky('sky-2015-last-light', 'Sky and water, quarter past eight', {
      ...dusk(-9),
      ...{ elevationDeg: 2.2, cloud: 0.66, exposure: 1.2 },
    }),
    ...{ ...LARGE, rounds: 0 },
  },
];

function place(
  subject: Shot['subject'],
  scene: Shot['scene'],
  id: string,
  title: string,
  pose: Pose,
  light: Light,
  size: Pick<Shot, 'width' | 'height' | 'samples' | 'rounds'> = LYING,
): Shot {
  return { id, title, subject, scene, pose, light: plain(light), ...size };
}

const HOUSE = ['the winch house at Low Sallow', 'winchHouse'] as const;
const CHANNEL = ['the reed channel', 'reedChannel'] as const;

const places: Shot[] = [
  place(
    ...HOUSE,
    'winch-house-slip',
    'Low Sallow, the slip and the winch house',
    { target: [0.4, 2.1, -2], azimuthDeg: 24, elevationDeg: 4, distanceM: 17, focalMm: 36 },
    lowSun(-44),
    LARGE,
  ),
  place(
    ...HOUSE,
    'winch-house-gate',
    'Low Sallow, the gate, the winch inside',
    { target: [0.3, 1.9, -1.6], azimuthDeg: -16, elevationDeg: 4, distanceM: 7.4, focalMm: 34 },
    overcast(30),
  ),
  place(
    ...HOUSE,
    'winch-house-dusk',
    'Low Sallow, light going',
    { target: [-0.4, 2.6, -3], azimuthDeg: -42, elevationDeg: 2.6, distanceM: 19, focalMm: 40 },
    dusk(112),
    { ...LYING, height: 900 },
  ),
  place(
    ...CHANNEL,
    'reed-channel-dawn',
    'Reed channel at dawn, mist on the water',
    { target: [0.4, 1.5, -6], azimuthDeg: -4, elevationDeg: 3, distanceM: 15, focalMm: 32 },
    { ...dawn(168), fog: 0.03, fogHeightM: 1.6 },
  ),
  place(
    ...CHANNEL,
    'reed-channel-noon',
    'Reed channel, noon, the skiff',
    { target: [-0.6, 0.7, 0], azimuthDeg: 12, elevationDeg: 9, distanceM: 9, focalMm: 34 },
    noon(-50),
  ),
  place(
    ...CHANNEL,
    'reed-channel-fog',
    'Reed channel, fog, withies only',
    { target: [0.6, 1.6, -6], azimuthDeg: 5, elevationDeg: 2.6, distanceM: 15.5, focalMm: 46 },
    fogbound(60),
    STANDING,
  ),
];

const FLAT: Pose = {
  ...{ target: [0, 0, 0], azimuthDeg: 14, elevationDeg: 16, distanceM: 1.36, focalMm: 50 },
};

function study(id: string, title: string, kind: string, light: Light, pose: Pose = FLAT): Shot {
  return {
    ...{ id, title, subject: 'surfaces', scene: 'study', state: { study: kind }, pose },
    light: { ...plain(light), fog: 0, cloud: 0 },
    ...{ ...LYING, samples: 4 },
  };
}

const BEFORE_ONE: Pose = {
  ...{ target: [0, 0, 0.02], azimuthDeg: 12, elevationDeg: 44, distanceM: 1.42, focalMm: 50 },
};

const studies: Shot[] = [
  study(
    'surface-wet-planks',
    'Surface: wet planks',
    'planks',
    { ...raking(168), elevationDeg: 30, exposure: 0.85 },
    BEFORE_ONE,
  ),
  study('surface-rust', 'Surface: rust on lapped plates', 'plates', { ...lowSun(-58), elevationDeg: 38 }),
  study('surface-rope', 'Surface: rope, coiled', 'coil', { ...lowSun(104), elevationDeg: 36 }, BEFORE_ONE),
  study('surface-oilskin', 'Surface: oilskin, hanging', 'cloth', { ...lowSun(-64), elevationDeg: 30 }),
  study('surface-mud', 'Surface: mud at low water', 'ooze', { ...raking(150), elevationDeg: 24 }, BEFORE_ONE),
  study('surface-brick', 'Surface: brick, Low Sallow', 'brickwork', { ...lowSun(-60), elevationDeg: 36 }),
  study('surface-roof-iron', 'Surface: roof iron', 'corrugated', { ...lowSun(64), elevationDeg: 30 }),
  study(
    'surface-reed',
    'Surface: reed, close',
    'reeds',
    { ...lowSun(52), elevationDeg: 30 },
    { target: [0, 1.7, -0.4], azimuthDeg: 0, elevationDeg: 3, distanceM: 3.2, focalMm: 44, apertureM: 0.012 },
  ),
];

export const MARSH_SHOTS: readonly Shot[] = [...skies, ...places, ...studies];
