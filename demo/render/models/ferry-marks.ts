import { Vector3 } from 'three';
import type { Point } from '../camera.ts';
import type { Opening } from './boarding.ts';
import { BOW_WINDOW, FERRY, HOUSE, SIDE_WINDOW } from './ferry-sizes.ts';

/** Corners that a person can point at in a picture, by name. */
export const FERRY_MARKS: Readonly<Record<string, Point>> = {
  'roof, bow end of the wheel-side eave': [HOUSE[0] + 1.18, HOUSE[1] + 2.02, HOUSE[2] + 1.04],
  'roof, stern end of the wheel-side eave': [HOUSE[0] - 1.18, HOUSE[1] + 2.02, HOUSE[2] + 1.04],
  'roof, bow end of the ridge': [HOUSE[0] + 1.18, HOUSE[1] + 2.495, HOUSE[2]],
  'roof, stern end of the ridge': [HOUSE[0] - 1.18, HOUSE[1] + 2.495, HOUSE[2]],
  'rub rail, bow end, wheel side': [5.23, 0.72, 1.93],
  'rub rail, stern end, wheel side': [-5.23, 0.72, 1.93],
  'rub rail, bow end, far side': [5.23, 0.72, -1.93],
  'rub rail, stern end, far side': [-5.23, 0.72, -1.93],
  'mast, top of the plate': [2.55, FERRY.mastTopM, -0.9],
};

/** Where a window's frame ends towards its panes, in front; its sill stands further out. */
function paneCorners(
  toWorld: (x: number, y: number, z: number) => Point,
  { x, y, width, height }: Opening,
): Readonly<Record<string, Point>> {
  const [left, right] = [x + 0.0275, x + width - 0.0275];
  const [low, top] = [y + 0.1, y + height - 0.0275];
  return {
    'upper left': toWorld(left, top, 0.065),
    'upper right': toWorld(right, top, 0.065),
    'lower left': toWorld(left, low, 0.065),
    'lower right': toWorld(right, low, 0.065),
  };
}

const { houseLengthM, houseWidthM } = FERRY;
export const FERRY_WINDOWS = {
  'wheel-side window': paneCorners(
    (x, y, z) => [HOUSE[0] + x, HOUSE[1] + y, HOUSE[2] + houseWidthM / 2 + z],
    SIDE_WINDOW,
  ),
  'far-side window': paneCorners(
    (x, y, z) => [HOUSE[0] - x, HOUSE[1] + y, HOUSE[2] - houseWidthM / 2 - z],
    SIDE_WINDOW,
  ),
  'bow window': paneCorners(
    (x, y, z) => [HOUSE[0] + houseLengthM / 2 + z, HOUSE[1] + y, HOUSE[2] - x],
    BOW_WINDOW,
  ),
};

export const FERRY_AXES: Readonly<Record<string, Vector3>> = {
  'along the hull': new Vector3(1, 0, 0),
  'across the hull': new Vector3(0, 0, 1),
};
