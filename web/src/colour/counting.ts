import { takenOut } from '@miradero/core/board';
import {
  type ColourHistogram,
  colourWords,
  hexToOklab,
  mergedHistogram,
  oklabToHex,
  paletteOfHistogram,
} from '@miradero/core/colour';
import {
  heightOf,
  isPlacement,
  type KeptSwatch,
  type PaletteItem,
  type Placement,
} from '@miradero/core/items';
import { type Desk, sourcesOf } from '../desk/index.ts';
import { ORIGINAL, pixelPool } from '../pixels/index.ts';

/** What a palette is made of: see the item. */
export type MadeOf = NonNullable<PaletteItem['madeOf']>;

/** Of so many pictures every pixel is counted; of more, those of a smaller copy. */
const MOST_WHOLE = 12;
const COPY_SIDE = 512;

/** What was counted of some pictures. */
export interface Counted {
  readonly histogram: ColourHistogram;
  /** Every pixel of every picture was counted. */
  readonly isWhole: boolean;
  /** Pictures whose pixels could not be had. */
  readonly missing: number;
}

/** The placed pictures that are meant, each with the area that it shows on the board. */
export function picturesMeant(desk: Desk, items: readonly string[]): Placement[] {
  const taken = takenOut(desk.session.items, items.length > 0 ? items : null);
  return (taken?.items ?? []).filter(isPlacement);
}

/** A part of a picture, however often it stands on the board. */
interface Once {
  readonly placement: Placement;
  /** Of all of them together, board units squared. */
  readonly area: number;
  readonly times: number;
}

/** The same part of the same picture is counted once, and weighs by the area of all that show it. */
function onceEach(placements: readonly Placement[]): Once[] {
  const known = new Map<string, Once>();
  for (const placement of placements) {
    const key = JSON.stringify([placement.picture, placement.trim]);
    const area = placement.width * heightOf(placement);
    const one = known.get(key) ?? { placement, area: 0, times: 0 };
    known.set(key, { ...one, area: one.area + area, times: one.times + 1 });
  }
  return [...known.values()];
}

/**
 * Counts the colours of placed pictures, each weighing by its area on the board.
 *
 * @param onProgress - so many pictures are counted
 */
export async function countColours(
  desk: Desk,
  placements: readonly Placement[],
  outline: readonly (readonly number[])[] | null,
  { signal, onProgress }: { signal: AbortSignal; onProgress?: (done: number) => void },
): Promise<Counted> {
  const sources = sourcesOf(desk.sync.shelf);
  const shown = onceEach(placements);
  const isWhole = shown.length <= MOST_WHOLE;
  const line = outline?.map(([x = 0, y = 0]) => ({ x, y }));
  const parts: { histogram: ColourHistogram; weight: number }[] = [];
  let done = 0;
  let missing = 0;
  let smallest = true;
  const count = async ({ placement, area, times }: Once) => {
    const source = sources.source(placement.picture);
    try {
      if (!source) throw new Error('not here');
      const request = { source, part: placement.trim, outline: line, side: isWhole ? ORIGINAL : COPY_SIDE };
      const read = await pixelPool().ask('histogram', request, { signal });
      smallest &&= read.side >= Math.max(source.width, source.height);
      parts.push({ histogram: read, weight: area });
    } catch (error) {
      if (signal.aborted) throw error;
      missing += times;
    }
    done += times;
    onProgress?.(done);
  };
  // As many at once as there are workers that count.
  const waiting = [...shown];
  const work = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await count(next);
  };
  await Promise.all([work(), work()]);
  return { histogram: mergedHistogram(parts), isWhole: isWhole && smallest, missing };
}

/** The colours of what was counted, each with its words; what is locked stays as it is. */
export function swatchesOf(
  { histogram }: Counted,
  {
    count,
    accent,
    swatches,
  }: Pick<PaletteItem, 'count' | 'accent'> & { readonly swatches: readonly KeptSwatch[] },
): KeptSwatch[] {
  const locked = swatches.filter(({ isLocked }) => isLocked);
  const made = paletteOfHistogram(histogram, {
    ...{ count, accent },
    locked: locked.map(({ hex }) => hexToOklab(hex)),
  });
  return made.map((swatch, index): KeptSwatch => {
    const known = locked[index];
    if (known) return { ...known, share: swatch.share };
    return { hex: oklabToHex(swatch), share: swatch.share, name: colourWords(swatch), isLocked: false };
  });
}
