import { solveLinear } from '../numeric/index.ts';
import { encodedOf, linearOf, type Rgb, xyzToRgb } from './spaces.ts';

/**
 * CIE 1931 2° colour-matching functions x̄, ȳ, z̄ and the relative power of D65, 380 to 730 nm by 10 nm.
 * Source: CIE 15:2004, tables T.4 (observer) and T.1 (illuminant).
 */
const TABLE: readonly (readonly [x: number, y: number, z: number, d65: number])[] = [
  [0.001368, 0.000039, 0.00645, 49.9755],
  [0.004243, 0.00012, 0.02005, 54.6482],
  [0.01431, 0.000396, 0.06785, 82.7549],
  [0.04351, 0.00121, 0.2074, 91.486],
  [0.13438, 0.004, 0.6456, 93.4318],
  [0.2839, 0.0116, 1.3856, 86.6823],
  [0.34828, 0.023, 1.74706, 104.865],
  [0.3362, 0.038, 1.77211, 117.008],
  [0.2908, 0.06, 1.6692, 117.812],
  [0.19536, 0.09098, 1.28764, 114.861],
  [0.09564, 0.13902, 0.81295, 115.923],
  [0.03201, 0.20802, 0.46518, 108.811],
  [0.0049, 0.323, 0.272, 109.354],
  [0.0093, 0.503, 0.1582, 107.802],
  [0.06327, 0.71, 0.07825, 104.79],
  [0.1655, 0.862, 0.04216, 107.689],
  [0.2904, 0.954, 0.0203, 104.405],
  [0.43345, 0.99495, 0.00875, 104.046],
  [0.5945, 0.995, 0.0039, 100],
  [0.7621, 0.952, 0.0021, 96.3342],
  [0.9163, 0.87, 0.00165, 95.788],
  [1.0263, 0.757, 0.0011, 88.6856],
  [1.0622, 0.631, 0.0008, 90.0062],
  [1.0026, 0.503, 0.00034, 89.5991],
  [0.85445, 0.381, 0.00019, 87.6987],
  [0.6424, 0.265, 0.00005, 83.2886],
  [0.4479, 0.175, 0.00002, 83.6992],
  [0.2835, 0.107, 0, 80.0268],
  [0.1649, 0.061, 0, 80.2146],
  [0.0874, 0.032, 0, 82.2778],
  [0.04677, 0.017, 0, 78.2842],
  [0.0227, 0.00821, 0, 69.7213],
  [0.011359, 0.004102, 0, 71.6091],
  [0.00579, 0.002091, 0, 74.349],
  [0.002899, 0.001047, 0, 61.604],
  [0.00144, 0.00052, 0, 69.8856],
];

/** Wavelengths of a reflectance curve. */
export const BANDS = TABLE.length;

/** Linear sRGB of light reflected in each band: three rows of `BANDS`; a perfect white is (1, 1, 1). */
const TO_LINEAR: readonly (readonly number[])[] = (() => {
  const power = TABLE.reduce((sum, [, y, , d65]) => sum + y * d65, 0);
  const columns = TABLE.map(([x, y, z, d65]) => {
    const { r, g, b } = linearOf(
      xyzToRgb({ x: (x * d65) / power, y: (y * d65) / power, z: (z * d65) / power }),
    );
    return [r, g, b] as const;
  });
  return [0, 1, 2].map((row) => {
    const values = columns.map((column) => column[row]!);
    // The white of the table is that of sRGB within a thousandth; exactly, so that white is reflected whole.
    const sum = values.reduce((total, value) => total + value, 0);
    return values.map((value) => value / sum);
  });
})();

const ROUNDS = 40;
const ENOUGH = 1e-9;
/** Nothing reflects all or none: such curves have no slope to solve for. */
const DARKEST = 0.0002;
const LIGHTEST = 0.9998;

/**
 * A smooth reflectance that looks like a colour under D65: of all that do the one whose tanh⁻¹ alters least from band to band.
 * Source: S. A. Burns, "Numerical methods for smoothest reflectance reconstruction", Color Res. Appl. 45 (2020),
 * method LHTSS (least hyperbolic tangent slope squared), solved by Newton's method.
 *
 * @param colour - within sRGB; what is beyond is cut off
 * @returns `BANDS` reflectances, each between 0 and 1
 */
