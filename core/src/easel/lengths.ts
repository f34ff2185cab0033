export const MM_PER_INCH = 25.4;

/** Units in which a sheet is stated; pixels depend on its resolution. */
export const LENGTH_UNITS = ['in', 'cm', 'mm', 'px'] as const;
export type LengthUnit = (typeof LENGTH_UNITS)[number];

const MM: Readonly<Record<Exclude<LengthUnit, 'px'>, number>> = { in: MM_PER_INCH, cm: 10, mm: 1 };

/** A length in millimetres. @param ppi - pixels an inch, for lengths in pixels */
export const inMm = (length: number, unit: LengthUnit, ppi: number): number =>
  unit === 'px' ? (length / ppi) * MM_PER_INCH : length * MM[unit];

/** Millimetres in a unit, not rounded. @param ppi - pixels an inch, for lengths in pixels */
export const fromMm = (mm: number, unit: LengthUnit, ppi: number): number =>
  unit === 'px' ? (mm / MM_PER_INCH) * ppi : mm / MM[unit];

/** Whole pixels that a length takes at a resolution; at least one. */
export const inPixels = (length: number, unit: LengthUnit, ppi: number): number =>
  Math.max(1, Math.round(unit === 'px' ? length : (inMm(length, unit, ppi) / MM_PER_INCH) * ppi));

/** Digits after the point that say a length to about 0.1 mm. */
const DIGITS: Readonly<Record<LengthUnit, number>> = { in: 2, cm: 2, mm: 1, px: 0 };

/** A length as it is told: "12", "9.6", "254". Trailing noughts are left away. */
export const lengthWords = (length: number, unit: LengthUnit): string =>
  length.toLocaleString('en', { maximumFractionDigits: DIGITS[unit] });
