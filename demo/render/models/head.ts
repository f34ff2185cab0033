import type { BufferGeometry } from 'three';
import { type Distance, surfaceOf } from '../isosurface.ts';
import { mix, noise, smooth } from '../noise.ts';

/**
 * Of the sculpted head, metres: chin to crown; it looks along +z, the middle between chin and crown at the origin.
 * Inside this file one unit is that height.
 */
export const HEAD = { heightM: 0.236, widthM: 0.156, depthM: 0.198 } as const;

type P = readonly [x: number, y: number, z: number];

/** Smooth union and its counterpart. Source: Quilez, "Smooth minimum" (polynomial). */
const join = (a: number, b: number, k: number): number => {
  const h = Math.max(k - Math.abs(a - b), 0) / k;
  return Math.min(a, b) - h * h * k * 0.25;
};
const carve = (a: number, b: number, k: number): number => -join(-a, b, k);

/** About the distance to a block with rounded faces: `power` 2 is an ellipsoid, more has planes. */
function block(x: number, y: number, z: number, [cx, cy, cz]: P, [rx, ry, rz]: P, power = 2): number {
  const ux = Math.abs(x - cx) / rx;
  const uy = Math.abs(y - cy) / ry;
  const uz = Math.abs(z - cz) / rz;
  const isRound = power === 2;
  const k = isRound ? Math.hypot(ux, uy, uz) : (ux ** power + uy ** power + uz ** power) ** (1 / power);
  if (k < 1e-6) return -Math.min(rx, ry, rz);
  // First-order distance of the implicit form.
  if (isRound) return (k - 1) / Math.max(Math.hypot(ux / k / rx, uy / k / ry, uz / k / rz), 1e-6);
  const gx = (ux / k) ** (power - 1) / rx;
  const gy = (uy / k) ** (power - 1) / ry;
  const gz = (uz / k) ** (power - 1) / rz;
  return (k - 1) / Math.max(Math.hypot(gx, gy, gz), 1e-6);
}

/** Distance to a rod that goes from radius `ra` to `rb`. */
function rod(x: number, y: number, z: number, a: P, b: P, ra: number, rb: number): number {
  const bx = b[0] - a[0];
  const by = b[1] - a[1];
  const bz = b[2] - a[2];
  const t = Math.min(
    1,
    Math.max(0, ((x - a[0]) * bx + (y - a[1]) * by + (z - a[2]) * bz) / (bx * bx + by * by + bz * bz)),
  );
  return Math.hypot(x - a[0] - bx * t, y - a[1] - by * t, z - a[2] - bz * t) - (ra + (rb - ra) * t);
}

/** The skull with its flesh, without features; `x` is taken positive, since it is the same on both sides. */
function mass(x: number, y: number, z: number): number {
  let d = block(x, y, z, [0, 0.14, -0.075], [0.322, 0.352, 0.395], 2.25);
  d = join(d, block(x, y, z, [0, 0.16, 0.12], [0.252, 0.25, 0.232], 2.7), 0.09);
  d = join(d, block(x, y, z, [0, -0.14, 0.13], [0.218, 0.27, 0.216], 2.6), 0.1);
  // Jaw: from its angle under the ear to the chin.
  d = join(d, rod(x, y, z, [0.2, -0.2, 0.015], [0.055, -0.425, 0.255], 0.062, 0.05), 0.09);
  d = join(d, rod(x, y, z, [0.215, -0.05, -0.005], [0.203, -0.2, 0.015], 0.06, 0.06), 0.08);
  d = join(d, block(x, y, z, [0, -0.425, 0.275], [0.092, 0.07, 0.072], 2.6), 0.06);
  // Cheek bone and its arch towards the ear.
  d = join(d, rod(x, y, z, [0.165, -0.085, 0.258], [0.232, -0.06, 0.16], 0.045, 0.05), 0.07);
  d = join(d, rod(x, y, z, [0.232, -0.06, 0.16], [0.278, -0.02, -0.01], 0.042, 0.03), 0.05);
  // Temples are hollow.
  d = carve(d, block(x, y, z, [0.362, 0.08, 0.165], [0.08, 0.12, 0.13]), 0.1);
  d = carve(d, block(x, y, z, [0.26, -0.24, 0.235], [0.09, 0.13, 0.1]), 0.12);
  return d;
}

function brow(x: number, y: number, z: number, before: number): number {
  let d = join(before, rod(x, y, z, [0.045, 0.07, 0.326], [0.15, 0.092, 0.275], 0.036, 0.034), 0.055);
  d = join(d, rod(x, y, z, [0.15, 0.092, 0.275], [0.215, 0.045, 0.195], 0.034, 0.026), 0.05);
  return carve(d, block(x, y, z, [0.118, -0.004, 0.36], [0.078, 0.05, 0.105]), 0.055);
}

