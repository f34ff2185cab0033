import { type LengthUnit, lengthWords } from './lengths.ts';
import { type PrintVerdict, printVerdict, SCREEN_PPI } from './print.ts';
import { type PrintNeed, pixelsOfSheet, type SheetSetup, type Size } from './sheet.ts';

const sidesWords = ({ width, height }: Size, unit: LengthUnit): string =>
  `${lengthWords(width, unit)} × ${lengthWords(height, unit)} ${unit}`;

/** "4,800 × 3,840 px". */
export const pixelsWords = (size: Size): string => sidesWords(size, 'px');

/** "12 × 9.6 in at 400 ppi". */
export const setupWords = (setup: SheetSetup): string =>
  `${sidesWords(setup, setup.unit)} at ${lengthWords(setup.ppi, 'in')} ppi`;

/** With its pixels, where those are not how it was set up: "12 × 9.6 in at 400 ppi, 4,800 × 3,840 px". */
export const sheetWords = (setup: SheetSetup): string =>
  setup.unit === 'px'
    ? setupWords(setup)
    : `${setupWords(setup)}, ${pixelsWords(pixelsOfSheet(setup).trimmed)}`;

/** "8 × 10 in at 300 ppi". */
export const needWords = (need: PrintNeed): string =>
  `${sidesWords(need, need.unit)} at ${lengthWords(need.ppi, 'in')} ppi`;

/** Whether a sheet is enough for its print, in one line: "enough for print up to 16 × 12.8 in at 300 ppi". */
export function verdictWords(setup: SheetSetup, need: PrintNeed): string {
  const verdict = printVerdict(pixelsOfSheet(setup).trimmed, need);
  const at = `at ${lengthWords(need.ppi, 'in')} ppi`;
  if (verdict.isEnough)
    return `enough for print up to ${sidesWords(floored(verdict, need.unit), need.unit)} ${at}`;
  return `not enough for ${needWords(need)}: that needs ${pixelsWords(verdict.needed)}; it would come out at ${Math.floor(verdict.ppiAtNeed)} ppi`;
}

/** What more there is to be said of a resolution; undefined where nothing is. */
export const resolutionWords = ({ ppi }: Pick<SheetSetup, 'ppi'>): string | undefined =>
  ppi <= SCREEN_PPI
    ? `${SCREEN_PPI} ppi is what screens were once said to have; printed like that its pixels are seen.`
    : undefined;

/** Down to what is told, so that nothing larger is promised. */
function floored({ largest: { width, height } }: PrintVerdict, unit: PrintNeed['unit']): Size {
  const steps = unit === 'mm' ? 1 : unit === 'cm' ? 10 : 100;
  // A last bit less than a whole step is that step.
  const down = (length: number) => Math.floor(length * steps + 1e-6) / steps;
  return { width: down(width), height: down(height) };
}
