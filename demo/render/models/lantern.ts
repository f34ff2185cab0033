import { CylinderGeometry } from 'three';
import type { Point } from '../camera.ts';
import { placed } from '../mesh.ts';
import { hash01 } from '../noise.ts';
import { curveOf, type Workshop } from './parts.ts';

/** Of the storm lantern, metres: it stands on y = 0, its filler cap towards +x, the wick's knob towards +z. */
export const LANTERN = { heightM: 0.335, baseRadiusM: 0.086, globeRadiusM: 0.056, flameM: 0.166 } as const;

const TUBE_X = 0.098;

export function buildLantern(shop: Workshop): void {
  buildTank(shop);
  buildBurner(shop);
  buildGlobe(shop);
  buildTubes(shop);
  buildHood(shop);
}

function buildTank(shop: Workshop): void {
  shop.turned(
    'brass',
    [0, 0, 0],
    [
      [0.001, 0.004],
      [0.08, 0.004],
      [0.084, 0],
      [0.088, 0.004],
      [0.0875, 0.012],
      [0.084, 0.016],
      [0.0855, 0.03],
      [0.084, 0.046],
      [0.0865, 0.05],
      [0.084, 0.054],
      [0.066, 0.068],
      [0.04, 0.076],
      [0.034, 0.082],
    ],
    72,
  );
  // Filler cap on the shoulder.
  const cap = shop.within(placed(0.056, 0.062, 0.012, { turnDeg: [0, 0, -32] }));
  cap.turned(
    'brass',
    [0, 0, 0],
    [
      [0.017, 0],
      [0.017, 0.011],
      [0.014, 0.014],
      [0.001, 0.015],
    ],
    28,
  );
  for (let ridge = 0; ridge < 14; ridge += 1) {
    const angle = (ridge / 14) * 2 * Math.PI;
    cap.bar(
      'brass',
      [Math.cos(angle) * 0.017, 0.001, Math.sin(angle) * 0.017],
      [Math.cos(angle) * 0.017, 0.01, Math.sin(angle) * 0.017],
      0.0013,
      0.0013,
      6,
    );
  }
}

function buildBurner(shop: Workshop): void {
  shop.turned(
    'brass',
    [0, 0.078, 0],
    [
      [0.034, 0],
      [0.04, 0.006],
      [0.04, 0.02],
      [0.036, 0.024],
      [0.05, 0.032],
      [0.052, 0.036],
      [0.036, 0.038],
      [0.028, 0.052],
      [0.014, 0.062],
      [0.001, 0.063],
    ],
    56,
  );
  for (let hole = 0; hole < 18; hole += 1) {
    const angle = (hole / 18) * 2 * Math.PI;
    shop.ball('dark', [Math.cos(angle) * 0.0398, 0.091, Math.sin(angle) * 0.0398], 0.0028, 4);
  }
  // The knob that raises the wick.
  shop.bar('brass', [0, 0.094, 0.03], [0, 0.094, 0.086], 0.0022, 0.0022, 10);
  shop.bar('brass', [0, 0.094, 0.086], [0, 0.094, 0.091], 0.0105, 0.0105, 22);
  shop.box('plank', [0, 0.145, 0], [0.014, 0.012, 0.003], [0, 0, 0], 0.001);
  shop.turned(
    'flame',
    [0, 0.149, 0],
    [
      [0.001, 0],
      [0.0052, 0.003],
      [0.0078, 0.011],
      [0.0066, 0.02],
      [0.0036, 0.032],
      [0.0012, 0.041],
      [0.0002, 0.045],
    ],
    24,
  );
}

