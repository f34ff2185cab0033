import type { Point } from '../camera.ts';
import type { Opening } from './boarding.ts';

/** Of the chain ferry, metres: it lies along x, its wheel towards +z, the waterline at y = 0. */
export const FERRY = {
  lengthM: 10.4,
  beamM: 3.7,
  deckM: 0.775,
  draughtM: 0.25,
  houseLengthM: 1.9,
  houseWidthM: 1.6,
  houseHeightM: 2,
  ridgeM: 3.2,
  wheelRadiusM: 0.82,
  mastTopM: 4.1,
  rampLengthM: 2.1,
} as const;

export const WHEEL: Point = [-1.15, 1.72, 0.5];
export const HOUSE: Point = [0.9, FERRY.deckM, -0.55];
export const LINK_M = 0.105;
export const SIDE_WINDOW: Opening = { x: -0.42, y: 0.98, width: 0.84, height: 0.62 };
export const BOW_WINDOW: Opening = { x: -0.36, y: 1, width: 0.72, height: 0.6 };
