/** A way of looking that changes nothing. How it sees is another matter: `seeing.ts`. */
export interface Lens {
  readonly words: string;
  /** What can be set of it. */
  readonly amount?: {
    readonly least: number;
    readonly most: number;
    readonly usual: number;
    readonly unit: string;
    /** It is a length on the screen, CSS pixels: what is seen in fewer or more pixels has it shorter or longer. */
    readonly isLength?: true;
  };
  /** It alters the pixels that are seen. */
  readonly seesPixels?: true;
  /** What it shows of something lies around it, too: by so many times its figure. */
  readonly spreadsBy?: number;
  /** Pictures are seen in the mirror, in their places. */
  readonly mirrors?: true;
  /** What it is not laid on is seen faintly. */
  readonly dimsOthers?: true;
  /** Something else lays it on while it is pointed at: nobody chooses it, and its figure is that thing's. */
  readonly isMomentary?: true;
}

/** Every lens there is: to add one, add it here, and how it sees in `seeing.ts`; those that see are laid on in this order. */
export const LENSES = {
  values: { words: 'values', seesPixels: true },
  steps: {
    words: 'value steps',
    amount: { least: 2, most: 9, usual: 5, unit: '' },
    seesPixels: true,
  },
  notan: { words: 'notan', amount: { least: 2, most: 3, usual: 2, unit: '' }, seesPixels: true },
  posterised: {
    words: 'few colours',
    amount: { least: 2, most: 24, usual: 8, unit: '' },
    seesPixels: true,
  },
  warmth: { words: 'warm and cool', seesPixels: true },
  chroma: { words: 'chroma only', seesPixels: true },
  hue: { words: 'hue only', seesPixels: true },
  where: { words: 'where a colour lives', seesPixels: true, isMomentary: true },
  outline: {
    words: 'outline',
    amount: { least: 0, most: 20, usual: 2, unit: 'px', isLength: true },
    seesPixels: true,
  },
  edges: {
    words: 'edges: hard, soft, lost',
    amount: { least: 4, most: 60, usual: 16, unit: 'px', isLength: true },
    seesPixels: true,
  },
  focus: {
    words: 'where contrast sits',
    amount: { least: 4, most: 120, usual: 24, unit: 'px', isLength: true },
    seesPixels: true,
  },
  squint: {
    words: 'squint',
    amount: { least: 1, most: 60, usual: 5, unit: 'px', isLength: true },
    seesPixels: true,
    spreadsBy: 3,
  },
  mirror: { words: 'in the mirror', mirrors: true },
  dim: { words: 'others dimmed', dimsOthers: true },
} as const satisfies Readonly<Record<string, Lens>>;

export type LensId = keyof typeof LENSES;
export const LENS_IDS = Object.keys(LENSES) as LensId[];
/** Those that a person lays on. */
export const CHOSEN_LENSES = LENS_IDS.filter((id) => !(LENSES[id] as Lens).isMomentary);
export const lensOf = (id: LensId): Lens => LENSES[id];

/** A lens that is laid on. */
export interface LaidLens {
  readonly lens: LensId;
  readonly amount: number;
  /** On what: ids of items; null: on everything. */
  readonly on: readonly string[] | null;
}

/** The same lens on something that is seen `zoom` times as large: what is a length goes with it. */
export const zoomedLens = (one: LaidLens, zoom: number): LaidLens =>
  lensOf(one.lens).amount?.isLength ? { ...one, amount: one.amount * zoom } : one;
