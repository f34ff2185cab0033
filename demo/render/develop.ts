/** What was gathered for a picture, row-major: light and colours r g b, normals x y z, distances. */
export interface Exposure {
  readonly width: number;
  readonly height: number;
  readonly matt: Float32Array;
  readonly rest: Float32Array;
  readonly colour: Float32Array;
  readonly normal: Float32Array;
  readonly depth: Float32Array;
}

/** Weights of the B3 spline, one side of it. */
const SPLINE = [3 / 8, 1 / 4, 1 / 16];

/**
 * Smooths the light of matt surfaces along surfaces, not across edges.
 * Source: Dammertz et al., "Edge-avoiding à-trous wavelet transform for fast global illumination filtering", 2010.
 */
export function smoothLight(exposure: Exposure, rounds: number): Float32Array {
  const { matt, colour } = exposure;
  let light: Float32Array<ArrayBuffer> = new Float32Array(matt.length);
  for (let index = 0; index < matt.length; index += 1)
    light[index] = matt[index]! / Math.max(colour[index]!, 0.01);
  for (let round = 0; round < rounds; round += 1)
    light = smoothOnce(exposure, light, levelsOf(exposure, light), 1 << round);
  for (let index = 0; index < matt.length; index += 1)
    light[index] = light[index]! * Math.max(colour[index]!, 0.01);
  return light;
}

/**
 * Level of the light about each pixel on its own surface: what tells a shadow's edge from the noise of a few rays.
 */
function levelsOf({ width, height, normal, depth }: Exposure, light: Float32Array): Float32Array {
  const levels = new Float32Array(width * height);
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const at = y * width + x;
      let sum = 0;
      let count = 0;
      for (let j = Math.max(0, y - 2); j <= Math.min(height - 1, y + 2); j += 1) {
        for (let i = Math.max(0, x - 2); i <= Math.min(width - 1, x + 2); i += 1) {
          const other = j * width + i;
          const cos =
            normal[at * 3]! * normal[other * 3]! +
            normal[at * 3 + 1]! * normal[other * 3 + 1]! +
            normal[at * 3 + 2]! * normal[other * 3 + 2]!;
          if (cos < 0.6 || Math.abs(depth[other]! - depth[at]!) > depth[at]! * 0.02) continue;
          sum += light[other * 3]! + light[other * 3 + 1]! + light[other * 3 + 2]!;
          count += 1;
        }
      }
      levels[at] =
        count > 0 ? sum / count / 3 : (light[at * 3]! + light[at * 3 + 1]! + light[at * 3 + 2]!) / 3;
    }
  }
  return levels;
}

function smoothOnce(
  { width, height, normal, depth }: Exposure,
  light: Float32Array,
  levels: Float32Array,
  step: number,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(light.length);
  const tolerance = 1.4 / step;
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const at = y * width + x;
      const nx = normal[at * 3]!;
      const ny = normal[at * 3 + 1]!;
      const nz = normal[at * 3 + 2]!;
      const length = nx * nx + ny * ny + nz * nz;
      const r = light[at * 3]!;
      const g = light[at * 3 + 1]!;
      const b = light[at * 3 + 2]!;
      if (length < 0.05) {
        out[at * 3] = r;
        out[at * 3 + 1] = g;
        out[at * 3 + 2] = b;
        continue;
      }
      const level = levels[at]! + 0.015;
      const here = depth[at]!;
      let sum = 0;
      let sumR = 0;
      let sumG = 0;
      let sumB = 0;
      for (let j = -2; j <= 2; j += 1) {
        const row = y + j * step;
        if (row < 0 || row >= height) continue;
        for (let i = -2; i <= 2; i += 1) {
          const column = x + i * step;
          if (column < 0 || column >= width) continue;
          const other = row * width + column;
          const cos = nx * normal[other * 3]! + ny * normal[other * 3 + 1]! + nz * normal[other * 3 + 2]!;
          if (cos < 0.6 * length) continue;
          const gap = Math.abs(depth[other]! - here) / (here * 0.012 * step + 1e-4);
          if (gap > 4) continue;
          const lr = light[other * 3]!;
          const lg = light[other * 3 + 1]!;
          const lb = light[other * 3 + 2]!;
          const apart = Math.abs(levels[other]! + 0.015 - level) / (level * tolerance);
          const facing2 = Math.min(1, cos / length) ** 2;
          const facing8 = facing2 * facing2 * facing2 * facing2;
          const weight =
            SPLINE[Math.abs(i)]! *
            SPLINE[Math.abs(j)]! *
            facing8 *
            facing8 *
            facing8 *
            Math.exp(-gap - apart * apart);
          sum += weight;
          sumR += lr * weight;
          sumG += lg * weight;
          sumB += lb * weight;
        }
      }
      out[at * 3] = sumR / sum;
      out[at * 3 + 1] = sumG / sum;
      out[at * 3 + 2] = sumB / sum;
    }
  }
  return out;
}

/**
 * Filmic curve of linear light, 0..1.
 * Source: Narkowicz, "ACES filmic tone mapping curve", 2015.
 */
export const film = (light: number): number =>
  Math.min(1, Math.max(0, (light * (2.51 * light + 0.03)) / (light * (2.43 * light + 0.59) + 0.14)));

/** sRGB's curve (IEC 61966-2-1), 0..1 to 0..1. */
export const encodeSrgb = (linear: number): number =>
  linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055;

/** Developed picture, RGB, `levels` greatest value (255 or 65,535), dithered by less than a step of 8 bits. */
export function develop(exposure: Exposure, rounds: number, gain: number, levels = 255): Uint16Array {
  const light = rounds > 0 ? smoothLight(exposure, rounds) : exposure.matt;
  const out = new Uint16Array(light.length);
  let state = 12345;
  for (let index = 0; index < light.length; index += 1) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    const dither = (state / 4294967296 - 0.5) / 255;
    const shown = encodeSrgb(film((light[index]! + exposure.rest[index]!) * gain * 0.8)) + dither;
    out[index] = Math.round(Math.min(1, Math.max(0, shown)) * levels);
  }
  return out;
}
