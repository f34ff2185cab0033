import { luminanceOfSrgb } from '../colour/index.ts';
import type { SmallPixels } from '../picture/index.ts';
import type { Region } from '../schema/index.ts';

/** The light on a round form, as far as its shading tells. */
export interface FormLight {
  /** Degrees as in `View`: 0 from behind the viewer, 90 from their right, 180 from behind the form. */
  readonly azimuthDeg: number;
  readonly elevationDeg: number;
  /** 0..1: how much of the shading such a light explains. */
  readonly fit: number;
}

/** Below this the shading is something else: a pattern, several lamps, no round form. */
export const LEAST_FIT = 0.55;
/** Of the radius: towards the rim normals turn too fast for pixels to follow. */
const RIM = 0.92;
const ROUNDS = 4;

/** Solves a symmetric 4 × 4 system by elimination with pivoting; undefined when it has no one solution. */
function solve4(matrix: number[][]): number[] | undefined {
  for (let column = 0; column < 4; column += 1) {
    let pivot = column;
    for (let row = column + 1; row < 4; row += 1)
      if (Math.abs(matrix[row]![column]!) > Math.abs(matrix[pivot]![column]!)) pivot = row;
    if (Math.abs(matrix[pivot]![column]!) < 1e-9) return undefined;
    [matrix[column], matrix[pivot]] = [matrix[pivot]!, matrix[column]!];
    for (let row = 0; row < 4; row += 1) {
      if (row === column) continue;
      const factor = matrix[row]![column]! / matrix[column]![column]!;
      for (let at = column; at < 5; at += 1) matrix[row]![at]! -= factor * matrix[column]![at]!;
    }
  }
  return matrix.map((row, index) => row[4]! / row[index]!);
}

interface Sample {
  readonly n: readonly [number, number, number];
  readonly light: number;
}

/** Normals of the ellipsoid that fills a region, turned to the viewer, and the luminance there. */
function samplesOf({ width, height, data }: SmallPixels, region: Region): Sample[] {
  const samples: Sample[] = [];
  const [cx, cy] = [(region.x + region.width / 2) * width, (region.y + region.height / 2) * height];
  const [rx, ry] = [(region.width / 2) * width, (region.height / 2) * height];
  for (let y = Math.max(0, Math.floor(cy - ry)); y < Math.min(height, cy + ry); y += 1)
    for (let x = Math.max(0, Math.floor(cx - rx)); x < Math.min(width, cx + rx); x += 1) {
      const across = (x + 0.5 - cx) / rx;
      const up = (cy - y - 0.5) / ry;
      const r2 = across * across + up * up;
      if (r2 > RIM * RIM) continue;
      const at = (y * width + x) * 4;
      const light = luminanceOfSrgb(data[at]!, data[at + 1]!, data[at + 2]!);
      samples.push({ n: [across, up, Math.sqrt(1 - r2)], light });
    }
  return samples;
}

/** Ambient and the vector of the light that explain samples best, by least squares. */
function fitLight(samples: readonly Sample[]): number[] | undefined {
  const matrix = Array.from({ length: 4 }, () => [0, 0, 0, 0, 0]);
  for (const { n, light } of samples) {
    const row = [1, ...n];
    for (let i = 0; i < 4; i += 1) {
      for (let j = 0; j < 4; j += 1) matrix[i]![j]! += row[i]! * row[j]!;
      matrix[i]![4]! += row[i]! * light;
    }
  }
  return solve4(matrix);
}

/**
 * Direction of the one light on a round, evenly coloured form that was marked: its shading is taken as that of a matt
 * ellipsoid, ambient light and one lamp (Lambert). Samples in the form's own shadow say nothing of the lamp's angle and
 * are left out, round after round.
 * Source: A. P. Pentland, "Finding the illuminant direction", 1982, for a known form.
 *
 * @param region - bounds of the round form in the picture
 * @returns undefined where shading does not explain it well enough: nothing is better than a guess
 */
export function lightFromForm(pixels: SmallPixels, region: Region): FormLight | undefined {
  const samples = samplesOf(pixels, region);
  if (samples.length < 60) return undefined;
  let lit = samples;
  let found: number[] | undefined;
  for (let round = 0; round < ROUNDS; round += 1) {
    found = fitLight(lit);
    if (!found) return undefined;
    const [, x, y, z] = found as [number, number, number, number];
    const facing = samples.filter(({ n }) => n[0] * x + n[1] * y + n[2] * z > 0);
    if (facing.length < 40) break;
    lit = facing;
  }
  const [ambient, x, y, z] = found as [number, number, number, number];
  const strength = Math.hypot(x, y, z);
  if (strength < 0.02) return undefined;
  const mean = samples.reduce((sum, { light }) => sum + light, 0) / samples.length;
  let left = 0;
  let whole = 0;
  for (const { n, light } of samples) {
    const model = ambient + Math.max(0, n[0] * x + n[1] * y + n[2] * z);
    left += (light - model) ** 2;
    whole += (light - mean) ** 2;
  }
  const fit = whole === 0 ? 0 : Math.max(0, 1 - left / whole);
  if (fit < LEAST_FIT) return undefined;
  const deg = (radians: number) => (radians * 180) / Math.PI;
  return { azimuthDeg: deg(Math.atan2(x, z)), elevationDeg: deg(Math.asin(y / strength)), fit };
}
