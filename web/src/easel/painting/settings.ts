import { BRUSHES, type Brush, type BrushName, type Rgb8 } from '@miradero/core/paint';
import { createStore, type Readable, recall, remember } from '../../state/index.ts';

/** What the hand does on a sheet. */
export const IMPLEMENTS = [
  'pencil',
  'round',
  'soft',
  'smudge',
  'push',
  'hard eraser',
  'soft eraser',
  'lasso',
  'fill',
  'move',
] as const;
export type Implement = (typeof IMPLEMENTS)[number];

export const IMPLEMENT_WORDS: Readonly<Record<Implement, string>> = {
  pencil: 'pencil',
  round: 'round',
  soft: 'soft',
  smudge: 'smudge',
  push: 'push and pull',
  'hard eraser': 'hard eraser',
  'soft eraser': 'soft eraser',
  lasso: 'lasso filled',
  fill: 'fill',
  move: 'move a part',
};

type BrushFacts = Pick<Brush, 'sizePx' | 'opacity' | 'hardness' | 'flow' | 'pressureTo'>;
export type BrushImplement = Exclude<Implement, 'lasso' | 'fill' | 'move'>;

/** With what is drawn on sheets in this browser. */
export interface PaintSettings {
  readonly does: Implement;
  readonly brushes: Readonly<Partial<Record<BrushImplement, Partial<BrushFacts>>>>;
  /** Hex. */
  readonly colour: string;
  /** 0..1 */
  readonly smoothing: number;
  /** Of what is filled, 0..1. */
  readonly areaOpacity: number;
  /** The lasso takes away in place of painting. */
  readonly isLassoClear: boolean;
  /** What is drawn around is a rectangle, as it is with Shift. */
  readonly isRectangle: boolean;
  /** Openings up to so many pixels are taken for closed. */
  readonly gapPx: number;
  readonly isFolded: boolean | undefined;
}

/** Pixels of the sheet. */
export const SIZES = { least: 1, most: 1_000 } as const;
const KEY = 'miradero-painting';
const USUAL: PaintSettings = {
  ...{ does: 'pencil', brushes: {}, colour: '#3a2c22', smoothing: 0.3, areaOpacity: 1 },
  ...{ isLassoClear: false, isRectangle: false, gapPx: 6, isFolded: undefined },
};

export const isBrush = (does: Implement): does is BrushImplement =>
  does !== 'lasso' && does !== 'fill' && does !== 'move';

const NAMES: Readonly<Record<BrushImplement, BrushName>> = {
  ...{ pencil: 'pencil', round: 'round', soft: 'soft', smudge: 'soft', push: 'soft' },
  ...{ 'hard eraser': 'hard eraser', 'soft eraser': 'soft eraser' },
};

/** A brush as it was set. */
export const brushOf = ({ brushes }: PaintSettings, does: BrushImplement): Brush => ({
  ...BRUSHES[NAMES[does]],
  ...brushes[does],
});

export function rgbOf(hex: string): Rgb8 {
  const value = Number.parseInt(hex.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}
export const hexOf = (rgb: Rgb8): string =>
  `#${rgb.map((part) => part.toString(16).padStart(2, '0')).join('')}`;

const isWithin = (value: unknown, least: number, most: number): value is number =>
  typeof value === 'number' && value >= least && value <= most;

function keptBrush(read: unknown): Partial<BrushFacts> {
  const { sizePx, opacity, hardness, flow, pressureTo } = (read ?? {}) as Partial<BrushFacts>;
  return {
    ...(isWithin(sizePx, SIZES.least, SIZES.most) && { sizePx }),
    ...(isWithin(opacity, 0.01, 1) && { opacity }),
    ...(isWithin(hardness, 0, 1) && { hardness }),
    ...(isWithin(flow, 0.01, 1) && { flow }),
    ...(pressureTo && {
      pressureTo: { size: pressureTo.size === true, opacity: pressureTo.opacity === true },
    }),
  };
}

function kept(): PaintSettings {
  try {
    const read = (JSON.parse(recall(KEY) ?? 'null') ?? {}) as Partial<PaintSettings>;
    const brushes = Object.entries(read.brushes ?? {}).filter(([name]) => Object.hasOwn(NAMES, name));
    return {
      does: IMPLEMENTS.find((one) => one === read.does) ?? USUAL.does,
      brushes: Object.fromEntries(brushes.map(([name, brush]) => [name, keptBrush(brush)])),
      colour: /^#[0-9a-f]{6}$/.test(String(read.colour)) ? read.colour! : USUAL.colour,
      smoothing: isWithin(read.smoothing, 0, 1) ? read.smoothing : USUAL.smoothing,
      areaOpacity: isWithin(read.areaOpacity, 0.01, 1) ? read.areaOpacity : USUAL.areaOpacity,
      isLassoClear: read.isLassoClear === true,
      isRectangle: read.isRectangle === true,
      gapPx: isWithin(read.gapPx, 0, 60) ? read.gapPx : USUAL.gapPx,
      isFolded: typeof read.isFolded === 'boolean' ? read.isFolded : undefined,
    };
  } catch {
    return USUAL;
  }
}

const store = createStore<PaintSettings>(kept);

export const paintSettings = {
  store: store as Readable<PaintSettings>,
  get now(): PaintSettings {
    return store.getState();
  },
  set(part: Partial<PaintSettings>): void {
    store.setState(part);
    remember(KEY, JSON.stringify(store.getState()));
  },
  /** Alters the brush that is taken. */
  setBrush(does: BrushImplement, part: Partial<BrushFacts>): void {
    const { brushes } = store.getState();
    paintSettings.set({ brushes: { ...brushes, [does]: { ...brushes[does], ...part } } });
  },
};
