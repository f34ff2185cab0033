import { PlaneGeometry } from 'three';
import { placed } from '../mesh.ts';
import { fbm, hash01, noise, smooth } from '../noise.ts';
import type { SurfaceName } from '../surfaces.ts';
import { raiseBackdrop } from './lantern.ts';
import { plantReeds, raiseThicket } from './marsh.ts';
import { curveOf, type Workshop } from './parts.ts';

/** A sheet of 1.4 × 1.1 m in x and y that faces +z, with relief. */
function sheet(
  shop: Workshop,
  surface: SurfaceName,
  height: (x: number, y: number) => number,
  cells = 420,
): void {
  const plane = new PlaneGeometry(1.7, 1.3, cells, Math.round((cells * 1.3) / 1.7));
  const at = plane.getAttribute('position');
  for (let index = 0; index < at.count; index += 1) at.setZ(index, height(at.getX(index), at.getY(index)));
  plane.computeVertexNormals();
  shop.add(plane, surface);
}

/** Wet planks with their nails, a yard of deck. */
function planks(shop: Workshop): void {
  for (let row = 0; row < 9; row += 1) {
    const y = (row - 4) * 0.152;
    shop.box(
      'wetPlank',
      [0.05 * (hash01(row, 2) - 0.5), y, -0.02 + 0.003 * hash01(row, 1)],
      [1.9, 0.147, 0.05],
      [0, 0, 0],
      0.007,
    );
    for (const x of [-0.46, 0.42])
      for (const side of [-0.04, 0.04]) shop.ball('iron', [x + side * 0.3, y + side, 0.006], 0.0075, 6);
  }
}

/** Two plates, lapped and riveted. */
function plates(shop: Workshop): void {
  sheet(shop, 'iron', (x, y) => 0.006 * (fbm(x * 2, y * 2, 1, 3) - 0.5) + (y > 0.02 ? 0.014 : 0), 300);
  for (let index = -7; index <= 7; index += 1) {
    shop.within(placed(index * 0.112, 0.07, 0.012, { turnDeg: [90, 0, 0] })).turned(
      'iron',
      [0, 0, 0],
      [
        [0.021, 0],
        [0.019, 0.008],
        [0.012, 0.014],
        [0.001, 0.016],
      ],
      24,
    );
  }
}

/** A flat coil of heavy rope. */
function coil(shop: Workshop): void {
  const points = Array.from({ length: 150 }, (_, step) => {
    const angle = (step / 24) * 2 * Math.PI;
    const radius = 0.09 + (step / 24) * 0.083;
    return [Math.cos(angle) * radius, Math.sin(angle) * radius, 0.03 + 0.004 * Math.sin(step * 1.7)] as const;
  });
  shop.rope(curveOf(points), 0.038, 2);
  for (let row = 0; row < 9; row += 1)
    shop.box('plank', [0, (row - 4) * 0.152, -0.04], [1.9, 0.147, 0.05], [0, 0, 0], 0.006);
}

/** Oilskin as it hangs: folds that gather at a hook. */
function cloth(shop: Workshop): void {
  sheet(shop, 'oilskin', (x, y) => {
    const around = Math.atan2(x + 0.1, 0.95 - y);
    const gather = smooth(-0.7, 0.6, y);
    const fold = Math.sin(around * (17 + 3 * noise(x * 2, y, 4)) + 2.2 * fbm(x * 1.3, y * 0.8, 3, 3));
    const small = fbm(x * 3 + fold * 0.2, y * 2.2, 7, 4) - 0.5;
    return (0.055 - 0.02 * gather) * (Math.abs(fold) ** 0.8 * Math.sign(fold)) + 0.07 * small;
  });
}

function ooze(shop: Workshop): void {
  sheet(shop, 'mud', (x, y) => {
    const creek = Math.abs(fbm(x * 1.6, y * 1.6, 5, 4) - 0.5);
    return (
      0.11 * (fbm(x * 2.3, y * 2.3, 2, 5) - 0.5) -
      0.06 * smooth(0.07, 0, creek) +
      0.012 * noise(x * 17, y * 17, 1)
    );
  });
}

function brickwork(shop: Workshop): void {
  sheet(shop, 'brick', (x, y) => 0.008 * (fbm(x * 6, y * 6, 2, 4) - 0.5), 200);
}

/** Corrugated iron, one sheet over another. */
function corrugated(shop: Workshop): void {
  const wave = (x: number) => 0.013 * Math.sin((x / 0.076) * 2 * Math.PI);
  sheet(shop, 'roof', (x, y) => wave(x) + (y < -0.08 ? 0.006 : 0) + 0.004 * noise(x * 2, y * 2, 5), 700);
  for (let row = 0; row < 2; row += 1)
    for (let index = -5; index <= 5; index += 1)
      shop.ball('iron', [index * 0.152 + 0.019, row === 0 ? -0.14 : 0.36, 0.019], 0.011, 8);
}

const SHEETS = { planks, plates, coil, cloth, ooze, brickwork, corrugated };
export type Study = keyof typeof SHEETS | 'reeds';

/** What one walks on lies; the rest hangs or stands. */
const LYING: ReadonlySet<Study> = new Set(['planks', 'coil', 'ooze']);

/** A piece of a surface at the origin, lying or facing +z; reeds stand on the ground instead. */
export function buildStudy(shop: Workshop, study: Study): void {
  if (study === 'reeds') {
    plantReeds(shop, (x, z) => (z < 0.4 && z > -4.5 && Math.abs(x) < 4 ? 1 : 0), 5, 0.13);
    raiseThicket(shop, 7, 2.9, () => 1);
    return;
  }
  raiseBackdrop(shop, 4, 8);
  const isLying = LYING.has(study);
  SHEETS[study](isLying ? shop.within(placed(0, 0, 0, { turnDeg: [-90, 0, 0] })) : shop);
}
