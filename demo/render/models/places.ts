import { PlaneGeometry } from 'three';
import type { Point } from '../camera.ts';
import { placed } from '../mesh.ts';
import { fbm, hash01, noise, smooth } from '../noise.ts';
import { wallOfBoards } from './boarding.ts';
import { buildRoof } from './ferry.ts';
import { type Density, layGround, plantReeds, raiseHorizon, raiseThicket } from './marsh.ts';
import { curveOf, hanging, type Workshop } from './parts.ts';

/** Of the winch house at Low Sallow, metres: its gate towards +z and the water, its foot at y = 1.05. */
export const WINCH_HOUSE = { lengthM: 7.4, widthM: 5, eavesM: 3, ridgeM: 4.9, footM: 1.05 } as const;

const bank: Density = (_x, z) => smooth(2.6, -1.6, z);

/** Height of the marsh about the winch house: a mound of mud and turf that runs out into the water. */
function moundHeight(x: number, z: number): number {
  const rough = 0.2 * (fbm(x * 0.35, 0, z * 0.35, 4) - 0.5) + 0.05 * noise(x * 1.9, 0, z * 1.9);
  const ground = 1.1 * smooth(6.2, -1, z - 0.9 * Math.sin(x * 0.22) + 0.02 * x * x * 0.3);
  return ground - 0.45 + rough;
}

export function buildWinchHouse(shop: Workshop): void {
  layGround(shop, moundHeight, 34, 300, 'mud');
  const house = shop.within(placed(-0.4, WINCH_HOUSE.footM - 0.5, -4.2));
  buildWalls(house);
  buildLeanTo(shop.within(placed(4.9, WINCH_HOUSE.footM - 0.45, -4.6)));
  buildSlip(shop);
  plantReeds(
    shop,
    (x, z) => {
      const isYard = Math.abs(x + 0.2) < 7.4 && z > -9 && z < 7.5;
      const isSlip = Math.abs(x) < 2.6 && z > -2;
      if (isYard || isSlip) return 0;
      const land = moundHeight(x, z);
      return land > -0.4 && land < 0.75 ? 0.9 * smooth(0.36, 0.5, fbm(x * 0.16, 8, z * 0.16, 3)) : 0;
    },
    25,
    0.29,
    0.1,
  );
  raiseThicket(shop, 26, 2.6, bank);
  raiseHorizon(shop, [
    [44, 3],
    [80, 3.6],
    [150, 5],
    [320, 9],
  ]);
}

function buildWalls(house: Workshop): void {
  const { lengthM: length, widthM: width, eavesM: eaves, ridgeM: ridge } = WINCH_HOUSE;
  const gate = { from: -1.35, to: 1.35, top: 2.5 };
  const front = width / 2;
  const pier = (x: number, y: number, w: number, h: number) =>
    house.box('brick', [x, y, front], [w, h, 0.36], [0, 0, 0], 0.006);
  pier((-length / 2 + gate.from) / 2, eaves / 2, gate.from + length / 2, eaves);
  // Right of the gate: a window in the wall.
  pier((gate.to + 1.95) / 2, eaves / 2, 1.95 - gate.to, eaves);
  pier((2.95 + length / 2) / 2, eaves / 2, length / 2 - 2.95, eaves);
  pier(2.45, 0.55, 1, 1.1);
  pier(2.45, (2.15 + eaves) / 2, 1, eaves - 2.15);
  pier(0, (gate.top + eaves) / 2, gate.to - gate.from, eaves - gate.top);
  house.box('plank', [0, gate.top, front + 0.02], [3.1, 0.22, 0.4], [0, 0, 0], 0.015);
  house.box('plaster', [2.45, 1.08, front + 0.05], [1.16, 0.09, 0.42], [0, 0, 0], 0.01);
  house.box('whitewash', [2.45, 1.62, front - 0.04], [1, 0.04, 0.06]);
  house.box('whitewash', [2.45, 1.62, front - 0.04], [0.04, 1.06, 0.06]);
  house.box('pane', [2.45, 1.62, front - 0.1], [1, 1.06, 0.02]);
  for (const x of [-length / 2, length / 2]) {
    house.box('brick', [x, eaves / 2, 0], [0.36, eaves, width + 0.36], [0, 0, 0], 0.006);
    const rows = Math.round((ridge - eaves) / 0.17);
    for (let row = 0; row < rows; row += 1) {
      const y = eaves + (row + 0.5) * 0.17;
      const span = width * (1 - (row + 0.6) / rows);
      if (span > 0.2) house.box('brick', [x, y, 0], [0.36, 0.172, span + 0.2], [0, 0, 0], 0.004);
    }
  }
  house.box('brick', [0, eaves / 2, -front], [length, eaves, 0.36], [0, 0, 0], 0.006);
  house.box('dark', [0, 1.4, -1], [length - 0.6, 2.8, width - 2.2]);
  buildRoof(house.within(placed(0, eaves - 0.02, 0)), length + 0.9, width / 2 + 0.42, ridge - eaves);
  // Chimney and its pot.
  house.box('brick', [2.5, 4.55, -0.7], [0.66, 1.9, 0.66], [0, 0, 0], 0.008);
  house.box('brick', [2.5, 5.42, -0.7], [0.8, 0.16, 0.8], [0, 0, 0], 0.008);
  house.bar('redLead', [2.5, 5.45, -0.7], [2.5, 5.95, -0.7], 0.15, 0.12, 24);
  buildGate(house, gate.to, gate.top, front);
  // A lamp on a bracket by the gate.
  house.bar('iron', [1.62, 2.62, front + 0.18], [1.62, 2.72, front + 0.62], 0.018, 0.018, 8);
  house.turned(
    'lampGlass',
    [1.62, 2.42, front + 0.6],
    [
      [0.05, 0],
      [0.08, 0.05],
      [0.08, 0.16],
      [0.05, 0.2],
    ],
    20,
  );
  house.turned(
    'iron',
    [1.62, 2.62, front + 0.6],
    [
      [0.11, 0],
      [0.1, 0.02],
      [0.03, 0.1],
      [0.001, 0.11],
    ],
    20,
  );
}

