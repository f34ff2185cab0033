import { pack, packWithoutHoles, settle } from '@miradero/core/board';
import { createPlacement, type Item } from '@miradero/core/items';
import potpack from 'potpack';
import { median } from './median.ts';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Numbers 0..1 from a seed. Source: mulberry32, public domain. */
function numbersFrom(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

const normal = (next: () => number): number =>
  Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
const GAP = 12;
const sizeOf = (aspect: number, side: number): Size => ({
  width: side * Math.sqrt(aspect) + GAP,
  height: side / Math.sqrt(aspect) + GAP,
});
const oneOf = <T>(all: readonly T[], next: () => number): T => all[Math.floor(next() * all.length)]!;

/** Kinds of boards, by what stands on them; gaps are part of the sizes. */
const SETS: Readonly<Record<string, (next: () => number) => Size>> = {
  camera: (next) =>
    sizeOf(oneOf([3 / 2, 2 / 3, 4 / 3, 3 / 4, 1, 16 / 9], next), 200 * Math.exp(0.35 * normal(next))),
  mixed: (next) => sizeOf(Math.exp(1.6 * (next() - 0.5)), 200 * Math.exp(0.5 * normal(next))),
  alike: (next) => sizeOf(oneOf([3 / 2, 2 / 3, 4 / 3, 3 / 4], next), 200),
  web: (next) => sizeOf(Math.exp(0.45 * normal(next)), 200 * Math.exp(0.2 * normal(next))),
};
const SEEDS = [1, 2, 3];

const areaOf = (sizes: readonly Size[]): number =>
  sizes.reduce((sum, { width, height }) => sum + width * height, 0);
const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

function timed<T>(run: () => T): { result: T; tookMs: number } {
  const started = performance.now();
  const result = run();
  return { result, tookMs: performance.now() - started };
}

export interface SettledSet {
  readonly set: string;
  readonly density: number;
  readonly peerDensity: number;
  readonly tookMs: number;
  readonly freeDensity: number;
  readonly freeMs: number;
  /** The greatest factor by which a size was altered where they were free. */
  readonly mostScale: number;
}

/** Settles `count` sizes of each kind of set. Times are the median of the seeds, after one run that warms up. */
export function settleSets(count: number): SettledSet[] {
  return Object.entries(SETS).map(([set, make]) => {
    const runs = [0, ...SEEDS].map((seed) => {
      const next = numbersFrom(seed);
      const sizes = Array.from({ length: count }, () => make(next));
      const tight = timed(() => pack(sizes, { aspect: 1.6 }));
      const free = timed(() => packWithoutHoles(sizes, 1.6));
      const peer = potpack(sizes.map(({ width, height }) => ({ w: width, h: height })));
      const filled = free.result.at.map(({ scale }, index) => areaOf([sizes[index]!]) * scale ** 2);
      return {
        density: areaOf(sizes) / areaOf([tight.result]),
        peerDensity: areaOf(sizes) / (peer.w * peer.h),
        tookMs: tight.tookMs,
        freeDensity: filled.reduce((sum, area) => sum + area, 0) / areaOf([free.result]),
        freeMs: free.tookMs,
        mostScale: Math.max(...free.result.at.map(({ scale }) => Math.max(scale, 1 / scale))),
      };
    });
    const counted = runs.slice(1);
    const of = (name: keyof (typeof counted)[number]) => counted.map((run) => run[name]);
    return {
      set,
      density: mean(of('density')),
      peerDensity: mean(of('peerDensity')),
      tookMs: median(of('tookMs')),
      freeDensity: mean(of('freeDensity')),
      freeMs: median(of('freeMs')),
      mostScale: Math.max(...of('mostScale')),
    };
  });
}

/** Computing the operations that settle a board of so many pictures, ms. */
export function settleBoard(count: number): number {
  const next = numbersFrom(7);
  const board = new Map<string, Item>();
  for (let index = 0; index < count; index += 1) {
    const { width, height } = SETS.mixed!(next);
    const id = `p${index}`;
    board.set(
      id,
      createPlacement({
        ...{ id, stack: `a${index.toString(36)}1`, picture: '7b7cf7b2-0d0a-5b1c-9d7f-3d9b1c5f1a11', width },
        ...{ pictureWidth: Math.round(width * 10), pictureHeight: Math.round(height * 10) },
        centre: { x: next() * 20_000, y: next() * 12_000 },
      }),
    );
  }
  return timed(() => settle(board, board.values(), { form: 'tight', gap: GAP, aspect: 1.6 })).tookMs;
}
