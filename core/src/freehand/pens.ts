/** What a stroke is filled with. */
export type Texture = 'plain' | 'grain' | 'hatching' | 'cross-hatching';

/** How a pen leaves what a hand draws with it. */
export interface Pen {
  readonly words: string;
  /** How much the pressure alters its width: 0 not at all, 1 from nothing to twice. */
  readonly thinning: number;
  /** By how much it is wider where the pen lies as flat as it can; 0: not at all. */
  readonly widensBy: number;
  readonly texture: Texture;
  /** Its widths, narrow, middle and wide, CSS pixels as it is drawn. */
  readonly widths: readonly [number, number, number];
  /** 0..1 */
  readonly opacity: number;
  /** What it leaves has an edge that stands off from any ground. */
  readonly isEdged: boolean;
}

/** Every pen there is: to add one, add it here. */
export const PENS = {
  'hard-pencil': {
    ...{ words: 'hard pencil', thinning: 0.5, widensBy: 0.6, texture: 'plain', widths: [2, 4, 9] },
    ...{ opacity: 1, isEdged: true },
  },
  'soft-pencil': {
    ...{ words: 'soft pencil', thinning: 0.6, widensBy: 2.5, texture: 'grain', widths: [5, 11, 24] },
    ...{ opacity: 0.9, isEdged: false },
  },
  wash: {
    ...{ words: 'wash', thinning: 0, widensBy: 0, texture: 'plain', widths: [12, 28, 60] },
    ...{ opacity: 0.35, isEdged: false },
  },
  hatching: {
    ...{ words: 'hatching', thinning: 0, widensBy: 0, texture: 'hatching', widths: [16, 34, 70] },
    ...{ opacity: 1, isEdged: true },
  },
  'cross-hatching': {
    ...{ words: 'crossed', thinning: 0, widensBy: 0, texture: 'cross-hatching', widths: [16, 34, 70] },
    ...{ opacity: 1, isEdged: true },
  },
} as const satisfies Readonly<Record<string, Pen>>;

export type PenId = keyof typeof PENS;
export const PEN_IDS = Object.keys(PENS) as PenId[];
export const penOf = (id: PenId): Pen => PENS[id];

/** Held as one writes a pen leans by so much, degrees from upright: it widens from there, until it lies as flat as it can. */
const LEANS = { from: 40, to: 70 } as const;

/**
 * Width of a stroke where the pen presses and leans so much, of its width at half the pressure upright.
 *
 * @param pressure - 0..1
 * @param tilt - degrees from upright
 */
export function widthUnder({ thinning, widensBy }: Pen, pressure: number, tilt = 0): number {
  const flat = Math.min(1, Math.max(0, (tilt - LEANS.from) / (LEANS.to - LEANS.from)));
  return (1 + thinning * (2 * pressure - 1)) * (1 + widensBy * flat);
}
