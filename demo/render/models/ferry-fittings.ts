import { TorusGeometry } from 'three';
import type { Point } from '../camera.ts';
import { placed } from '../mesh.ts';
import { hash01 } from '../noise.ts';
import { FERRY } from './ferry-sizes.ts';
import { curveOf, hanging, type Workshop } from './parts.ts';

/** What stands on the ferry's deck and hangs at its sides. */
export function buildRails(shop: Workshop): void {
  const span = 1.18;
  for (const z of [-1.72, 1.72]) {
    for (let index = -4; index <= 4; index += 1) {
      const x = index * span;
      shop.bar('iron', [x, FERRY.deckM - 0.02, z], [x, 1.77, z], 0.034, 0.03);
      shop.ball('iron', [x, 1.79, z], 0.052, 10);
      shop.bar('iron', [x, FERRY.deckM, z], [x, FERRY.deckM + 0.03, z], 0.075, 0.07, 18);
      for (const y of [1.68, 1.3]) shop.ring('rope', [x, y, z], 0.046, 0.018, [90, 0, 0], 20);
      if (index === 4) continue;
      for (const [y, sag] of [
        [1.68, 0.14],
        [1.3, 0.1],
      ] as const) {
        const loose = sag * (0.7 + 0.7 * hash01(index + 9, Math.round(y * 10) + (z > 0 ? 1 : 0)));
        shop.rope(hanging([x, y, z], [x + span, y, z], loose), 0.021);
      }
    }
  }
}

export function buildMast(shop: Workshop): void {
  const [x, z] = [2.55, -0.9];
  const top = FERRY.mastTopM;
  shop.bar('plank', [x, FERRY.deckM, z], [x, top, z], 0.07, 0.05, 20);
  shop.bar('iron', [x, FERRY.deckM, z], [x, FERRY.deckM + 0.28, z], 0.09, 0.085, 20);
  shop.turned(
    'iron',
    [x, top, z],
    [
      [0.001, 0],
      [0.13, 0],
      [0.13, 0.03],
      [0.05, 0.04],
    ],
  );
  shop.turned(
    'lampGlass',
    [x, top + 0.04, z],
    [
      [0.05, 0],
      [0.085, 0.03],
      [0.095, 0.1],
      [0.085, 0.17],
      [0.05, 0.2],
    ],
  );
  for (let bar = 0; bar < 5; bar += 1) {
    const angle = (bar / 5) * 2 * Math.PI;
    const at = (r: number, y: number): Point => [x + Math.cos(angle) * r, top + y, z + Math.sin(angle) * r];
    shop.bar('iron', at(0.11, 0.02), at(0.11, 0.25), 0.008, 0.008, 6);
  }
  shop.turned(
    'iron',
    [x, top + 0.24, z],
    [
      [0.14, 0],
      [0.14, 0.015],
      [0.05, 0.1],
      [0.02, 0.12],
      [0.02, 0.16],
      [0.001, 0.17],
    ],
  );
  for (const [to, sag] of [
    [[4.72, FERRY.deckM + 0.95, -1.72], 0.05],
    [[2.36, FERRY.deckM + 0.95, 1.72], 0.07],
    [[1.7, FERRY.ridgeM, -0.55], 0.03],
  ] as const) {
    shop.tube('rope', hanging([x, top - 0.12, z], to, sag), 0.011, 24, 6);
  }
}