function buildGlobe(shop: Workshop): void {
  const outline: [number, number][] = [
    [0.041, 0.116],
    [0.05, 0.13],
    [0.0555, 0.15],
    [0.0565, 0.17],
    [0.053, 0.194],
    [0.045, 0.215],
    [0.037, 0.229],
  ];
  shop.turned('glass', [0, 0, 0], outline, 72);
  shop.turned(
    'glass',
    [0, 0, 0],
    outline.map(([radius, height]) => [radius - 0.0018, height]),
    72,
  );
  // Wires that guard it: two crossed hoops on each side and two level rings.
  for (const y of [0.143, 0.196]) shop.ring('brass', [0, y, 0], 0.0655, 0.0016, [90, 0, 0], 72);
  for (const deg of [45, 135, 225, 315]) {
    const angle = (deg * Math.PI) / 180;
    const at = (radius: number, y: number): Point => [Math.cos(angle) * radius, y, Math.sin(angle) * radius];
    shop.tube(
      'brass',
      curveOf([at(0.05, 0.113), at(0.064, 0.125), at(0.0675, 0.17), at(0.06, 0.215), at(0.042, 0.234)]),
      0.0016,
      26,
      7,
    );
  }
}

/** The two tubes that lead air down into the tank, and the bail. */
function buildTubes(shop: Workshop): void {
  for (const side of [-1, 1]) {
    const path: Point[] = [
      [side * 0.06, 0.06, 0],
      [side * 0.082, 0.07, 0],
      [side * TUBE_X, 0.094, 0],
      [side * TUBE_X, 0.17, 0],
      [side * TUBE_X, 0.238, 0],
      [side * 0.09, 0.262, 0],
      [side * 0.062, 0.276, 0],
      [side * 0.03, 0.279, 0],
    ];
    shop.tube('brass', curveOf(path), 0.0098, 48, 18);
    shop.ring('brass', [side * TUBE_X, 0.232, 0], 0.0105, 0.0018, [90, 0, 0], 24);
    shop.ball('brass', [side * (TUBE_X + 0.01), 0.218, 0], 0.006, 8);
  }
  const bail: Point[] = [];
  for (let step = 0; step <= 12; step += 1) {
    const angle = (step / 12) * Math.PI;
    bail.push([Math.cos(angle) * 0.111, 0.219 - Math.sin(angle) * 0.07, 0.012 + Math.sin(angle) * 0.088]);
  }
  shop.tube('iron', curveOf(bail), 0.0021, 60, 8);
  shop.bar('plank', [-0.026, 0.1495, 0.1], [0.026, 0.1495, 0.1], 0.0066, 0.0066, 16);
}

function buildHood(shop: Workshop): void {
  shop.turned(
    'brass',
    [0, 0.226, 0],
    [
      [0.036, 0],
      [0.046, 0.003],
      [0.048, 0.009],
      [0.041, 0.014],
      [0.036, 0.036],
      [0.046, 0.042],
      [0.048, 0.05],
      [0.04, 0.06],
      [0.033, 0.072],
      [0.033, 0.082],
      [0.042, 0.086],
      [0.043, 0.09],
      [0.02, 0.1],
      [0.008, 0.104],
      [0.001, 0.105],
    ],
    64,
  );
  for (let hole = 0; hole < 16; hole += 1) {
    const angle = (hole / 16) * 2 * Math.PI;
    const at: Point = [Math.cos(angle) * 0.0332, 0.302, Math.sin(angle) * 0.0332];
    shop.ball('dark', at, 0.0036, 5);
  }
  shop.ring('iron', [0, 0.341, 0], 0.012, 0.0017, [0, 20, 0], 26);
}

/** A round table top of boards under the origin. */
export function layTable(shop: Workshop, radius: number): void {
  const width = 0.108;
  const count = Math.ceil((radius * 2) / width);
  for (let index = 0; index < count; index += 1) {
    const z = (index - (count - 1) / 2) * width;
    const half = Math.sqrt(Math.max(0, radius * radius - z * z));
    if (half < 0.04) continue;
    const lift = 0.0016 * (hash01(index, 4) - 0.5);
    shop.box('tableWood', [0, -0.016 + lift, z], [half * 2, 0.032, width - 0.0022], [0, 0, 0], 0.003);
  }
}

/** A wall all round, so that a picture ends nowhere; lit like everything else. */
export function raiseBackdrop(shop: Workshop, radius: number, height: number): void {
  shop.add(
    new CylinderGeometry(radius, radius, height, 96, 1, true),
    'backdrop',
    placed(0, height / 2 - height * 0.25, 0),
  );
}