const EYE: P = [0.118, 0.0, 0.238];

/** Ball and lids; the slit between the lids is a lens seen from the front. */
function eye(x: number, y: number, z: number, before: number): number {
  const ball = Math.hypot(x - EYE[0], y - EYE[1], z - EYE[2]) - 0.0665;
  const across = (x - EYE[0]) / 0.062;
  const open = 0.0235 * Math.max(0, 1 - across * across) - 0.0008;
  const above = EYE[1] + 0.003 + open * 1.05 - 0.004 * across;
  const below = EYE[1] - 0.001 - open * 0.72 - 0.004 * across;
  const lidUp = Math.max(Math.hypot(x - EYE[0], y - EYE[1], z - EYE[2]) - 0.077, above - y);
  const lidLow = Math.max(Math.hypot(x - EYE[0], y - EYE[1], z - EYE[2]) - 0.0735, y - below);
  let d = join(before, lidUp, 0.014);
  d = join(d, lidLow, 0.018);
  // The fold over the upper lid.
  d = carve(d, rod(x, y, z, [0.062, 0.03, 0.31], [0.172, 0.032, 0.272], 0.006, 0.006), 0.018);
  const iris = Math.hypot(x - EYE[0] + 0.003, y - EYE[1] - 0.003, z - EYE[2] - 0.062) - 0.0165;
  return Math.min(d, carve(ball, iris, 0.008));
}

function nose(x: number, y: number, z: number, before: number): number {
  let d = join(before, rod(x, y, z, [0, 0.045, 0.318], [0, -0.03, 0.372], 0.027, 0.026), 0.045);
  d = join(d, rod(x, y, z, [0, -0.03, 0.372], [0, -0.142, 0.436], 0.026, 0.038), 0.03);
  d = join(d, rod(x, y, z, [0.03, -0.02, 0.32], [0.05, -0.15, 0.345], 0.03, 0.034), 0.045);
  d = join(d, block(x, y, z, [0.049, -0.163, 0.375], [0.03, 0.03, 0.042]), 0.016);
  d = join(d, rod(x, y, z, [0, -0.15, 0.435], [0, -0.185, 0.375], 0.024, 0.018), 0.02);
  d = carve(d, block(x, y, z, [0.027, -0.193, 0.392], [0.013, 0.017, 0.024]), 0.012);
  return carve(d, rod(x, y, z, [0.088, -0.15, 0.365], [0.128, -0.27, 0.318], 0.004, 0.008), 0.05);
}

function mouth(x: number, y: number, z: number, before: number): number {
  let d = join(before, block(x, y, z, [0, -0.285, 0.262], [0.128, 0.098, 0.088]), 0.07);
  const bend = x * x * 2.6;
  const lift = 0.014 * smooth(0.05, 0, x) - 0.006 * smooth(0.018, 0, x);
  const line = -0.294 + 0.1 * bend + 0.004 * smooth(0.04, 0, x);
  const z0 = z + bend * 0.95;
  d = join(d, block(x, y - lift * 0.6, z0, [0, line + 0.021, 0.342], [0.098, 0.023, 0.03]), 0.02);
  d = join(d, block(x, y, z0, [0, line - 0.026, 0.338], [0.083, 0.027, 0.033]), 0.022);
  d = carve(d, Math.max(Math.hypot(y - line, z0 - 0.372) - 0.0055, x - 0.106), 0.016);
  d = carve(d, block(x, y, z, [0.112, -0.294, 0.318], [0.014, 0.014, 0.02]), 0.03);
  d = carve(d, rod(x, y, z, [0, -0.205, 0.378], [0, -0.255, 0.366], 0.008, 0.009), 0.02);
  return carve(d, block(x, y, z, [0, -0.362, 0.36], [0.07, 0.02, 0.035]), 0.05);
}