export function reflectanceOf(colour: Rgb): Float64Array {
  const cut = (part: number) => Math.min(LIGHTEST, Math.max(DARKEST, part));
  const { r, g, b } = linearOf(colour);
  const wanted = [cut(r), cut(g), cut(b)];
  const z = new Array<number>(BANDS).fill(0);
  const multipliers = [0, 0, 0];
  for (let round = 0; round < ROUNDS; round += 1) {
    const reflectances = z.map((one) => (Math.tanh(one) + 1) / 2);
    const slope = z.map((one) => 1 / Math.cosh(one) ** 2 / 2);
    const bend = z.map((one, band) => -2 * Math.tanh(one) * slope[band]!);
    const rows: number[][] = [];
    const residuals: number[] = [];
    for (let band = 0; band < BANDS; band += 1) {
      const before = band > 0 ? z[band]! - z[band - 1]! : 0;
      const after = band < BANDS - 1 ? z[band]! - z[band + 1]! : 0;
      const pull = TO_LINEAR.reduce((sum, row, index) => sum + multipliers[index]! * row[band]!, 0);
      const residual = 2 * (before + after) + pull * slope[band]!;
      const row = new Array<number>(BANDS + 3).fill(0);
      const neighbours = (band > 0 ? 1 : 0) + (band < BANDS - 1 ? 1 : 0);
      row[band] = 2 * neighbours + pull * bend[band]!;
      if (band > 0) row[band - 1] = -2;
      if (band < BANDS - 1) row[band + 1] = -2;
      for (let index = 0; index < 3; index += 1) row[BANDS + index] = TO_LINEAR[index]![band]! * slope[band]!;
      residuals.push(residual);
      rows.push(row);
    }
    for (let index = 0; index < 3; index += 1) {
      const of = TO_LINEAR[index]!;
      const residual = of.reduce((sum, part, band) => sum + part * reflectances[band]!, 0) - wanted[index]!;
      const row = new Array<number>(BANDS + 3).fill(0);
      for (let band = 0; band < BANDS; band += 1) row[band] = of[band]! * slope[band]!;
      residuals.push(residual);
      rows.push(row);
    }
    if (residuals.every((one) => Math.abs(one) < ENOUGH)) break;
    const by = solveLinear(
      rows,
      residuals.map((one) => -one),
      0,
    );
    // As near as numbers allow.
    if (!by) break;
    // Far from the solution a whole step may leave where the curve is straight enough.
    const longest = Math.max(...by.slice(0, BANDS).map(Math.abs));
    const factor = longest > 2 ? 2 / longest : 1;
    for (let band = 0; band < BANDS; band += 1) z[band]! += factor * by[band]!;
    for (let index = 0; index < 3; index += 1) multipliers[index]! += factor * by[BANDS + index]!;
  }
  return Float64Array.from(z, (one) => (Math.tanh(one) + 1) / 2);
}

/** The colour of a reflectance under D65, encoded sRGB. */
export function colourOfReflectance(reflectance: Float64Array): Rgb {
  const [r, g, b] = TO_LINEAR.map((row) =>
    row.reduce((sum, part, band) => sum + part * reflectance[band]!, 0),
  );
  return encodedOf({ r: r!, g: g!, b: b! });
}

/**
 * What paint of two colours gives, mixed: a model, not a measurement of pigments. Absorption over scattering of each band are
 * added by their parts (one constant for both, all paints scatter alike).
 * Source: P. Kubelka and F. Munk, "Ein Beitrag zur Optik der Farbanstriche", 1931; single-constant form.
 *
 * @param part - of the second, 0..1
 */
export function mixedAsPaint(one: Float64Array, two: Float64Array, part: number): Float64Array {
  const absorption = (reflectance: number) => (1 - reflectance) ** 2 / (2 * reflectance);
  return one.map((first, band) => {
    const mixed = (1 - part) * absorption(first) + part * absorption(two[band]!);
    return 1 + mixed - Math.sqrt(mixed ** 2 + 2 * mixed);
  });
}
