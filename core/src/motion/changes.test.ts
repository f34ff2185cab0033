import { describe, expect, it } from 'vitest';
import { cutsIn, differencesOf, posesIn, SMALL, type SmallFrame } from './index.ts';

/** A light square on a ground, its left edge at a fraction of the width. */
function frame(ground: number, at: number, noise = 0, seed = 0): SmallFrame {
  const pixels = new Float32Array(3 * SMALL.width * SMALL.height);
  for (let y = 0; y < SMALL.height; y += 1)
    for (let x = 0; x < SMALL.width; x += 1) {
      const left = at * SMALL.width;
      // Covered by so much of it: it moves by less than a pixel, too.
      const covered = Math.max(0, Math.min(1, x + 1 - left) - Math.max(0, x + 1 - left - 6));
      const isIn = y > 5 && y < 13;
      const trembling = noise * Math.sin(x * 12.9 + y * 78.2 + seed * 37.7);
      const level = ground + (isIn ? covered * (0.9 - ground) : 0) + trembling;
      pixels.fill(level, 3 * (y * SMALL.width + x), 3 * (y * SMALL.width + x) + 3);
    }
  return pixels;
}

describe('where a picture changes', () => {
  it('finds cuts among movement and noise, and nothing else', () => {
    const frames = Array.from({ length: 60 }, (_, at) =>
      frame(at < 17 ? 0.2 : at < 41 ? 0.5 : 0.3, 0.1 + at * 0.01, 0.02, at),
    );
    expect(cutsIn(differencesOf(frames))).toEqual([17, 41]);
    expect(cutsIn(differencesOf(frames.slice(0, 17)))).toEqual([]);
  });

  it('finds a cut between scenes that are as light as each other', () => {
    const green = frame(0.4, 0.3).map((level, at) => (at % 3 === 1 ? level + 0.1 : level - 0.1));
    const frames = Array.from({ length: 30 }, (_, at) => (at < 11 ? frame(0.4, 0.3) : green));
    expect(cutsIn(differencesOf(frames))).toEqual([11]);
  });

  it('takes neither a fast movement nor a slow fade for a cut', () => {
    const swung = Array.from({ length: 50 }, (_, at) => frame(0.2, 0.3 + 0.25 * Math.sin(at / 2)));
    expect(cutsIn(differencesOf(swung))).toEqual([]);
    const faded = Array.from({ length: 50 }, (_, at) => frame(0.1 + at * 0.012, 0.3));
    expect(cutsIn(differencesOf(faded))).toEqual([]);
    expect(cutsIn(differencesOf([]))).toEqual([]);
    expect(cutsIn(differencesOf([frame(0.1, 0.2)]))).toEqual([]);
  });

  it('finds the poses between which something swings, each in its scene', () => {
    const swing = Array.from({ length: 64 }, (_, at) =>
      frame(0.2, 0.4 + 0.25 * Math.cos((at * Math.PI) / 16)),
    );
    const poses = posesIn(differencesOf(swing), []);
    // It turns at 16, 32 and 48.
    expect(poses).toHaveLength(3);
    for (const [index, pose] of poses.entries())
      expect(Math.abs(pose - 16 * (index + 1))).toBeLessThanOrEqual(1);
    const steady = Array.from({ length: 40 }, (_, at) => frame(0.2, 0.1 + at * 0.01));
    expect(posesIn(differencesOf(steady), [])).toEqual([]);
  });
});
