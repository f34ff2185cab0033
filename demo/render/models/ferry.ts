import { ExtrudeGeometry, PlaneGeometry, Shape, TorusGeometry } from 'three';
import type { Point } from '../camera.ts';
import { placed } from '../mesh.ts';
import { hash01 } from '../noise.ts';
import { wallOfBoards } from './boarding.ts';
import { buildCargo, buildFenders, buildMast, buildRails } from './ferry-fittings.ts';
import { BOW_WINDOW, FERRY, HOUSE, LINK_M, SIDE_WINDOW, WHEEL } from './ferry-sizes.ts';
import { creased, curveOf, hanging, type Workshop } from './parts.ts';

/** Turn of the wheel, degrees, and how far the ramps are raised. */
export interface FerryState {
  readonly wheelDeg?: number;
  readonly rampBowDeg?: number;
  readonly rampSternDeg?: number;
}

/** What the ferry is built of, by name. */
export function ferryParts({
  wheelDeg = 0,
  rampBowDeg = 17,
  rampSternDeg = 6,
}: FerryState): readonly (readonly [name: string, build: (shop: Workshop) => void])[] {
  const half = FERRY.lengthM / 2;
  const bow = placed(half, FERRY.deckM, 0, { turnDeg: [0, 0, rampBowDeg] });
  const stern = placed(-half, FERRY.deckM, 0, { turnDeg: [0, 180, rampSternDeg] });
  return [
    ['hull', buildHull],
    ['deck', buildDeck],
    ['bow ramp', (shop) => buildRamp(shop.within(bow))],
    ['stern ramp', (shop) => buildRamp(shop.within(stern))],
    ['ramp stays', (shop) => buildRampStays(shop, rampBowDeg, rampSternDeg)],
    ['winch house', (shop) => buildHouse(shop.within(placed(...HOUSE)))],
    ['chain wheel', (shop) => buildWheel(shop, wheelDeg)],
    ['chain', (shop) => buildChain(shop, wheelDeg)],
    ['rails', buildRails],
    ['lamp mast', buildMast],
    ['cargo', buildCargo],
    ['fenders', buildFenders],
  ];
}

export function buildFerry(shop: Workshop, state: FerryState = {}): void {
  for (const [, build] of ferryParts(state)) build(shop);
}

function buildHull(shop: Workshop): void {
  const half = FERRY.lengthM / 2;
  const side = new Shape();
  side.moveTo(-half, 0.71);
  side.lineTo(-half, 0.5);
  side.lineTo(-half + 0.95, -FERRY.draughtM);
  side.lineTo(half - 0.95, -FERRY.draughtM);
  side.lineTo(half, 0.5);
  side.lineTo(half, 0.71);
  const body = new ExtrudeGeometry(side, { depth: FERRY.beamM, bevelEnabled: false, steps: 1 });
  shop.add(creased(body), 'hull', placed(0, 0, -FERRY.beamM / 2));
  const edge = FERRY.beamM / 2;
  for (const z of [-edge - 0.035, edge + 0.035]) {
    shop.box('plank', [0, 0.655, z], [FERRY.lengthM + 0.06, 0.13, 0.09], [0, 0, 0], 0.018);
    shop.box('hull', [0, 0.33, z * 0.995], [FERRY.lengthM - 0.5, 0.035, 0.05]);
    for (let index = -3; index <= 3; index += 1) {
      shop.box('hull', [index * 1.28, 0.28, z * 0.992], [0.09, 0.62, 0.022], [0, 0, 0], 0.006);
    }
    for (let index = 0; index < 72; index += 1) {
      shop.ball('hull', [-4.95 + index * 0.1394, 0.53, z * 0.986], 0.013, 4);
    }
  }
  for (const x of [-half - 0.03, half + 0.03]) {
    shop.box('plank', [x, 0.64, 0], [0.09, 0.15, FERRY.beamM + 0.1], [0, 0, 0], 0.018);
  }
}

