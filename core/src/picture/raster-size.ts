/** A drawing in SVG is rasterised so that its longest side has so many pixels, unless it asks for more. */
const SVG_SIDE = 2048;
const SVG_MOST = 8192;

/**
 * Pixel size at which a drawing without pixels of its own stands: its aspect, at a size worth looking at.
 *
 * @param width, height - what the SVG says, CSS pixels
 * @throws RangeError when a side is not positive and finite
 */
export function rasterSizeOfSvg(width: number, height: number): { width: number; height: number } {
  if (!(width > 0 && height > 0 && Number.isFinite(width) && Number.isFinite(height))) {
    throw new RangeError(`a drawing has positive sides, got ${width} × ${height}`);
  }
  const longest = Math.max(width, height);
  const factor = Math.min(SVG_MOST, Math.max(SVG_SIDE, longest)) / longest;
  return {
    width: Math.max(1, Math.round(width * factor)),
    height: Math.max(1, Math.round(height * factor)),
  };
}
