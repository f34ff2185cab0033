import { LINEAR_OF_LEVEL as LINEAR } from '../colour/index.ts';
import { solveLinear } from '../numeric/index.ts';
import { directionOf, type LightDirection, type LightVector, vectorOf } from './direction.ts';

/** Of what is seen, so much at least has to be explained by one light before a direction is claimed. */
export const LEAST_FIT = 0.55;

/** A form taken for a ball (an ellipsoid): where it is turned to, pixel by pixel, and how light it is there. */
export interface Turned {
  /** Three numbers a pixel: x right, y down, z to the viewer; of length 1. */
  readonly normals: Float64Array;
  /** Relative luminance 0..1. */
  readonly luminance: Float64Array;
  /** Index of each in the block of pixels. */
  readonly pixels: Uint32Array;
}

export interface LightEstimate extends LightDirection {
  /** Part of the variance that a matte ball under this light and an even surrounding light explain, 0..1. */
  readonly fit: number;
}

/** More pixels tell no more. */
const MOST_PIXELS = 2_500;
/** Nearer to its rim a form is not taken: there it mixes with its ground. */
const RIM = 0.94;

interface Ellipse {
  readonly x: number;
  readonly y: number;
  /** Half axes, pixels, and the direction of the first, radians. */
  readonly a: number;
  readonly b: number;
  readonly turn: number;
}

