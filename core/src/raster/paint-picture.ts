import type { Affine, Point } from '../geometry/index.ts';
import { Coverage } from './coverage.ts';
import { blendPixel, type Raster } from './raster.ts';

/** A sample so near to the middle of a pixel is that pixel. */
const NEAR = 1e-5;

/**
 * Paints a picture over a target: what lies within a polygon, sampled between its four nearest pixels. Where pixels fall on pixels
 * they are copied unaltered.
 *
 * @param toSource - pixels of the target's image → pixels of the picture; about as large as they are painted, see `placePicture`
 * @param polygon - what is shown of it, pixels of the target's image
 * @param opacity - 0..1
 * @param columns - of the target's image that are painted; by default all
 */
export function paintPicture(
  target: Raster,
  source: Raster,
  toSource: Affine,
  polygon: readonly Point[],
  opacity: number,
  columns: { readonly from: number; readonly to: number } = { from: target.x, to: target.x + target.width },
): void {
  const coverage = new Coverage(polygon, target.x, target.width);
  const { bounds } = coverage;
  const left = Math.max(target.x, columns.from, Math.floor(bounds.x));
  const right = Math.min(target.x + target.width, columns.to, Math.ceil(bounds.x + bounds.width));
  const bottom = Math.min(target.y + target.height, Math.ceil(bounds.y + bounds.height));
  const [a, b, c, d, e, f] = toSource;
  const sample = new Float64Array(4);
  for (let y = Math.max(target.y, Math.floor(bounds.y)); y < bottom; y += 1) {
    const shares = coverage.row(y);
    if (!shares) continue;
    let to = ((y - target.y) * target.width + left - target.x) * 4;
    for (let x = left; x < right; x += 1, to += 4) {
      const share = shares[x - target.x]! * opacity;
      if (share <= 0) continue;
      const u = a * (x + 0.5) + c * (y + 0.5) + e - 0.5 - source.x;
      const v = b * (x + 0.5) + d * (y + 0.5) + f - 0.5 - source.y;
      sampleAt(source, u, v, sample);
      const alpha = sample[3]!;
      if (alpha > 0) blendPixel(target.data, to, sample[0]!, sample[1]!, sample[2]!, share * (alpha / 255));
    }
  }
}

/** The colour between pixels, weighted by alpha; beyond the edge that of the edge. `u`, `v` count from the middle of the first pixel. */
function sampleAt({ width, height, data }: Raster, u: number, v: number, into: Float64Array): void {
  const x = Math.min(width - 1, Math.max(0, u));
  const y = Math.min(height - 1, Math.max(0, v));
  const column = Math.min(width - 1, Math.floor(x + NEAR));
  const row = Math.min(height - 1, Math.floor(y + NEAR));
  const right = x - column < NEAR ? 0 : x - column;
  const down = y - row < NEAR ? 0 : y - row;
  const at = (row * width + column) * 4;
  if (right === 0 && down === 0) {
    for (let part = 0; part < 4; part += 1) into[part] = data[at + part]!;
    return;
  }
  const [nextColumn, nextRow] = [right > 0 ? 4 : 0, down > 0 ? width * 4 : 0];
  let [red, green, blue, alpha] = [0, 0, 0, 0];
  const add = (from: number, weight: number) => {
    if (weight === 0) return;
    const solid = weight * data[from + 3]!;
    red += solid * data[from]!;
    green += solid * data[from + 1]!;
    blue += solid * data[from + 2]!;
    alpha += solid;
  };
  add(at, (1 - right) * (1 - down));
  add(at + nextColumn, right * (1 - down));
  add(at + nextRow, (1 - right) * down);
  add(at + nextColumn + nextRow, right * down);
  into[0] = alpha > 0 ? red / alpha : 0;
  into[1] = alpha > 0 ? green / alpha : 0;
  into[2] = alpha > 0 ? blue / alpha : 0;
  into[3] = alpha;
}