/** Two leaves, one standing open, the winch drum in the dark behind. */
function buildGate(house: Workshop, half: number, height: number, front: number): void {
  const leaf = (x: number, deg: number, side: number) => {
    const own = house.within(placed(x, 0.04, front, { turnDeg: [0, deg, 0] }));
    for (let board = 0; board < 7; board += 1) {
      const at = side * (board + 0.5) * (half / 7);
      own.box('plank', [at, height / 2, 0], [height - 0.08, half / 7 - 0.012, 0.045], [0, 0, 90], 0.005);
    }
    for (const y of [0.4, 1.25, height - 0.35]) {
      own.box('plank', [(side * half) / 2, y, 0.04], [half - 0.06, 0.14, 0.035], [0, 0, 0], 0.006);
      own.box('iron', [side * half * 0.32, y, 0.064], [half * 0.6, 0.06, 0.012]);
    }
  };
  leaf(-half, 0, 1);
  leaf(half, 68, -1);
  house.within(placed(0.45, 1.05, front - 0.9, { turnDeg: [0, 90, 0] })).turnedAboutZ('iron', [
    [0.12, -0.7],
    [0.5, -0.62],
    [0.5, -0.56],
    [0.3, -0.54],
    [0.3, 0.54],
    [0.5, 0.56],
    [0.5, 0.62],
    [0.12, 0.7],
  ]);
}

function buildLeanTo(shop: Workshop): void {
  wallOfBoards(shop.within(placed(0, 0, 1.25)), 2.4, 2, [
    { x: -0.5, y: 0.02, width: 0.86, height: 1.76, door: true },
  ]);
  wallOfBoards(shop.within(placed(1.2, 0, 0, { turnDeg: [0, 90, 0] })), 2.5, 2, [
    { x: -0.4, y: 0.9, width: 0.8, height: 0.66 },
  ]);
  shop.box('dark', [0, 0.98, 0], [2.2, 1.9, 2.3]);
  const sheet = new PlaneGeometry(2.9, 3, 200, 4);
  const at = sheet.getAttribute('position');
  for (let index = 0; index < at.count; index += 1)
    at.setZ(index, 0.014 * Math.sin((at.getX(index) / 0.08) * 2 * Math.PI));
  sheet.computeVertexNormals();
  shop.add(sheet, 'roof', placed(0.05, 2.28, 0.1, { turnDeg: [-73, 0, 0] }));
}

/** The slip where the ferry lands, with its chain, posts and a boat hook left lying. */
function buildSlip(shop: Workshop): void {
  for (let row = 0; row < 34; row += 1) {
    const z = -0.9 + row * 0.27;
    const y = 0.92 - Math.max(0, row - 5) * 0.052;
    shop.box(
      'plank',
      [0.02 * (hash01(row, 1) - 0.5), y + 0.012 * (hash01(row, 2) - 0.5), z],
      [3.5, 0.09, 0.252],
      [row > 5 ? 11 : 0, (hash01(row, 3) - 0.5) * 1.6, 0],
      0.012,
    );
  }
  for (const x of [-1.95, 1.95]) {
    for (let post = 0; post < 5; post += 1) {
      const z = -0.6 + post * 2.1;
      const top = 1.75 - post * 0.27 + 0.12 * hash01(post, x > 0 ? 4 : 5);
      shop.bar('plank', [x, -0.8, z], [x + 0.03 * hash01(post, 8), top, z], 0.11, 0.095, 16);
      shop.ring('rope', [x, top - 0.16, z], 0.105, 0.02, [90, 0, 0], 22);
      if (post === 4) continue;
      const next = 1.75 - (post + 1) * 0.27;
      shop.rope(hanging([x, top - 0.16, z], [x, next - 0.1, z + 2.1], 0.2), 0.024);
    }
  }
  const run: Point[] = [
    [0.1, 1.35, -2.2],
    [0.1, 1.16, -0.9],
    [0.14, 0.995, 0.1],
    [0.06, 0.86, 2],
    [0.1, 0.42, 4.2],
    [0.08, 0.05, 6],
    [0.1, -0.5, 8.4],
  ];
  shop.chain(curveOf(run), 0.12);
  shop.bar('plank', [-1.2, 1, -0.6], [-0.4, 0.86, 2.4], 0.022, 0.018, 10);
  barrelAt(shop, 2.9, 0.62, -0.7);
  barrelAt(shop, 3.5, 0.6, -0.45);
}

