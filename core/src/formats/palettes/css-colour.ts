import { converter, parse } from 'culori';
import { hexOfRgb } from '../../colour/index.ts';

const toRgb = converter('rgb');

/** A colour as CSS writes it; undefined for what is none: of some of that (“/0a”) the library throws. */
function colourIn(text: string): ReturnType<typeof parse> {
  try {
    return parse(text);
  } catch {
    return undefined;
  }
}

/**
 * `#rrggbb` of a colour as CSS writes it (Color Module Level 4: names, hex, rgb(), hsl(), hwb(), lab(), lch(), oklab(),
 * oklch(), color()); what sRGB cannot show is cut off.
 *
 * @returns undefined for what is no colour, or one that lets everything through
 */
export function hexOfCss(text: string): string | undefined {
  const colour = colourIn(text.trim().slice(0, 200));
  if (!colour || (colour.alpha ?? 1) === 0) return undefined;
  const { r, g, b } = toRgb(colour);
  return [r, g, b].every(Number.isFinite) ? hexOfRgb({ r, g, b }) : undefined;
}
