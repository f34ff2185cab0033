import type { Point } from '../camera.ts';
import { chainPath } from '../models/ferry.ts';
import { FERRY } from '../models/ferry-sizes.ts';
import { type Flat, LineDrawing } from './lines.ts';

const HALF = FERRY.lengthM / 2;
const EDGE = FERRY.beamM / 2;
const HOUSE = { x: 0.9, y: FERRY.deckM, z: -0.55 };
const WHEEL = { x: -1.15, y: 1.72, z: 0.5 };
/** The ramps of a drawing hang level. */
const RAMP = FERRY.rampLengthM;
/** The chain is drawn so far to both sides. */
const CHAIN_SHOWN_M = 7.7;

/** Links along the chain as it is seen from one side. */
function chain(drawing: LineDrawing, flatten: (at: Point) => Flat): void {
  const path = chainPath();
  const count = Math.floor(path.getLength() / 0.105);
  for (let index = 0; index < count; index += 1) {
    const from = path.getPointAt(index / count);
    const to = path.getPointAt((index + 1) / count);
    if (Math.abs(from.x) > CHAIN_SHOWN_M) continue;
    const [ax, ay] = flatten([from.x, from.y, from.z]);
    const [bx, by] = flatten([to.x, to.y, to.z]);
    const length = Math.hypot(bx - ax, by - ay) || 1;
    const wide = index % 2 === 0 ? 0.033 : 0.012;
    const nx = (-(by - ay) / length) * wide;
    const ny = ((bx - ax) / length) * wide;
    const ends: Flat[] = [
      [ax + nx, ay + ny],
      [bx + nx, by + ny],
      [bx - nx, by - ny],
      [ax - nx, ay - ny],
    ];
    drawing.shape('fine', ends, true);
  }
}

/** The ferry from its wheel side: x along the hull, y up from the water. */
export function sideView(): LineDrawing {
  const drawing = new LineDrawing();
  drawing.line('axis', [-HALF - 2.6, 0], [HALF + 2.6, 0]);
  house(drawing, HOUSE.x, FERRY.houseLengthM, true);
  mast(drawing, 2.55);
  wheel(drawing);
  drawing.shape(
    'heavy',
    [
      [-HALF, 0.71],
      [-HALF, 0.5],
      [-HALF + 0.95, -FERRY.draughtM],
      [HALF - 0.95, -FERRY.draughtM],
      [HALF, 0.5],
      [HALF, 0.71],
    ],
    true,
  );
  drawing.box('medium', -HALF - 0.03, 0.59, FERRY.lengthM + 0.06, 0.13, true);
  drawing.box('fine', -HALF + 0.25, 0.3125, FERRY.lengthM - 0.5, 0.035);
  drawing.box('medium', -HALF, 0.715, FERRY.lengthM, 0.06, true);
  for (let index = -3; index <= 3; index += 1) drawing.box('fine', index * 1.28 - 0.045, -0.03, 0.09, 0.62);
  for (let index = 0; index < 72; index += 1)
    drawing.circle('fine', [-4.95 + index * 0.1394, 0.53], 0.013, false, 16);
  for (let index = -4; index <= 4; index += 1) {
    const x = index * 1.18;
    drawing.box('medium', x - 0.034, FERRY.deckM, 0.068, 0.995, true);
    drawing.circle('medium', [x, 1.79], 0.052, true);
    if (index === 4) continue;
    for (const [y, sag] of [
      [1.68, 0.14],
      [1.3, 0.1],
    ] as const) {
      drawing.hang('fine', [x, y], [x + 1.18, y], sag);
      drawing.hang('fine', [x, y - 0.04], [x + 1.18, y - 0.04], sag);
    }
  }
  for (const side of [-1, 1]) {
    drawing.box('heavy', side > 0 ? HALF : -HALF - RAMP, FERRY.deckM - 0.03, RAMP, 0.15, true);
    drawing.circle('medium', [side * 5.08, 0.88], 0.065, true, 32);
    drawing.hang('fine', [side * 4.72, 1.75], [side * (HALF + 1.62), 0.95], 0.1);
  }
  chain(drawing, ([x, y]) => [x, y]);
  for (const x of [-3.35, -1.1, 1.2, 3.5]) {
    drawing.circle('medium', [x, 0.36], 0.27, true);
    drawing.circle('medium', [x, 0.36], 0.15, true);
    drawing.line('fine', [x, 0.63], [x, 0.775]);
  }
  return drawing;
}