function barrelAt(shop: Workshop, x: number, y: number, z: number): void {
  shop.turned(
    'plank',
    [x, y, z],
    [
      [0.22, 0],
      [0.255, 0.12],
      [0.285, 0.4],
      [0.255, 0.68],
      [0.22, 0.8],
      [0.2, 0.78],
      [0.001, 0.78],
    ],
  );
  for (const [height, radius] of [
    [0.1, 0.26],
    [0.28, 0.284],
    [0.52, 0.284],
    [0.7, 0.26],
  ] as const)
    shop.ring('iron', [x, y + height, z], radius, 0.013, [90, 0, 0]);
}

/** How far to the side the channel runs, by z. */
const channelAt = (z: number): number => 3.4 * Math.sin(z * 0.085) + 1.1 * Math.sin(z * 0.21 + 1);

function channelHeight(x: number, z: number): number {
  const away = Math.abs(x - channelAt(z));
  const half = 2.9 + 0.9 * (fbm(z * 0.12, 3, 1, 3) - 0.5) * 2;
  return 0.62 * smooth(half - 0.5, half + 1.5, away) - 0.34 + 0.1 * (fbm(x * 0.8, 2, z * 0.8, 4) - 0.5);
}

/** A tidal channel that winds away along −z between reeds, a withy and a moored skiff in it. */
export function buildReedChannel(shop: Workshop): void {
  layGround(shop, channelHeight, 40, 340, 'mud');
  plantReeds(
    shop,
    (x, z) => {
      if (Math.hypot(x, z - 9) < 3.4) return 0;
      const away = Math.abs(x - channelAt(z));
      const height = channelHeight(x, z);
      return away < 13 && height > -0.12 ? 0.96 * smooth(0.25, 0.44, fbm(x * 0.2, 5, z * 0.2, 3)) : 0;
    },
    29,
    0.25,
    0.05,
  );
  raiseThicket(shop, 30, 3, (x, z) => (z < 0 && Math.abs(x - channelAt(-30)) < 3.2 ? 0 : 1));
  raiseHorizon(shop, [
    [48, 2.6],
    [90, 3.4],
    [180, 5],
    [380, 10],
  ]);
  for (let stake = 0; stake < 6; stake += 1) {
    const z = 4 - stake * 4.6;
    const x = channelAt(z) + (stake % 2 === 0 ? 1.9 : -1.7);
    const lean = 0.24 * (hash01(stake, 2) - 0.5);
    shop.bar('plank', [x, -0.8, z], [x + lean, 1.3 + 0.5 * hash01(stake, 4), z + lean], 0.05, 0.035, 10);
  }
  buildSkiff(shop.within(placed(channelAt(1) - 1.5, 0.02, 1, { turnDeg: [0, 68, 2] })));
}

/** An open boat of 3.2 m along x. */
function buildSkiff(shop: Workshop): void {
  const half = 1.6;
  const widthAt = (t: number) => 0.56 * Math.sqrt(Math.max(0, 1 - Math.abs(t) ** 2.6));
  for (let strake = 0; strake < 4; strake += 1) {
    for (const side of [-1, 1]) {
      for (let piece = 0; piece < 12; piece += 1) {
        const t0 = -0.98 + (piece / 12) * 1.96;
        const t1 = -0.98 + ((piece + 1) / 12) * 1.96;
        const flare = 0.62 + 0.13 * strake;
        const rise = (t: number) => -0.12 + 0.115 * strake + 0.16 * t * t;
        const a: Point = [t0 * half, rise(t0), side * widthAt(t0) * flare];
        const b: Point = [t1 * half, rise(t1), side * widthAt(t1) * flare];
        const deg = (Math.atan2(b[2] - a[2], b[0] - a[0]) * -180) / Math.PI;
        const tilt = (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI;
        const length = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
        const centre: Point = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];
        shop.box(
          strake === 3 ? 'whitewash' : 'hull',
          centre,
          [length + 0.02, 0.128, 0.02],
          [0, deg, tilt],
          0.004,
        );
      }
    }
  }
  shop.box('plank', [0, -0.1, 0], [2.5, 0.03, 0.62], [0, 0, 0], 0.004);
  for (const x of [-0.75, 0.15, 0.95]) shop.box('plank', [x, 0.16, 0], [0.24, 0.03, 0.86], [0, 0, 0], 0.006);
  shop.bar('plank', [-1.2, 0.22, 0.2], [1.3, 0.27, 0.34], 0.024, 0.02, 10);
}
