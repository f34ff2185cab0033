import { fromMm, inMm, type LengthUnit, MM_PER_INCH } from './lengths.ts';
import { type PrintNeed, pixelsOfSheet, SHEET_LIMITS, type SheetSetup, type Size } from './sheet.ts';

/** What screens were once said to have: no resolution to print at. */
export const SCREEN_PPI = 72;

/** Papers and canvases by name, mm, upright. Sources: ISO 216:2007; ANSI/ASME Y14.1; stretched canvases as they are sold. */
export const SHEET_SIZES_MM = {
  A6: { width: 105, height: 148 },
  A5: { width: 148, height: 210 },
  A4: { width: 210, height: 297 },
  A3: { width: 297, height: 420 },
  A2: { width: 420, height: 594 },
  Letter: { width: 215.9, height: 279.4 },
  Tabloid: { width: 279.4, height: 431.8 },
  '8 × 10 in': { width: 203.2, height: 254 },
  '11 × 14 in': { width: 279.4, height: 355.6 },
  '16 × 20 in': { width: 406.4, height: 508 },
} as const;
export type SheetSizeName = keyof typeof SHEET_SIZES_MM;

/** Why a sheet cannot be made, in words; undefined where it can. */
export function faultOfSheet(setup: SheetSetup): string | undefined {
  const { width, height, unit, ppi, bleed } = setup;
  if (![width, height, ppi, bleed].every(Number.isFinite)) return 'Something of it is no number.';
  if (width <= 0 || height <= 0) return 'A sheet is wider and higher than nothing.';
  const { leastPpi, mostPpi, side, pixels } = SHEET_LIMITS;
  if (ppi < leastPpi || ppi > mostPpi)
    return `Its resolution is between ${leastPpi} and ${mostPpi.toLocaleString('en')} ppi.`;
  if (bleed < 0 || inMm(bleed, unit, ppi) > inMm(Math.min(width, height), unit, ppi))
    return 'Its bleed is no wider than the sheet itself.';
  const { whole } = pixelsOfSheet(setup);
  if (whole.width > side || whole.height > side)
    return `It would be ${whole.width.toLocaleString('en')} × ${whole.height.toLocaleString('en')} px: at most ${side.toLocaleString('en')} px a side are held.`;
  if (whole.width * whole.height > pixels)
    return `It would have ${Math.round((whole.width * whole.height) / 1e6).toLocaleString('en')} million pixels: at most ${pixels / 1e6} million are held.`;
  return undefined;
}

/** Longer than this no print is asked for, in its unit. */
const MOST_LENGTH = 10_000;

/** Why a print cannot be asked for, in words; undefined where it can. */
export function faultOfNeed({ width, height, ppi }: PrintNeed): string | undefined {
  if (![width, height, ppi].every(Number.isFinite)) return 'Something of the print is no number.';
  if (width <= 0 || height <= 0) return 'A print is wider and higher than nothing.';
  if (width > MOST_LENGTH || height > MOST_LENGTH) return 'No print is as large as that.';
  const { leastPpi, mostPpi } = SHEET_LIMITS;
  if (ppi < leastPpi || ppi > mostPpi)
    return `A print has between ${leastPpi} and ${mostPpi.toLocaleString('en')} ppi.`;
  return undefined;
}

/** Whether a picture of some pixels is enough for what is needed, and how far it goes. */
export interface PrintVerdict {
  readonly isEnough: boolean;
  /** At which the smallest allowed print would come out, pixels an inch; upright or on its side, whichever is better. */
  readonly ppiAtNeed: number;
  /** Largest good print of the picture's own proportions, in the need's unit. */
  readonly largest: Size;
  /** What the picture would need at least: pixels. */
  readonly needed: Size;
}

const lying = ({ width, height }: Size, like: Size): Size =>
  width > height === like.width > like.height ? { width, height } : { width: height, height: width };

/** @param pixels - of the picture, without bleed */
export function printVerdict(pixels: Size, need: PrintNeed): PrintVerdict {
  const print = lying(need, pixels);
  const inches = (length: number) => inMm(length, need.unit, need.ppi) / MM_PER_INCH;
  // It fills the print: the side that has fewer pixels an inch decides.
  const ppiAtNeed = Math.min(pixels.width / inches(print.width), pixels.height / inches(print.height));
  const good = (count: number) => fromMm((count / need.ppi) * MM_PER_INCH, need.unit, need.ppi);
  return {
    // Half a pixel is what rounding to whole ones takes.
    isEnough: ppiAtNeed >= need.ppi - (0.5 * need.ppi) / Math.min(pixels.width, pixels.height),
    ppiAtNeed,
    largest: { width: good(pixels.width), height: good(pixels.height) },
    needed: {
      width: Math.ceil(inches(print.width) * need.ppi - 1e-9),
      height: Math.ceil(inches(print.height) * need.ppi - 1e-9),
    },
  };
}

/** A sheet for practice has this share of the sides. */
const PRACTICE = 0.5;

/** The same sheet smaller, for practice: half as wide and high, at the same resolution, without bleed. */
export const practiceSheet = (setup: SheetSetup): SheetSetup => ({
  ...setup,
  width: setup.width * PRACTICE,
  height: setup.height * PRACTICE,
  bleed: 0,
});

/** The largest sheet of a picture's proportions that fits into another one, lying as the picture does. */
export function sheetLike(picture: Size, within: SheetSetup): SheetSetup {
  const room = lying(within, picture);
  const scale = Math.min(room.width / picture.width, room.height / picture.height);
  return { ...within, width: picture.width * scale, height: picture.height * scale };
}

/** The same sheet told in another unit. */
export function inUnit(setup: SheetSetup, unit: LengthUnit): SheetSetup {
  const tell = (length: number) => fromMm(inMm(length, setup.unit, setup.ppi), unit, setup.ppi);
  return { ...setup, unit, width: tell(setup.width), height: tell(setup.height), bleed: tell(setup.bleed) };
}
