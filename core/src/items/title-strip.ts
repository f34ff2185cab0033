import type { Rectangle } from '../geometry/index.ts';
import { firstLines } from '../typesetting/index.ts';
import type { Primitive } from './primitives.ts';

/** The strip of a title, by its type. */
export const STRIP = { lineHeight: 1.4, padding: 0.3 } as const;

export const TITLE_INK = '#1d1d1b';

/** How high the strip is on which a title stands, board units. */
export const stripHeight = ({ titleSize }: { readonly titleSize: number }): number =>
  titleSize * (STRIP.lineHeight + 2 * STRIP.padding);

/** A title on one line in a place; what does not fit is left out, and it says so. Own frame. */
export function titleRun(title: string, fontSize: number, place: Rectangle, padding: number): Primitive[] {
  if (title.trim() === '') return [];
  // Set at one size and scaled: what is broken once stands at every size.
  const scale = fontSize / 16;
  const width = Math.max(1, Math.floor((place.width - 2 * padding) / scale));
  const text = firstLines(title, { fontSize: 16, lineHeight: 16 * STRIP.lineHeight, width }, 1);
  return [
    {
      ...({ kind: 'text', text, scale, colour: TITLE_INK, clip: place } as const),
      at: { x: place.x + padding, y: place.y + (place.height - text.height * scale) / 2 },
    },
  ];
}
