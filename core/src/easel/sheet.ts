import { fromMm, inPixels, type LengthUnit, MM_PER_INCH } from './lengths.ts';

export interface Size {
  readonly width: number;
  readonly height: number;
}

/** How a sheet is stated: its trimmed size, and what is printed beyond it so that a cut shows no white. */
export interface SheetSetup extends Size {
  readonly unit: LengthUnit;
  /** Pixels an inch. */
  readonly ppi: number;
  /** Beyond each edge, in `unit`. */
  readonly bleed: number;
}

/** A print that must come out well: the smallest that is allowed. */
export interface PrintNeed extends Size {
  readonly unit: Exclude<LengthUnit, 'px'>;
  readonly ppi: number;
}

/** What a sheet is asked for until somebody says otherwise. */
export const USUAL_NEED: PrintNeed = { width: 8, height: 10, unit: 'in', ppi: 300 };

/** Longest side and number of pixels that a sheet may have. */
export const SHEET_LIMITS = { side: 30_000, pixels: 150_000_000, leastPpi: 10, mostPpi: 2_400 } as const;

/** Pixels of a sheet: `trimmed`, what is left after the cut; `whole`, with its bleed; `bleed`, beyond each edge. */
export interface SheetPixels {
  readonly trimmed: Size;
  readonly whole: Size;
  readonly bleed: number;
}

export function pixelsOfSheet({ width, height, unit, ppi, bleed }: SheetSetup): SheetPixels {
  const beyond = bleed > 0 ? inPixels(bleed, unit, ppi) : 0;
  const trimmed = { width: inPixels(width, unit, ppi), height: inPixels(height, unit, ppi) };
  const whole = { width: trimmed.width + 2 * beyond, height: trimmed.height + 2 * beyond };
  return { trimmed, whole, bleed: beyond };
}

/** Lengths are told to so many parts of a unit: far below a pixel, and above what sums leave. */
const PARTS = 1e6;

/** The same sheet, in its unit and at its resolution, with other trimmed pixels. */
export function setupOfPixels(setup: SheetSetup, trimmed: Size): SheetSetup {
  const told = (pixels: number) =>
    Math.round(fromMm((pixels / setup.ppi) * MM_PER_INCH, setup.unit, setup.ppi) * PARTS) / PARTS;
  return { ...setup, width: told(trimmed.width), height: told(trimmed.height) };
}
