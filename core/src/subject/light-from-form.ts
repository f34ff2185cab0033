import { estimateLight, LEAST_FIT, turnedAs, vectorOf } from '../light/index.ts';
import type { SmallPixels } from '../picture/index.ts';
import type { Region } from '../schema/index.ts';

/** The light on a round form, as far as its shading tells. */
export interface FormLight {
  /** Degrees as in `View`: 0 from behind the viewer, 90 from their right, 180 from behind the form. */
  readonly azimuthDeg: number;
  readonly elevationDeg: number;
  /** 0..1: how much of the shading such a light explains. */
  readonly fit: number;
}
export { LEAST_FIT };

/** Of fewer pixels shading tells nothing. */
const LEAST_PIXELS = 60;

/** The ellipse that fills a region, as a byte a pixel. */
function maskOf({ width, height }: SmallPixels, region: Region): Uint8Array {
  const [cx, cy] = [(region.x + region.width / 2) * width, (region.y + region.height / 2) * height];
  const [rx, ry] = [(region.width / 2) * width, (region.height / 2) * height];
  const mask = new Uint8Array(width * height);
  for (let y = Math.max(0, Math.floor(cy - ry)); y < Math.min(height, cy + ry); y += 1)
    for (let x = Math.max(0, Math.floor(cx - rx)); x < Math.min(width, cx + rx); x += 1)
      if (Math.hypot((x + 0.5 - cx) / rx, (y + 0.5 - cy) / ry) <= 1) mask[y * width + x] = 1;
  return mask;
}

/**
 * Direction of the one light on a round, evenly coloured form that was marked, as `estimateLight` finds it.
 *
 * @param region - bounds of the round form in the picture
 * @returns undefined where shading does not explain it well enough: nothing is better than a guess
 */
export function lightFromForm(pixels: SmallPixels, region: Region): FormLight | undefined {
  const turned = turnedAs(pixels.data, maskOf(pixels, region), pixels.width);
  if (!turned || turned.pixels.length < LEAST_PIXELS) return undefined;
  const found = estimateLight(turned);
  if (!found) return undefined;
  const [x, down, z] = vectorOf(found);
  const deg = (radians: number) => (radians * 180) / Math.PI;
  return { azimuthDeg: deg(Math.atan2(x, z)), elevationDeg: deg(Math.asin(-down)), fit: found.fit };
}