function buildDeck(shop: Workshop): void {
  const pitch = 0.19;
  const count = Math.floor((FERRY.lengthM - 0.06) / pitch);
  for (let index = 0; index < count; index += 1) {
    const x = (index - (count - 1) / 2) * pitch;
    const lift = 0.004 * (hash01(index, 3) - 0.5);
    const length = FERRY.beamM - 0.06 + 0.03 * (hash01(index, 5) - 0.5);
    shop.box('plank', [x, FERRY.deckM - 0.03 + lift, 0], [length, 0.06, pitch - 0.009], [0, 90, 0], 0.006);
    for (const z of [-1.6, -0.55, 0.55, 1.6]) {
      shop.ball('iron', [x + 0.045, FERRY.deckM + lift - 0.003, z], 0.0085, 4);
      shop.ball('iron', [x - 0.045, FERRY.deckM + lift - 0.003, z], 0.0085, 4);
    }
  }
}

/** Hinged at the origin, lying along +x. */
function buildRamp(shop: Workshop): void {
  const { rampLengthM: length } = FERRY;
  for (let index = 0; index < 12; index += 1) {
    const z = (index - 5.5) * 0.268;
    const end = 0.025 * hash01(index, 9);
    shop.box('plank', [length / 2 + 0.03 - end / 2, 0, z], [length - end, 0.055, 0.258], [0, 0, 0], 0.007);
  }
  for (const x of [0.22, 1.05, 1.86]) shop.box('iron', [x, 0.033, 0], [0.07, 0.012, 3.2]);
  for (const z of [-1.57, 1.57]) {
    shop.box('iron', [length / 2, 0.07, z], [length + 0.02, 0.15, 0.03]);
    shop.bar('iron', [0, 0, z], [0, 0, z * 0.8], 0.04);
    shop.ring('iron', [1.62, 0.17, z], 0.045, 0.012);
  }
  shop.box('iron', [length + 0.03, 0, 0], [0.05, 0.045, 3.16]);
}

function buildRampStays(shop: Workshop, bowDeg: number, sternDeg: number): void {
  for (const z of [-1.57, 1.57]) {
    for (const [side, deg] of [
      [1, bowDeg],
      [-1, sternDeg],
    ] as const) {
      const turn = (deg * Math.PI) / 180;
      const along = 1.62 * Math.cos(turn) - 0.17 * Math.sin(turn);
      const up = 1.62 * Math.sin(turn) + 0.17 * Math.cos(turn);
      const post: Point = [side * 4.72, FERRY.deckM + 0.97, z * 1.06];
      const ring: Point = [side * (FERRY.lengthM / 2 + along), FERRY.deckM + up, z];
      shop.chain(hanging(post, ring, 0.1), 0.075, 0, 10);
    }
  }
}

/** On its floor at the origin, long along x. */
function buildHouse(shop: Workshop): void {
  const { houseLengthM: length, houseWidthM: width, houseHeightM: height } = FERRY;
  wallOfBoards(shop.within(placed(0, 0, width / 2)), length, height, [SIDE_WINDOW]);
  wallOfBoards(shop.within(placed(0, 0, -width / 2, { turnDeg: [0, 180, 0] })), length, height, [
    SIDE_WINDOW,
  ]);
  wallOfBoards(
    shop.within(placed(length / 2, 0, 0, { turnDeg: [0, 90, 0] })),
    width,
    height,
    [BOW_WINDOW],
    0.42,
  );
  const door = { x: -0.24, y: 0.03, width: 0.72, height: 1.72, door: true };
  wallOfBoards(shop.within(placed(-length / 2, 0, 0, { turnDeg: [0, -90, 0] })), width, height, [door], 0.42);
  shop.box('dark', [0, height / 2, 0], [length - 0.14, height - 0.1, width - 0.14]);
  for (const x of [-1, 1]) {
    for (const z of [-1, 1]) {
      shop.box(
        'siding',
        [(x * length) / 2, height / 2, (z * width) / 2],
        [0.1, height, 0.1],
        [0, 0, 0],
        0.012,
      );
    }
  }
  buildRoof(shop.within(placed(0, height, 0)), length + 0.46, width / 2 + 0.24, 0.45);
  shop.bar('iron', [0.5, height + 0.1, -0.42], [0.5, height + 0.86, -0.42], 0.075);
  shop.turned(
    'roof',
    [0.5, height + 0.86, -0.42],
    [
      [0.001, 0.12],
      [0.15, 0.02],
      [0.15, 0],
    ],
  );
  buildLifeRing(shop.within(placed(-0.68, 1.3, width / 2 + 0.075)));
}

