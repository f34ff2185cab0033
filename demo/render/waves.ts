import { noise } from './noise.ts';

/** Height of the waves, for an amplitude of 1 m of the largest. */
export function waveHeight(x: number, z: number): number {
  return (
    0.5 * Math.sin(x * 0.9 + z * 1.7 + noise(x * 0.2, 0, z * 0.2) * 3) +
    0.28 * Math.sin(x * 2.3 - z * 1.1 + 1) +
    0.85 * noise(x * 0.9, 0.5, z * 2.1) +
    0.34 * noise(x * 3.1, 3.5, z * 6.3) +
    0.13 * noise(x * 9.7, 7.5, z * 17)
  );
}
