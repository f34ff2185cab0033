import { seeByTable } from './by-table.ts';
import { seeEdges } from './edges.ts';
import { seeFocus } from './focus.ts';
import type { LensId } from './lenses.ts';
import { seeOutline } from './outline.ts';
import type { Pixels } from './pixels.ts';
import { posterise } from './posterise.ts';
import { type CoarsePixels, squint, squintCoarsely } from './squint.ts';
import { seeNotan, seeSteps } from './steps.ts';
import { seeValues } from './values.ts';
import { seeWhere } from './where.ts';

/** How a lens alters what is seen. */
export interface Seeing {
  /**
   * Alters pixels in place.
   *
   * @param amount - in its unit; lengths are pixels of what is seen
   */
  readonly see: (pixels: Pixels, amount: number) => void;
  /** The same in fewer pixels, where it leaves nothing fine: drawn large, they show what `see` makes. */
  readonly seeCoarsely?: (pixels: Pixels, amount: number) => CoarsePixels | undefined;
}

const SEEING: Readonly<Partial<Record<LensId, Seeing>>> = {
  values: { see: seeValues },
  steps: { see: seeSteps },
  notan: { see: seeNotan },
  posterised: { see: posterise },
  warmth: { see: (pixels) => seeByTable(pixels, 'warmth') },
  chroma: { see: (pixels) => seeByTable(pixels, 'chroma') },
  hue: { see: (pixels) => seeByTable(pixels, 'hue') },
  where: { see: seeWhere },
  outline: { see: seeOutline },
  edges: { see: seeEdges },
  focus: { see: seeFocus },
  squint: { see: squint, seeCoarsely: squintCoarsely },
};

/** @returns undefined for a lens that leaves pixels as they are */
export const seeingOf = (lens: LensId): Seeing | undefined => SEEING[lens];
