/** Pixels of a part of an image: RGBA, straight alpha, 8 bits, row-major; `x`, `y` are where its top left pixel lies in the image. */
export interface Raster {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** Pixels that show nothing. */
export const emptyRaster = (x: number, y: number, width: number, height: number): Raster => ({
  ...{ x, y, width, height },
  data: new Uint8ClampedArray(width * height * 4),
});

/**
 * Lays one pixel over another. Source: Porter and Duff 1984, *over*, for straight alpha.
 *
 * @param alpha - of what comes over it, 0..1
 */
export function blendPixel(
  data: Uint8ClampedArray,
  at: number,
  red: number,
  green: number,
  blue: number,
  alpha: number,
): void {
  const below = (data[at + 3]! / 255) * (1 - alpha);
  const sum = alpha + below;
  if (sum <= 0) return;
  const over = alpha / sum;
  data[at] = red * over + data[at]! * (1 - over);
  data[at + 1] = green * over + data[at + 1]! * (1 - over);
  data[at + 2] = blue * over + data[at + 2]! * (1 - over);
  data[at + 3] = sum * 255;
}

/**
 * Lays pixels over others of the same image, where both have some.
 *
 * @param isMultiplied - whether their colours are multiplied with those below. Source: W3C Compositing and Blending Level 1, sections 5 and 10.1.2.
 */
export function blendOver(target: Raster, layer: Raster, isMultiplied = false): void {
  const left = Math.max(target.x, layer.x);
  const right = Math.min(target.x + target.width, layer.x + layer.width);
  const bottom = Math.min(target.y + target.height, layer.y + layer.height);
  const { data } = layer;
  for (let y = Math.max(target.y, layer.y); y < bottom; y += 1) {
    let from = ((y - layer.y) * layer.width + left - layer.x) * 4;
    let to = ((y - target.y) * target.width + left - target.x) * 4;
    for (let x = left; x < right; x += 1, from += 4, to += 4) {
      const alpha = data[from + 3]! / 255;
      if (alpha <= 0) continue;
      let [red, green, blue] = [data[from]!, data[from + 1]!, data[from + 2]!];
      if (isMultiplied) {
        const below = target.data[to + 3]! / 255;
        red *= 1 - below + (below * target.data[to]!) / 255;
        green *= 1 - below + (below * target.data[to + 1]!) / 255;
        blue *= 1 - below + (below * target.data[to + 2]!) / 255;
      }
      blendPixel(target.data, to, red, green, blue, alpha);
    }
  }
}
