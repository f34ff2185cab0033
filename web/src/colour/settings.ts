import { isNotation, type NotationId } from '@miradero/core/colour';
import { createStore, type Readable, recall, remember } from '../state/index.ts';

/** Sides of the square that is read, pixels of the original. */
export const AREA_SIZES = [1, 3, 5, 11, 31, 101] as const;
export type AreaSize = (typeof AREA_SIZES)[number];

/** How colours are read and written in this browser. */
export interface ColourSettings {
  readonly sizePx: AreaSize;
  /** What dragging draws. */
  readonly drawn: 'lasso' | 'rectangle';
  /** The notation that is copied. */
  readonly notation: NotationId;
}

const KEY = 'miradero-colour';
const USUAL: ColourSettings = { sizePx: 1, drawn: 'lasso', notation: 'hex' };

function kept(): ColourSettings {
  try {
    const { sizePx, drawn, notation } = (JSON.parse(recall(KEY) ?? 'null') ?? {}) as Partial<ColourSettings>;
    return {
      sizePx: AREA_SIZES.find((one) => one === sizePx) ?? USUAL.sizePx,
      drawn: drawn === 'rectangle' ? drawn : USUAL.drawn,
      notation: isNotation(notation) ? notation : USUAL.notation,
    };
  } catch {
    return USUAL;
  }
}

const store = createStore<ColourSettings>(kept);

export const colourSettings = {
  store: store as Readable<ColourSettings>,
  get now(): ColourSettings {
    return store.getState();
  },
  set(part: Partial<ColourSettings>): void {
    store.setState(part);
    remember(KEY, JSON.stringify(store.getState()));
  },
};
