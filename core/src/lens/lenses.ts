import type { Pixels } from './pixels.ts';
import { type CoarsePixels, squint, squintCoarsely } from './squint.ts';
import { seeValues } from './values.ts';

/** A way of looking that changes nothing. */
export interface Lens {
  readonly words: string;
  /** What can be set of it. */
  readonly amount?: {
    readonly least: number;
    readonly most: number;
    readonly usual: number;
    readonly unit: string;
  };
  /**
   * Alters what is seen, in place.
   *
   * @param amount - in its unit; lengths are pixels of what is seen
   */
  readonly see?: (pixels: Pixels, amount: number) => void;
  /** The same in fewer pixels, where it leaves nothing fine: drawn large, they show what `see` makes. */
  readonly seeCoarsely?: (pixels: Pixels, amount: number) => CoarsePixels | undefined;
  /** Pictures are seen in the mirror, in their places. */
  readonly mirrors?: true;
  /** What it is not laid on is seen faintly. */
  readonly dimsOthers?: true;
}

/** Every lens there is: to add one, add it here; those that see are laid on in this order. */
export const LENSES = {
  values: { words: 'values', see: seeValues },
  squint: {
    words: 'squint',
    amount: { least: 1, most: 60, usual: 5, unit: 'px' },
    see: squint,
    seeCoarsely: squintCoarsely,
  },
  mirror: { words: 'in the mirror', mirrors: true },
  dim: { words: 'others dimmed', dimsOthers: true },
} as const satisfies Readonly<Record<string, Lens>>;

export type LensId = keyof typeof LENSES;
export const LENS_IDS = Object.keys(LENSES) as LensId[];
export const lensOf = (id: LensId): Lens => LENSES[id];

/** A lens that is laid on. */
export interface LaidLens {
  readonly lens: LensId;
  readonly amount: number;
  /** On what: ids of items; null: on everything. */
  readonly on: readonly string[] | null;
}
