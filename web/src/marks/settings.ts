import { munsellValueToGrey8 } from '@miradero/core/colour';
import { PENS, type PenId, penOf } from '@miradero/core/freehand';
import { createStore, type Readable, recall, remember } from '../state/index.ts';

const greyOf = (value: number): string => {
  const level = munsellValueToGrey8(value).toString(16).padStart(2, '0');
  return `#${level}${level}${level}`;
};

/** Inks: steps of value, and a few that stand off from most pictures. */
export const INKS: readonly (readonly [hex: string, words: string])[] = [
  ...[1, 3, 5, 7, 9.5].map((value) => [greyOf(value), `value ${value}`] as const),
  ['#bf4128', 'vermilion'],
  ['#b9791a', 'ochre'],
  ['#2c7a6b', 'verdigris'],
  ['#2f5d8a', 'blue'],
];

/** With what marks are drawn in this browser. */
export interface DrawingSettings {
  readonly pen: PenId;
  /** CSS pixels, for each pen. */
  readonly widths: Readonly<Partial<Record<PenId, number>>>;
  readonly ink: string;
  readonly smoothing: number;
  /** What is drawn on a picture belongs to it; else to the board. */
  readonly isOnPictures: boolean;
  /** Of the card where all this is chosen only one line is shown; as long as nobody said so, where there is little room. */
  readonly isFolded: boolean | undefined;
  /** How wide is rubbed out, CSS pixels. */
  readonly rubberPx: number;
  /** What is touched is rubbed out as a whole. */
  readonly isWholeRubbed: boolean;
}

/** CSS pixels. */
export const WIDTHS = { least: 0.5, most: 200 } as const;
const KEY = 'miradero-marks';
const USUAL: DrawingSettings = {
  ...{
    pen: 'hard-pencil',
    widths: {},
    ink: '#bf4128',
    smoothing: 0.4,
    isOnPictures: true,
    isFolded: undefined,
  },
  ...{ rubberPx: 20, isWholeRubbed: false },
};

const isWithin = (value: unknown, least: number, most: number): value is number =>
  typeof value === 'number' && value >= least && value <= most;

function kept(): DrawingSettings {
  try {
    const read = (JSON.parse(recall(KEY) ?? 'null') ?? {}) as Partial<DrawingSettings>;
    const { pen, ink, smoothing, isOnPictures, isFolded, rubberPx, isWholeRubbed } = read;
    const widths = Object.entries(read.widths ?? {}).filter(([, width]) =>
      isWithin(width, WIDTHS.least, WIDTHS.most),
    );
    return {
      pen: pen && Object.hasOwn(PENS, pen) ? pen : USUAL.pen,
      widths: Object.fromEntries(widths),
      ink: INKS.find(([hex]) => hex === ink)?.[0] ?? USUAL.ink,
      smoothing: isWithin(smoothing, 0, 1) ? smoothing : USUAL.smoothing,
      isOnPictures: isOnPictures !== false,
      isFolded: typeof isFolded === 'boolean' ? isFolded : undefined,
      rubberPx: isWithin(rubberPx, 2, WIDTHS.most) ? rubberPx : USUAL.rubberPx,
      isWholeRubbed: isWholeRubbed === true,
    };
  } catch {
    return USUAL;
  }
}

const store = createStore<DrawingSettings>(kept);

export const drawingSettings = {
  store: store as Readable<DrawingSettings>,
  get now(): DrawingSettings {
    return store.getState();
  },
  set(part: Partial<DrawingSettings>): void {
    store.setState(part);
    remember(KEY, JSON.stringify(store.getState()));
  },
};

/** CSS pixels. */
export const widthOf = ({ pen, widths }: DrawingSettings): number => widths[pen] ?? penOf(pen).widths[1];
