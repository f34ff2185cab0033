import {
  hexToOklab,
  histogramOf,
  linearToOklab,
  oklabToHex,
  PALETTE_SIZES,
  paletteOfHistogram,
} from '../colour/index.ts';
import { lookUpAsMet } from './by-table.ts';
import { LINEAR, type Pixels } from './pixels.ts';

/** So many pixels tell what colours there are, spread over all. */
const ASKED = 200_000;

function somePixels(data: Uint8ClampedArray): Uint8ClampedArray {
  const count = data.length / 4;
  const every = Math.floor(count / ASKED);
  if (every <= 1) return data;
  const some = new Uint8ClampedArray(Math.ceil(count / every) * 4);
  for (let pixel = 0, to = 0; pixel < count; pixel += every, to += 4)
    for (let part = 0; part < 4; part += 1) some[to + part] = data[pixel * 4 + part]!;
  return some;
}

/** Every pixel in the nearest of a few colours: those of the palette of what is seen. */
export function posterise(pixels: Pixels, count: number): void {
  const wanted = Math.round(Math.min(PALETTE_SIZES.most, Math.max(PALETTE_SIZES.least, count)));
  const swatches = paletteOfHistogram(histogramOf(somePixels(pixels.data)), { count: wanted }).map(
    (swatch) => {
      const hex = oklabToHex(swatch);
      const code = Number.parseInt(hex.slice(1), 16);
      return { ...hexToOklab(hex), packed: (code >>> 16) | (code & 0xff00) | ((code & 0xff) << 16) };
    },
  );
  if (swatches.length === 0) return;
  lookUpAsMet(pixels, (red, green, blue) => {
    const { l, a, b } = linearToOklab({ r: LINEAR[red]!, g: LINEAR[green]!, b: LINEAR[blue]! });
    let best = swatches[0]!;
    let least = Number.POSITIVE_INFINITY;
    for (const swatch of swatches) {
      const apart = (swatch.l - l) ** 2 + (swatch.a - a) ** 2 + (swatch.b - b) ** 2;
      if (apart < least) {
        least = apart;
        best = swatch;
      }
    }
    return best.packed;
  });
}