/** Two slopes of corrugated iron, the ridge along x. */
export function buildRoof(shop: Workshop, length: number, reach: number, rise: number): void {
  const slope = Math.hypot(reach, rise);
  const pitchDeg = (Math.atan2(rise, reach) * 180) / Math.PI;
  for (const side of [1, -1]) {
    const sheet = new PlaneGeometry(length, slope, 220, 6);
    const at = sheet.getAttribute('position');
    for (let index = 0; index < at.count; index += 1) {
      const dent =
        0.01 *
        Math.sin(at.getX(index) * 5.1 + at.getY(index) * 3) *
        (hash01(Math.round(at.getX(index) * 2), side) - 0.3);
      at.setZ(index, 0.013 * Math.sin((at.getX(index) / 0.076) * 2 * Math.PI) + dent);
    }
    sheet.computeVertexNormals();
    const matrix = placed(0, rise / 2 + 0.02, (side * reach) / 2, {
      turnDeg: [side * (pitchDeg - 90), 0, 0],
    });
    shop.add(sheet, 'roof', matrix);
  }
  shop.bar('roof', [-length / 2, rise + 0.025, 0], [length / 2, rise + 0.025, 0], 0.045);
  for (const side of [1, -1]) {
    for (const x of [-length / 2 + 0.02, length / 2 - 0.02]) {
      const turnDeg: Point = [side * pitchDeg, 0, 0];
      shop.box('plank', [x, rise / 2 - 0.045, (side * reach) / 2], [0.03, 0.11, slope], turnDeg);
    }
  }
}

function buildLifeRing(shop: Workshop): void {
  for (let quarter = 0; quarter < 8; quarter += 1) {
    const arc = new TorusGeometry(0.2, 0.05, 14, 14, Math.PI / 4);
    shop.add(
      arc,
      quarter % 2 === 0 ? 'redLead' : 'whitewash',
      placed(0, 0, 0, { turnDeg: [0, 0, quarter * 45] }),
    );
  }
}

function buildWheel(shop: Workshop, wheelDeg: number): void {
  const wheel = shop.within(placed(...WHEEL, { turnDeg: [0, 0, wheelDeg] }));
  const radius = FERRY.wheelRadiusM;
  wheel.turnedAboutZ('iron', [
    [radius - 0.1, -0.055],
    [radius - 0.02, -0.075],
    [radius + 0.03, -0.07],
    [radius - 0.015, -0.02],
    [radius - 0.015, 0.02],
    [radius + 0.03, 0.07],
    [radius - 0.02, 0.075],
    [radius - 0.1, 0.055],
    [radius - 0.1, -0.055],
  ]);
  for (let spoke = 0; spoke < 8; spoke += 1) {
    const angle = (spoke / 8) * 2 * Math.PI;
    const out: Point = [Math.cos(angle), Math.sin(angle), 0];
    const at = (r: number): Point => [out[0] * r, out[1] * r, 0];
    wheel.bar('iron', at(0.1), at(radius - 0.07), 0.046, 0.032);
    wheel.ball('iron', at(radius - 0.1), 0.05, 8);
  }
  const teeth = Math.round((2 * Math.PI * radius) / (2 * LINK_M));
  for (let tooth = 0; tooth < teeth; tooth += 1) {
    const deg = (tooth / teeth) * 360;
    const turn = (deg * Math.PI) / 180;
    wheel.box(
      'iron',
      [Math.cos(turn) * radius, Math.sin(turn) * radius, 0],
      [0.07, 0.045, 0.05],
      [0, 0, deg],
      0.012,
    );
  }
  wheel.bar('iron', [0, 0, -0.14], [0, 0, 0.14], 0.16, 0.16, 32);
  wheel.bar('iron', [0, 0, -0.19], [0, 0, 0.19], 0.1, 0.1, 28);
  for (let bolt = 0; bolt < 6; bolt += 1) {
    const angle = (bolt / 6) * 2 * Math.PI;
    wheel.ball('iron', [Math.cos(angle) * 0.125, Math.sin(angle) * 0.125, 0.142], 0.018, 5);
  }
  buildWheelStand(shop);
}