function house(drawing: LineDrawing, centre: number, length: number, isSide: boolean): void {
  const left = centre - length / 2;
  const foot = HOUSE.y;
  const top = foot + FERRY.houseHeightM;
  if (isSide) {
    drawing.box('heavy', left, foot, length, FERRY.houseHeightM, true);
    for (let row = 1; row * 0.165 < FERRY.houseHeightM; row += 1)
      drawing.line('fine', [left, foot + row * 0.165], [left + length, foot + row * 0.165]);
    window(drawing, centre - 0.42, foot + 0.98, 0.84, 0.62);
    drawing.box('heavy', left - 0.23, top + 0.02, length + 0.46, 0.45, true);
    for (let rib = 0; rib * 0.076 < length + 0.46; rib += 1)
      drawing.line('fine', [left - 0.23 + rib * 0.076, top + 0.02], [left - 0.23 + rib * 0.076, top + 0.47]);
    drawing.box('medium', centre + 0.425, top + 0.3, 0.15, 0.56, true);
    drawing.shape(
      'medium',
      [
        [centre + 0.35, top + 0.86],
        [centre + 0.65, top + 0.86],
        [centre + 0.5, top + 0.98],
      ],
      true,
    );
    drawing.circle('medium', [centre - 0.68, foot + 1.3], 0.25, true);
    drawing.circle('medium', [centre - 0.68, foot + 1.3], 0.15, true);
    return;
  }
  const half = length / 2;
  drawing.shape(
    'heavy',
    [
      [centre - half, foot],
      [centre - half, top],
      [centre, top + 0.42],
      [centre + half, top],
      [centre + half, foot],
    ],
    true,
  );
  for (let row = 1; row * 0.165 < FERRY.houseHeightM; row += 1)
    drawing.line('fine', [centre - half, foot + row * 0.165], [centre + half, foot + row * 0.165]);
  window(drawing, centre - 0.36, foot + 1, 0.72, 0.6);
  const reach = half + 0.24;
  drawing.shape(
    'heavy',
    [
      [centre - reach, top - 0.02],
      [centre, top + 0.47],
      [centre + reach, top - 0.02],
      [centre + reach, top + 0.03],
      [centre, top + 0.53],
      [centre - reach, top + 0.03],
    ],
    true,
  );
}

function window(drawing: LineDrawing, x: number, y: number, width: number, height: number): void {
  drawing.box('medium', x - 0.03, y - 0.03, width + 0.06, height + 0.06, true);
  drawing.box('fine', x + 0.0275, y + 0.025, width - 0.055, height - 0.0525);
  drawing.line('fine', [x + width / 2, y], [x + width / 2, y + height]);
  drawing.line('fine', [x, y + height / 2], [x + width, y + height / 2]);
}

function mast(drawing: LineDrawing, x: number): void {
  const top = FERRY.mastTopM;
  drawing.shape(
    'medium',
    [
      [x - 0.07, FERRY.deckM],
      [x + 0.07, FERRY.deckM],
      [x + 0.05, top],
      [x - 0.05, top],
    ],
    true,
  );
  drawing.box('medium', x - 0.13, top, 0.26, 0.03, true);
  drawing.shape(
    'medium',
    [
      [x - 0.05, top + 0.04],
      [x - 0.095, top + 0.14],
      [x - 0.05, top + 0.24],
      [x + 0.05, top + 0.24],
      [x + 0.095, top + 0.14],
      [x + 0.05, top + 0.04],
    ],
    true,
  );
  drawing.shape(
    'medium',
    [
      [x - 0.14, top + 0.24],
      [x + 0.14, top + 0.24],
      [x + 0.02, top + 0.38],
      [x - 0.02, top + 0.38],
    ],
    true,
  );
}

function wheel(drawing: LineDrawing): void {
  const { x, y } = WHEEL;
  const radius = FERRY.wheelRadiusM;
  for (const foot of [-0.56, 0.56]) {
    drawing.line('medium', [x - 0.05, y], [x + foot - 0.06, FERRY.deckM]);
    drawing.line('medium', [x + 0.05, y], [x + foot + 0.06, FERRY.deckM]);
  }
  drawing.circle('heavy', [x, y], radius + 0.03, false, 128);
  drawing.circle('medium', [x, y], radius - 0.1, false, 128);
  for (let spoke = 0; spoke < 8; spoke += 1) {
    const angle = (spoke / 8) * 2 * Math.PI;
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    for (const side of [-0.04, 0.04]) {
      drawing.line(
        'fine',
        [x + cos * 0.15 - sin * side, y + sin * 0.15 + cos * side],
        [x + cos * (radius - 0.1) - sin * side * 0.7, y + sin * (radius - 0.1) + cos * side * 0.7],
      );
    }
  }
  for (let tooth = 0; tooth < 25; tooth += 1) {
    const angle = (tooth / 25) * 2 * Math.PI;
    drawing.circle('fine', [x + Math.cos(angle) * radius, y + Math.sin(angle) * radius], 0.03, false, 12);
  }
  drawing.circle('medium', [x, y], 0.16, true);
  drawing.circle('medium', [x, y], 0.1, true);
  for (let bolt = 0; bolt < 6; bolt += 1) {
    const angle = (bolt / 6) * 2 * Math.PI;
    drawing.circle('fine', [x + Math.cos(angle) * 0.125, y + Math.sin(angle) * 0.125], 0.018, false, 12);
  }
}

