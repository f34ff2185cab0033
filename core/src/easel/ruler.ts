import { fromMm, inMm, type LengthUnit, MM_PER_INCH } from './lengths.ts';

/** Steps between numbered lines of a ruler, in its unit: such as a ruler has. */
const STEPS: Readonly<Record<LengthUnit, readonly number[]>> = {
  in: [0.25, 0.5, 1, 2, 5, 10, 20, 50],
  cm: [0.5, 1, 2, 5, 10, 20, 50, 100],
  mm: [1, 2, 5, 10, 20, 50, 100, 200, 500, 1_000],
  px: [1, 2, 5, 10, 20, 50, 100, 200, 500, 1_000, 2_000, 5_000, 10_000],
};

/** A line of a ruler: where, in the sheet's pixels, and which length stands there. */
export interface RulerLine {
  readonly at: number;
  readonly length: number;
}

/**
 * Numbered lines of a ruler from `from` to `to`, the sheet's pixels.
 *
 * @param least - pixels of the sheet between two of them at least, so that numbers do not touch
 */
export function rulerLines(
  from: number,
  to: number,
  { unit, ppi, least }: { readonly unit: LengthUnit; readonly ppi: number; readonly least: number },
): RulerLine[] {
  const pixels = (inMm(1, unit, ppi) / MM_PER_INCH) * ppi;
  const steps = STEPS[unit];
  const step = steps.find((one) => one * pixels >= least) ?? steps[steps.length - 1]!;
  const lines: RulerLine[] = [];
  for (let index = Math.ceil(from / pixels / step - 1e-9); index * step * pixels <= to; index += 1)
    lines.push({ at: index * step * pixels, length: Math.round(index * step * 1e6) / 1e6 || 0 });
  return lines;
}

/** A place on a sheet told in its unit. @param at - the sheet's pixels */
export const lengthAt = (at: number, unit: LengthUnit, ppi: number): number =>
  fromMm((at / ppi) * MM_PER_INCH, unit, ppi);