export function buildCargo(shop: Workshop): void {
  const crate = (at: Point, size: Point, deg: number) => {
    const own = shop.within(placed(at[0], FERRY.deckM + at[1], at[2], { turnDeg: [0, deg, 0] }));
    const [w, h, d] = size;
    own.box('dark', [0, h / 2, 0], [w - 0.05, h - 0.03, d - 0.05]);
    const rows = Math.round(h / 0.13);
    for (let row = 0; row < rows; row += 1) {
      const y = ((row + 0.5) * h) / rows;
      for (const z of [-d / 2, d / 2])
        own.box('plank', [0, y, z], [w, h / rows - 0.012, 0.02], [0, 0, 0], 0.004);
      for (const x of [-w / 2, w / 2])
        own.box('plank', [x, y, 0], [d, h / rows - 0.012, 0.02], [0, 90, 0], 0.004);
    }
    for (let slat = 0; slat < 4; slat += 1) {
      own.box(
        'plank',
        [0, h, ((slat + 0.5) / 4 - 0.5) * d],
        [w + 0.02, 0.02, d / 4 - 0.012],
        [0, 0, 0],
        0.004,
      );
    }
  };
  crate([-3.3, 0, -0.95], [0.74, 0.5, 0.6], 20);
  crate([-3.24, 0.51, -0.97], [0.5, 0.34, 0.42], -11);
  crate([-2.45, 0, -1.15], [0.5, 0.44, 0.5], 6);
  const barrel = (x: number, z: number) => {
    const y = FERRY.deckM;
    shop.turned(
      'plank',
      [x, y, z],
      [
        [0.2, 0],
        [0.23, 0.1],
        [0.262, 0.35],
        [0.23, 0.6],
        [0.2, 0.7],
        [0.18, 0.68],
        [0.001, 0.68],
      ],
    );
    for (const [h, r] of [
      [0.09, 0.236],
      [0.24, 0.259],
      [0.46, 0.259],
      [0.61, 0.236],
    ] as const) {
      shop.ring('iron', [x, y + h, z], r, 0.012, [90, 0, 0]);
    }
  };
  barrel(3.85, -1.2);
  barrel(3.4, -1.32);
  const coil: Point[] = [];
  for (let step = 0; step <= 70; step += 1) {
    const angle = (step / 14) * 2 * Math.PI;
    const layer = step / 70;
    const radius = 0.31 - 0.05 * (layer % 0.5);
    coil.push([
      3.7 + Math.cos(angle) * radius,
      FERRY.deckM + 0.03 + 0.2 * layer,
      0.95 + Math.sin(angle) * radius,
    ]);
  }
  shop.rope(curveOf(coil), 0.027);
  for (const x of [-4.35, 4.35]) {
    for (const z of [-1.35, 1.35]) {
      shop.turned(
        'iron',
        [x, FERRY.deckM, z],
        [
          [0.13, 0],
          [0.13, 0.03],
          [0.075, 0.06],
          [0.07, 0.24],
          [0.11, 0.28],
          [0.11, 0.32],
          [0.001, 0.35],
        ],
      );
    }
  }
  shop.turned(
    'redLead',
    [-2, FERRY.deckM, 1.25],
    [
      [0.001, 0.01],
      [0.1, 0],
      [0.14, 0.26],
      [0.148, 0.265],
      [0.13, 0.24],
      [0.1, 0.06],
    ],
  );
  shop.ring('iron', [-2, FERRY.deckM + 0.25, 1.25], 0.14, 0.006, [25, 0, 0]);
  shop.bar('plank', [1.95, FERRY.deckM, 0.5], [1.86, 3.02, 0.12], 0.02, 0.018);
  shop.bar('iron', [1.86, 3.02, 0.12], [1.85, 3.2, 0.09], 0.022, 0.004);
}

export function buildFenders(shop: Workshop): void {
  for (const z of [-1, 1]) {
    for (const x of [-3.6, -1.2, 1.2, 3.6]) {
      const tilt = 5 * (hash01(Math.round(x * 10), z) - 0.5);
      shop.add(
        new TorusGeometry(0.22, 0.085, 16, 40),
        'tyre',
        placed(x, 0.3, z * 1.99, { turnDeg: [tilt * z, 0, 0] }),
      );
      shop.tube(
        'rope',
        curveOf([
          [x, 0.5, z * 2.01],
          [x, 0.7, z * 1.95],
          [x, 0.8, z * 1.75],
        ]),
        0.014,
        12,
        6,
      );
    }
  }
}