/** From above: x along the hull, y towards the far side. */
export function planView(): LineDrawing {
  const drawing = new LineDrawing();
  drawing.line('axis', [-HALF - 2.6, 0], [HALF + 2.6, 0]);
  drawing.box('heavy', -HALF, -EDGE, FERRY.lengthM, FERRY.beamM, true);
  drawing.box('medium', -HALF - 0.03, -EDGE - 0.08, FERRY.lengthM + 0.06, FERRY.beamM + 0.16);
  for (let index = 1; index < 54; index += 1)
    drawing.line(
      'fine',
      [-HALF + 0.06 + index * 0.19, -EDGE + 0.03],
      [-HALF + 0.06 + index * 0.19, EDGE - 0.03],
    );
  for (const side of [-1, 1]) {
    const from = side > 0 ? HALF : -HALF - RAMP;
    drawing.box('heavy', from, -1.6, RAMP, 3.2, true);
    for (let board = 1; board < 12; board += 1)
      drawing.line('fine', [from, -1.6 + board * 0.268], [from + RAMP, -1.6 + board * 0.268]);
  }
  const house = { x: HOUSE.x - FERRY.houseLengthM / 2 - 0.23, width: FERRY.houseLengthM + 0.46 };
  const reach = FERRY.houseWidthM / 2 + 0.24;
  drawing.box('heavy', house.x, -HOUSE.z - reach, house.width, 2 * reach, true);
  for (let rib = 1; rib * 0.076 < house.width; rib += 1)
    drawing.line(
      'fine',
      [house.x + rib * 0.076, -HOUSE.z - reach],
      [house.x + rib * 0.076, -HOUSE.z + reach],
    );
  drawing.line('medium', [house.x, -HOUSE.z], [house.x + house.width, -HOUSE.z]);
  drawing.circle('medium', [HOUSE.x + 0.5, -HOUSE.z + 0.42], 0.15, true);
  drawing.box(
    'heavy',
    WHEEL.x - FERRY.wheelRadiusM - 0.03,
    -WHEEL.z - 0.075,
    2 * FERRY.wheelRadiusM + 0.06,
    0.15,
    true,
  );
  drawing.box('medium', WHEEL.x - 0.05, -WHEEL.z - 0.62, 0.1, 1.12);
  for (const [side, foot] of [
    [-0.34, -0.56],
    [-0.34, 0.56],
    [0.34, -0.56],
    [0.34, 0.56],
  ] as const)
    drawing.box('medium', WHEEL.x + foot - 0.12, -WHEEL.z - side - 0.09, 0.24, 0.18);
  drawing.circle('medium', [2.55, 0.9], 0.07, true);
  drawing.circle('medium', [2.55, 0.9], 0.14);
  for (const [x, z] of [
    [3.85, -1.2],
    [3.4, -1.32],
  ] as const) {
    drawing.circle('medium', [x, -z], 0.262, true);
    drawing.circle('fine', [x, -z], 0.2);
  }
  for (const z of [-1.72, 1.72])
    for (let index = -4; index <= 4; index += 1) {
      drawing.circle('medium', [index * 1.18, z], 0.052, true, 24);
      if (index < 4) drawing.line('fine', [index * 1.18 + 0.05, z], [index * 1.18 + 1.13, z]);
    }
  chain(drawing, ([x, , z]) => [x, -z]);
  return drawing;
}

/** From the bow: x towards the wheel side's left (as one sees it), y up. */
export function frontView(): LineDrawing {
  const drawing = new LineDrawing();
  drawing.line('axis', [0, -0.7], [0, 4.8]);
  house(drawing, -HOUSE.z, FERRY.houseWidthM, false);
  mast(drawing, 0.9);
  drawing.box(
    'heavy',
    -WHEEL.z - 0.075,
    WHEEL.y - FERRY.wheelRadiusM - 0.03,
    0.15,
    2 * FERRY.wheelRadiusM + 0.06,
    true,
  );
  drawing.box('medium', -WHEEL.z - 0.62, WHEEL.y - 0.05, 1.12, 0.1, true);
  drawing.box('heavy', -EDGE, -FERRY.draughtM, FERRY.beamM, FERRY.draughtM + 0.71, true);
  drawing.line('fine', [-EDGE, 0.5], [EDGE, 0.5]);
  drawing.line('axis', [-EDGE - 0.7, 0], [EDGE + 0.7, 0]);
  drawing.box('medium', -EDGE - 0.05, 0.565, FERRY.beamM + 0.1, 0.15, true);
  drawing.box('heavy', -1.6, FERRY.deckM - 0.03, 3.2, 0.06, true);
  for (let board = 0; board <= 12; board += 1)
    drawing.line(
      'fine',
      [-1.6 + board * 0.268, FERRY.deckM - 0.03],
      [-1.6 + board * 0.268, FERRY.deckM + 0.03],
    );
  for (const x of [-1.72, 1.72]) {
    drawing.box('medium', x - 0.034, FERRY.deckM, 0.068, 0.995, true);
    drawing.circle('medium', [x, 1.79], 0.052, true);
    drawing.hang('fine', [x, 1.75], [(x > 0 ? 1 : -1) * 1.57, 0.95], 0.03);
  }
  chain(drawing, ([, y, z]) => [-z, y]);
  return drawing;
}
