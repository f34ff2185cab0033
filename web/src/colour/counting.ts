import { takenOut } from '@miradero/core/board';
import {
  type ColourHistogram,
  colourWords,
  hexToOklab,
  histogramOfBytes,
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
import { needsTiles } from '@miradero/core/picture';
import { MOST_HISTOGRAMS } from '@miradero/core/schema';
import { type Desk, sourcesOf } from '../desk/index.ts';
import { ORIGINAL, pixelPool } from '../pixels/index.ts';
import { ask } from '../sync/index.ts';

/** What a palette is made of: see the item. */
export type MadeOf = NonNullable<PaletteItem['madeOf']>;

/** Of so many pictures, or parts, every pixel is counted here; of more, those of a smaller copy. */
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

const isWholePicture = ({ placement: { trim } }: Once): boolean =>
  trim.x === 0 && trim.y === 0 && trim.width === 1 && trim.height === 1;

/**
 * What the server counted of whole pictures, every pixel of them: asked for where many are counted together, and of those
 * that no browser decodes whole. Nothing where it is away: they are counted here.
 */
async function keptHistograms(
  shown: readonly Once[],
  signal: AbortSignal,
): Promise<Map<string, ColourHistogram>> {
  const isMany = shown.length > MOST_WHOLE;
  const wanted = shown.filter(
    (one) =>
      isWholePicture(one) && (isMany || needsTiles(one.placement.pictureWidth, one.placement.pictureHeight)),
  );
  const found = new Map<string, ColourHistogram>();
  for (let from = 0; from < wanted.length; from += MOST_HISTOGRAMS) {
    const pictures = wanted.slice(from, from + MOST_HISTOGRAMS).map(({ placement }) => placement.picture);
    const answer = await ask('POST /api/colours/histograms', { body: { pictures } }, signal).catch(
      (error) => {
        if (signal.aborted) throw error;
        return { histograms: [] };
      },
    );
    for (const { picture, cells } of answer.histograms)
      found.set(picture, histogramOfBytes(Uint8Array.from(atob(cells), (letter) => letter.charCodeAt(0))));
  }
  return found;
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
  const kept = outline ? new Map<string, ColourHistogram>() : await keptHistograms(shown, signal);
  const keptOf = (one: Once) => (isWholePicture(one) ? kept.get(one.placement.picture) : undefined);
  const isWhole = shown.filter((one) => !keptOf(one)).length <= MOST_WHOLE;
  const line = outline?.map(([x = 0, y = 0]) => ({ x, y }));
  const parts: { histogram: ColourHistogram; weight: number }[] = [];
  let done = 0;
  let missing = 0;
  let smallest = true;
  const count = async (one: Once) => {
    const { placement, area, times } = one;
    const source = sources.source(placement.picture);
    try {
      if (!source) throw new Error('not here');
      const counted = keptOf(one);
      if (counted) {
        parts.push({ histogram: counted, weight: area });
        return;
      }
      const request = { source, part: placement.trim, outline: line, side: isWhole ? ORIGINAL : COPY_SIDE };
      const read = await pixelPool().ask('histogram', request, { signal });
      smallest &&= read.side >= Math.max(source.width, source.height);
      parts.push({ histogram: read, weight: area });
    } catch (error) {
      if (signal.aborted) throw error;
      missing += times;
    } finally {
      done += times;
      onProgress?.(done);
    }
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
