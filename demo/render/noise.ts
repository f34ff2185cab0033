/**
 * Gradient noise on a lattice of period 256, about -1..1.
 * Source: Perlin, "Improving Noise", SIGGRAPH 2002.
 */
const ORDER = new Uint8Array(512);
{
  let state = 0x2f6e2b1;
  const deck = Array.from({ length: 256 }, (_, index) => index);
  for (let index = 255; index > 0; index -= 1) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    const other = state % (index + 1);
    [deck[index], deck[other]] = [deck[other]!, deck[index]!];
  }
  for (let index = 0; index < 512; index += 1) ORDER[index] = deck[index & 255]!;
}

function slope(hash: number, x: number, y: number, z: number): number {
  const kind = hash & 15;
  const u = kind < 8 ? x : y;
  const v = kind < 4 ? y : kind === 12 || kind === 14 ? x : z;
  return ((kind & 1) === 0 ? u : -u) + ((kind & 2) === 0 ? v : -v);
}

export function noise(x: number, y: number, z: number): number {
  const floorX = Math.floor(x);
  const floorY = Math.floor(y);
  const floorZ = Math.floor(z);
  const dx = x - floorX;
  const dy = y - floorY;
  const dz = z - floorZ;
  const u = dx * dx * dx * (dx * (dx * 6 - 15) + 10);
  const v = dy * dy * dy * (dy * (dy * 6 - 15) + 10);
  const w = dz * dz * dz * (dz * (dz * 6 - 15) + 10);
  const cellY = floorY & 255;
  const cellZ = floorZ & 255;
  const a = ORDER[floorX & 255]! + cellY;
  const b = ORDER[(floorX + 1) & 255]! + cellY;
  const aa = ORDER[a & 255]! + cellZ;
  const ab = ORDER[(a + 1) & 255]! + cellZ;
  const ba = ORDER[b & 255]! + cellZ;
  const bb = ORDER[(b + 1) & 255]! + cellZ;
  const x00 = slope(ORDER[aa]!, dx, dy, dz);
  const x10 = slope(ORDER[ab]!, dx, dy - 1, dz);
  const x01 = slope(ORDER[(aa + 1) & 511]!, dx, dy, dz - 1);
  const x11 = slope(ORDER[(ab + 1) & 511]!, dx, dy - 1, dz - 1);
  const near = x00 + u * (slope(ORDER[ba]!, dx - 1, dy, dz) - x00);
  const nearUp = x10 + u * (slope(ORDER[bb]!, dx - 1, dy - 1, dz) - x10);
  const far = x01 + u * (slope(ORDER[(ba + 1) & 511]!, dx - 1, dy, dz - 1) - x01);
  const farUp = x11 + u * (slope(ORDER[(bb + 1) & 511]!, dx - 1, dy - 1, dz - 1) - x11);
  const low = near + v * (nearUp - near);
  return low + w * (far + v * (farUp - far) - low);
}

/** Fractal sum of noise, about 0..1 with its middle at 0.5. */
export function fbm(x: number, y: number, z: number, octaves = 4): number {
  let sum = 0;
  let amplitude = 0.5;
  let scale = 1;
  for (let octave = 0; octave < octaves; octave += 1) {
    sum += amplitude * noise(x * scale + octave * 17.3, y * scale - octave * 5.1, z * scale + octave * 9.7);
    amplitude *= 0.5;
    scale *= 2.03;
  }
  return 0.5 + 0.62 * sum;
}

/** A fixed number of 0..1 for an integer pair. */
export function hash01(a: number, b: number): number {
  let h = Math.imul(a | 0, 0x27d4eb2d) ^ Math.imul(b | 0, 0x165667b1);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 4294967296;
}

export const smooth = (from: number, to: number, x: number): number => {
  const t = Math.min(1, Math.max(0, (x - from) / (to - from)));
  return t * t * (3 - 2 * t);
};

export const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