/** The ellipse with the same area and second moments as a mask. */
function ellipseOf(mask: Uint8Array, width: number): Ellipse | undefined {
  let [count, x, y] = [0, 0, 0];
  for (let pixel = 0; pixel < mask.length; pixel += 1) {
    if (mask[pixel] === 0) continue;
    count += 1;
    x += pixel % width;
    y += Math.floor(pixel / width);
  }
  if (count < 12) return undefined;
  const [cx, cy] = [x / count, y / count];
  let [xx, xy, yy] = [0, 0, 0];
  for (let pixel = 0; pixel < mask.length; pixel += 1) {
    if (mask[pixel] === 0) continue;
    const [dx, dy] = [(pixel % width) - cx, Math.floor(pixel / width) - cy];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  const turn = Math.atan2(2 * xy, xx - yy) / 2;
  const [mean, off] = [(xx + yy) / 2 / count, Math.hypot((xx - yy) / 2, xy) / count];
  // A filled ellipse has a quarter of its half axis squared as second moment.
  const [a, b] = [2 * Math.sqrt(mean + off), 2 * Math.sqrt(Math.max(1e-9, mean - off))];
  return { x: cx, y: cy, a, b, turn };
}

/**
 * Takes what lies within a mask for a ball, drawn out to an ellipsoid where it is longer than wide.
 *
 * @param data - RGBA, sRGB, 8 bits
 * @param mask - a byte a pixel: those of 0 are left out
 * @returns undefined where there is too little of it
 */
export function turnedAs(
  data: Uint8Array | Uint8ClampedArray,
  mask: Uint8Array,
  width: number,
): Turned | undefined {
  const ellipse = ellipseOf(mask, width);
  if (!ellipse || ellipse.b < 2) return undefined;
  const { a, b, turn } = ellipse;
  const [cosine, sine] = [Math.cos(turn), Math.sin(turn)];
  const depth = Math.sqrt(a * b);
  const every = Math.max(1, Math.floor(Math.sqrt((Math.PI * a * b) / MOST_PIXELS)));
  const [normals, luminance, pixels]: [number[], number[], number[]] = [[], [], []];
  for (let pixel = 0; pixel < mask.length; pixel += 1) {
    const [column, row] = [pixel % width, Math.floor(pixel / width)];
    if (mask[pixel] === 0 || column % every !== 0 || row % every !== 0) continue;
    if (data[pixel * 4 + 3]! < 128) continue;
    const [dx, dy] = [column - ellipse.x, row - ellipse.y];
    const [u, v] = [(dx * cosine + dy * sine) / a, (dy * cosine - dx * sine) / b];
    const out = u * u + v * v;
    if (out > RIM * RIM) continue;
    const [nu, nv, nz] = [u / a, v / b, Math.sqrt(1 - out) / depth];
    const length = Math.hypot(nu, nv, nz);
    normals.push((nu * cosine - nv * sine) / length, (nu * sine + nv * cosine) / length, nz / length);
    const at = pixel * 4;
    luminance.push(
      0.2126 * LINEAR[data[at]!]! + 0.7152 * LINEAR[data[at + 1]!]! + 0.0722 * LINEAR[data[at + 2]!]!,
    );
    pixels.push(pixel);
  }
  if (pixels.length < 12) return undefined;
  return {
    normals: Float64Array.from(normals),
    luminance: Float64Array.from(luminance),
    pixels: Uint32Array.from(pixels),
  };
}

/** Surrounding light that grows to one side is held to be this much less likely than a light that does it. */
const RIDGE = 0.02;
const UNKNOWNS = 5;

/** What every direction has in common: sums over every n-th pixel of products of 1, x, y, z and of these with luminance. */
interface Sums {
  readonly turned: Turned;
  readonly every: number;
  readonly matrix: Float64Array;
  readonly right: Float64Array;
  readonly count: number;
  readonly squares: number;
}
const KNOWN = UNKNOWNS - 1;

function sumsOf(turned: Turned, every: number): Sums {
  const { normals, luminance } = turned;
  const matrix = new Float64Array(KNOWN * KNOWN);
  const right = new Float64Array(KNOWN);
  let [count, squares] = [0, 0];
  for (let at = 0; at < luminance.length; at += every) {
    const row = [1, normals[at * 3]!, normals[at * 3 + 1]!, normals[at * 3 + 2]!];
    const value = luminance[at]!;
    for (let i = 0; i < KNOWN; i += 1) {
      right[i]! += row[i]! * value;
      for (let j = 0; j < KNOWN; j += 1) matrix[i * KNOWN + j]! += row[i]! * row[j]!;
    }
    count += 1;
    squares += value * value;
  }
  return { turned, every, matrix, right, count, squares };
}

/** How well one direction explains what is seen: luminance = even + slope · normal + strength · max(0, normal · light). */
function explained(
  { turned, every, matrix: known, right: seen, count, squares }: Sums,
  light: LightVector,
): number {
  const { normals, luminance } = turned;
  const total = squares - seen[0]! ** 2 / count;
  if (total / count < 1e-8) return 0;
  const lit = new Float64Array(UNKNOWNS);
  let litSeen = 0;
  for (let at = 0; at < luminance.length; at += every) {
    const [x, y, z] = [normals[at * 3]!, normals[at * 3 + 1]!, normals[at * 3 + 2]!];
    const one = x * light[0] + y * light[1] + z * light[2];
    if (one <= 0) continue;
    lit[0]! += one;
    lit[1]! += one * x;
    lit[2]! += one * y;
    lit[3]! += one * z;
    lit[4]! += one * one;
    litSeen += one * luminance[at]!;
  }
  const rows = Array.from({ length: UNKNOWNS }, (_, i) =>
    Array.from({ length: UNKNOWNS }, (_, j) =>
      i === KNOWN ? lit[j]! : j === KNOWN ? lit[i]! : known[i * KNOWN + j]!,
    ),
  );
  for (let axis = 1; axis <= 3; axis += 1) rows[axis]![axis]! += RIDGE * count;
  const right = [...seen, litSeen];
  const weights = solveLinear(
    rows.map((row) => [...row]),
    [...right],
  );
  // Where nothing is turned to it there is no answer; and a light takes nothing away.
  if (!weights || weights[KNOWN]! <= 0) return 0;
  // What is left over, with the ridge: squares − 2 w·r + w·M w.
  let left = squares;
  for (let i = 0; i < UNKNOWNS; i += 1) {
    left -= 2 * weights[i]! * right[i]!;
    for (let j = 0; j < UNKNOWNS; j += 1) left += weights[i]! * rows[i]![j]! * weights[j]!;
  }
  return Math.max(0, 1 - left / total);
}

/** Directions about another, so many degrees apart each way. */
function about({ azimuthDeg, elevationDeg }: LightDirection, step: number): LightDirection[] {
  const wide = step / Math.max(0.15, Math.cos((elevationDeg * Math.PI) / 180));
  return [-1, 0, 1].flatMap((up) =>
    [-1, 0, 1].map((aside) => ({
      azimuthDeg: azimuthDeg + aside * wide,
      elevationDeg: Math.max(-89, Math.min(90, elevationDeg + up * step)),
    })),
  );
}

const COARSE = 12;

/**
 * The one light that explains best how light a ball is.
 *
 * @returns undefined where no light explains as much as `LEAST_FIT` of it: then nothing is claimed
 */
export function estimateLight(turned: Turned): LightEstimate | undefined {
  const coarse = sumsOf(turned, Math.max(1, Math.floor(turned.luminance.length / 500)));
  const fine = sumsOf(turned, 1);
  let best: LightDirection = { azimuthDeg: 0, elevationDeg: 90 };
  let fit = -1;
  const look = (one: LightDirection, sums: Sums) => {
    const score = explained(sums, vectorOf(one));
    if (score > fit) {
      fit = score;
      best = one;
    }
  };
  for (let elevationDeg = -60; elevationDeg <= 90; elevationDeg += COARSE) {
    const around = Math.max(1, Math.round((360 * Math.cos((elevationDeg * Math.PI) / 180)) / COARSE));
    for (let step = 0; step < around; step += 1)
      look({ azimuthDeg: (360 * step) / around, elevationDeg }, coarse);
  }
  fit = -1;
  for (let step = COARSE / 2; step >= 0.5; step /= 2)
    for (let round = 0; round < 4; round += 1) {
      const before = best;
      for (const one of about(before, step)) look(one, fine);
      if (best === before) break;
    }
  return fit < LEAST_FIT ? undefined : { ...directionOf(vectorOf(best)), fit };
}