function ear(x: number, y: number, z: number, before: number): number {
  // In its own frame: leaning back, its rim away from the skull.
  const lean = 0.2;
  const ey = (y + 0.025) * Math.cos(lean) - (z + 0.075) * Math.sin(lean);
  const ez = (y + 0.025) * Math.sin(lean) + (z + 0.075) * Math.cos(lean);
  const ex = x - 0.314 + 0.5 * (ez - 0.02);
  const taper = Math.max(0.4, 1 - 2.4 * Math.max(0, -ey));
  let d = block(ex, ey, ez, [0, 0, 0], [0.02, 0.118, 0.066 * taper], 2.2);
  d = carve(d, block(ex, ey, ez, [0.026, -0.006, 0.016], [0.024, 0.05, 0.03]), 0.014);
  d = carve(d, block(ex, ey, ez, [0.03, 0.055, -0.004], [0.019, 0.038, 0.04]), 0.014);
  d = join(d, rod(ex, ey, ez, [0.01, 0.012, -0.03], [0.012, 0.06, -0.012], 0.008, 0.008), 0.016);
  d = join(d, rod(ex, ey, ez, [0.006, -0.01, 0.05], [0.006, -0.035, 0.044], 0.012, 0.012), 0.016);
  return join(before, d, 0.022);
}

function neck(x: number, y: number, z: number, before: number): number {
  let d = join(before, rod(x, y, z, [0, -0.25, -0.09], [0, -0.8, -0.13], 0.185, 0.205), 0.1);
  d = join(d, rod(x, y, z, [0.225, -0.17, -0.12], [0.045, -0.8, 0.075], 0.05, 0.042), 0.06);
  d = join(d, rod(x, y, z, [0.1, -0.28, -0.24], [0.36, -0.83, -0.2], 0.09, 0.13), 0.12);
  d = join(d, rod(x, y, z, [0, -0.545, 0.105], [0, -0.6, 0.1], 0.028, 0.02), 0.05);
  d = join(d, rod(x, y, z, [0.035, -0.8, 0.07], [0.38, -0.77, -0.03], 0.028, 0.03), 0.07);
  d = join(d, block(x, y, z, [0, -0.93, -0.07], [0.45, 0.14, 0.21], 2.4), 0.14);
  return Math.max(d, -0.9 - y);
}

/** Hair combed back from the brow, in locks as a modeller's thumb lays them. */
function hair(x: number, y: number, z: number, side: number, before: number): number {
  const skull = block(x, y, z, [0, 0.145, -0.085], [0.338, 0.373, 0.415], 2.2);
  if (skull > 0.08) return before;
  // From the brow down before the ear, behind it to the nape.
  let from = mix(-0.05, 0.265, smooth(0.06, 0.19, z)) + 0.012 * noise(side * 9, z * 8, 3);
  from = mix(from, -0.12, smooth(-0.1, -0.2, z));
  from = mix(from, -0.2, smooth(-0.22, -0.42, z));
  const around = Math.atan2(side, 0.3 + 0.6 * y);
  const flow =
    around * 9 + 5 * z * z + 0.8 * noise(side * 4, y * 3, z * 3) + 0.35 * noise(side * 11, y * 7, z * 7);
  const lock = Math.abs((((flow % 1) + 1) % 1) - 0.5) * 2;
  const fine = noise(flow * 7, z * 5, y * 5);
  const body = skull - 0.008 - 0.012 * lock * lock - 0.003 * fine;
  const aroundEar = Math.hypot((y + 0.03) / 1.45, z + 0.07) - 0.072;
  const cut = Math.max(body, (from - y) * 0.5, x > 0.2 ? -aroundEar : -1);
  return join(before, cut, 0.016);
}

/** The whole form; units of the head's height. */
export const headDistance: Distance = (sx, y, z) => {
  const x = Math.abs(sx);
  let d = mass(x, y, z);
  // A feature is asked only where it can reach.
  if (z > 0 && y > -0.2 && y < 0.25) d = brow(x, y, z, d);
  if (z > 0.05 && Math.abs(y) < 0.2 && x < 0.32) d = eye(x, y, z, d);
  if (z > 0.1 && y > -0.42 && y < 0.2 && x < 0.3) d = nose(x, y, z, d);
  if (z > 0 && y > -0.56 && y < -0.06 && x < 0.36) d = mouth(x, y, z, d);
  if (x > 0.16 && Math.abs(y + 0.03) < 0.28 && Math.abs(z + 0.07) < 0.24) d = ear(x, y, z, d);
  if (y < 0.1) d = neck(x, y, z, d);
  return y > -0.36 ? hair(x, y, z, sx, d) : d;
};

/** The head as triangles, metres, `cellM` wide. */
export function headGeometry(cellM: number): BufferGeometry {
  const cell = cellM / HEAD.heightM;
  const geometry = surfaceOf(
    headDistance,
    { least: [-0.54, -0.98, -0.6], greatest: [0.54, 0.6, 0.56] },
    cell,
  );
  return geometry.scale(HEAD.heightM, HEAD.heightM, HEAD.heightM);
}