function buildWheelStand(shop: Workshop): void {
  const [x, y, z] = WHEEL;
  shop.bar('iron', [x, y, z - 0.5], [x, y, z + 0.62], 0.05, 0.05, 20);
  for (const side of [-0.34, 0.34]) {
    for (const foot of [-0.56, 0.56]) {
      shop.bar('iron', [x, y, z + side], [x + foot, FERRY.deckM, z + side], 0.05, 0.06);
      shop.box('iron', [x + foot, FERRY.deckM + 0.015, z + side], [0.24, 0.03, 0.18]);
      for (const bolt of [-0.08, 0.08]) {
        shop.ball('iron', [x + foot + bolt, FERRY.deckM + 0.034, z + side + 0.05], 0.018, 5);
      }
    }
    shop.bar('iron', [x - 0.3, FERRY.deckM + 0.42, z + side], [x + 0.3, FERRY.deckM + 0.42, z + side], 0.028);
    shop.box('iron', [x, y, z + side], [0.2, 0.2, 0.1], [0, 0, 45], 0.02);
  }
  // The hand crank that turns it when the engine will not.
  shop.bar('iron', [x, y, z + 0.62], [x + 0.28, y - 0.19, z + 0.62], 0.026);
  shop.bar('plank', [x + 0.28, y - 0.19, z + 0.6], [x + 0.28, y - 0.19, z + 0.86], 0.026);
}

/** Where the chain runs: out of the water, over a roller, over the wheel, and down again. */
export function chainPath() {
  const [x, y, z] = WHEEL;
  const radius = FERRY.wheelRadiusM + 0.03;
  const points: Point[] = [[8.9, -0.75, z]];
  points.push([6.4, 0.32, z], [5.32, 0.92, z], [5.08, 0.985, z], [4.8, 0.96, z]);
  for (let step = 1; step < 6; step += 1) {
    const t = step / 6;
    points.push([4.8 + (x + 0.42 - 4.8) * t, 0.96 + (y + radius - 0.14 - 0.96) * t - 0.5 * t * (1 - t), z]);
  }
  for (let deg = 62; deg <= 118; deg += 14) {
    const angle = (deg * Math.PI) / 180;
    points.push([x + Math.cos(angle) * radius, y + Math.sin(angle) * radius, z]);
  }
  for (let step = 1; step < 5; step += 1) {
    const t = step / 5;
    points.push([
      x - 0.42 + (-4.8 - x + 0.42) * t,
      y + radius - 0.14 + (0.96 - y - radius + 0.14) * t - 0.34 * t * (1 - t),
      z,
    ]);
  }
  points.push([-4.8, 0.96, z], [-5.08, 0.985, z], [-5.32, 0.92, z], [-6.4, 0.32, z], [-8.9, -0.75, z]);
  return curveOf(points);
}

function buildChain(shop: Workshop, wheelDeg: number): void {
  const travelled = (wheelDeg * Math.PI * FERRY.wheelRadiusM) / 180;
  shop.chain(chainPath(), LINK_M, travelled / LINK_M);
  for (const side of [-1, 1]) {
    shop.bar('iron', [side * 5.08, 0.88, 0.28], [side * 5.08, 0.88, 0.72], 0.065, 0.065, 20);
    for (const z of [0.26, 0.74]) shop.box('iron', [side * 5.08, 0.86, z], [0.2, 0.22, 0.035]);
  }
}
