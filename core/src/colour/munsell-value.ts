/**
 * Luminance of a Munsell value: percent of a perfect diffuser, for value 0..10.
 * Source: ASTM D1535-14, equation 2 (illuminant C, coefficients relative to a perfect reflecting diffuser).
 */
export function munsellValueToLuminance(value: number): number {
  if (!(value >= 0 && value <= 10)) throw new RangeError(`Munsell value must be 0..10, got ${value}`);
  return value * (1.1914 + value * (-0.22533 + value * (0.23352 + value * (-0.020484 + value * 0.00081939))));
}

/**
 * Munsell value of a luminance (percent, clamped to 0..100), by bisection of the same equation to within 1e-9.
 * The polynomial rises everywhere on 0..10, so the answer is unique.
 */
export function luminanceToMunsellValue(luminancePercent: number): number {
  const target = Math.min(100, Math.max(0, luminancePercent));
  let low = 0;
  let high = 10;
  for (let step = 0; step < 34; step += 1) {
    const middle = (low + high) / 2;
    if (munsellValueToLuminance(middle) < target) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
