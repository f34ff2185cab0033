import { colourOfReflectance, mixedAsPaint, reflectanceOf } from './reflectance.ts';
import { oklabToRgb, type Rgb, rgbToOklab } from './spaces.ts';

/** How colours between two are made. */
export type Mixing = 'light' | 'paint';

/**
 * The steps from one colour to another, both ends among them.
 *
 * @param steps - at least 2
 * @param mixing - `light`: straight through OKLab; `paint`: as a model of paint mixes
 */
export function mixtureSteps(one: Rgb, two: Rgb, steps: number, mixing: Mixing): Rgb[] {
  if (!(Number.isInteger(steps) && steps >= 2))
    throw new RangeError(`There are at least two steps, got ${steps}`);
  const parts = Array.from({ length: steps }, (_, index) => index / (steps - 1));
  if (mixing === 'light') {
    const [from, to] = [rgbToOklab(one), rgbToOklab(two)];
    return parts.map((part) =>
      oklabToRgb({
        l: from.l + (to.l - from.l) * part,
        a: from.a + (to.a - from.a) * part,
        b: from.b + (to.b - from.b) * part,
      }),
    );
  }
  const [from, to] = [reflectanceOf(one), reflectanceOf(two)];
  return parts.map((part) => colourOfReflectance(mixedAsPaint(from, to, part)));
}
