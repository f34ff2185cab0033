import { boundsOf, freeCentre, keysOnTop } from '@miradero/core/board';
import { PALETTE_SIZES } from '@miradero/core/colour';
import { unionOf } from '@miradero/core/geometry';
import {
  createPalette,
  heightOf,
  type KeptSwatch,
  MOST_SOURCES,
  PALETTE_STRIP,
  type PaletteItem,
  type Placement,
} from '@miradero/core/items';
import type { Desk, Tool } from '../desk/index.ts';
import { LOOK } from '../tools/index.ts';
import { countColours, type MadeOf, picturesMeant, swatchesOf } from './counting.ts';

/** Space between a palette and what it is of, of the palette's width. */
const GAP = 0.06;
const WIDTH = { least: 180, most: 900 } as const;

/** Counts colours: as long as it is taken one can look around, and leaving it stops it. */
class Counting implements Tool {
  readonly id = 'count-colours';
  readonly press = LOOK.press;
  readonly ending = new AbortController();
  readonly #of: number;
  #done = 0;

  constructor(of: number) {
    this.#of = of;
  }

  tell(desk: Desk, done: number): void {
    this.#done = done;
    desk.retell();
  }
  offer = () => ({
    title: 'Palette',
    ids: ['escape'],
    hint: `${this.#done} of ${this.#of} ${this.#of === 1 ? 'picture' : 'pictures'} counted; leaving stops it.`,
  });
  leave(): void {
    this.ending.abort();
  }
}

/** What it is called: after its one picture, else after what it was made of. */
function titleOf(desk: Desk, placements: readonly Placement[], of: MadeOf): string {
  const [only, ...others] = placements;
  const name = only && others.length === 0 ? desk.sync.shelf.get(only.picture)?.name : undefined;
  if (name) return of.outline ? `part of ${name}` : name;
  return of.items.length === 0 ? desk.session.board.name : `${placements.length} pictures`;
}

/** In free space, as near to below what it is of as can be, and no wider than that. */
function standingBelow(desk: Desk, placements: readonly Placement[]): Pick<PaletteItem, 'centre' | 'width'> {
  const { x, y, width, height } = unionOf(placements.map(boundsOf))!;
  const wide = Math.min(WIDTH.most, Math.max(WIDTH.least, width));
  const high = (wide * (PALETTE_STRIP.patches + PALETTE_STRIP.title)) / PALETTE_STRIP.width;
  const below = { x: x + width / 2, y: y + height + wide * GAP + high / 2 };
  const standing = desk.session.standing.map(boundsOf);
  return { centre: freeCentre(below, { width: wide, height: high }, standing, desk.gap), width: wide };
}

/** Makes a palette of pictures; it comes onto the board beside them. */
async function makePalette(desk: Desk, of: MadeOf): Promise<void> {
  const placements = picturesMeant(desk, of.items);
  if (placements.length === 0) {
    desk.say('There is no picture here to make a palette of.', ['Select pictures, or bring some in.']);
    return;
  }
  const tool = new Counting(placements.length);
  const selection = [...desk.selection];
  desk.take(tool);
  try {
    const { signal } = tool.ending;
    const onProgress = (done: number) => tool.tell(desk, done);
    const counted = await countColours(desk, placements, of.outline, { signal, onProgress });
    if (desk.tool === tool) desk.leaveTool();
    const wish = { count: PALETTE_SIZES.usual, accent: 0 };
    const swatches = swatchesOf(counted, { ...wish, swatches: [] });
    if (swatches.length === 0) {
      desk.say('There is no colour to count: nothing opaque could be read.', missingWords(counted.missing));
      return;
    }
    const create = createPalette({
      ...{ id: crypto.randomUUID(), stack: keysOnTop(desk.session.items.values(), 1)[0]! },
      ...{ ...standingBelow(desk, placements), ...wish, swatches, madeOf: of },
      title: titleOf(desk, placements, of).slice(0, 200),
    });
    desk.session.commit([{ create }]);
    desk.select([create.id]);
    if (!desk.now.isLabelOpen) desk.toggleLabel();
    desk.view?.reveal({ ...boundsOf(create), height: heightOf(create) });
    if (!counted.isWhole || counted.missing > 0)
      desk.say(
        counted.isWhole
          ? 'The palette is made.'
          : 'The palette is made of smaller copies: there are many pictures.',
        missingWords(counted.missing),
      );
  } catch (error) {
    if (!tool.ending.signal.aborted) throw error;
    desk.select(selection);
  }
}

const missingWords = (missing: number): string[] =>
  missing === 0
    ? []
    : [`Of ${missing} ${missing === 1 ? 'picture' : 'pictures'} the pixels could not be had.`];

/** A palette of what is selected, or of the whole board. */
export function paletteHere(desk: Desk): void {
  const ids = desk.targets.map(({ id }) => id);
  void makePalette(desk, { items: ids.length > MOST_SOURCES ? [] : ids, outline: null });
}

/** A palette of what was drawn around on one picture. */
export function paletteOfPart(
  desk: Desk,
  placement: string,
  outline: readonly { x: number; y: number }[],
): void {
  const every = Math.ceil(outline.length / 400);
  const corners = outline.filter((_, index) => index % every === 0).map(({ x, y }) => [x, y]);
  void makePalette(desk, { items: [placement], outline: corners });
}

/** What was counted for a palette, as long as its window lives. */
const counts = new WeakMap<Desk, Map<string, ReturnType<typeof countColours>>>();

/** Makes a palette anew by what is set for it now; what is locked stays. @returns false where its pictures are gone */
export async function remake(
  desk: Desk,
  palette: PaletteItem,
  wish: Partial<Pick<PaletteItem, 'count' | 'accent'>> & { readonly swatches?: readonly KeptSwatch[] },
): Promise<boolean> {
  const { madeOf } = palette;
  const placements = madeOf ? picturesMeant(desk, madeOf.items) : [];
  if (!madeOf || placements.length === 0) return false;
  const known = counts.get(desk) ?? new Map<string, ReturnType<typeof countColours>>();
  counts.set(desk, known);
  const key = JSON.stringify([
    madeOf,
    placements.map(({ id, picture, trim, width }) => [id, picture, trim, width]),
  ]);
  const count = known.get(key) ?? countColours(desk, placements, madeOf.outline, new AbortController());
  known.set(key, count);
  count.catch(() => known.delete(key));
  const counted = await count;
  if (counted.missing === placements.length) {
    known.delete(key);
    return false;
  }
  const next = { count: palette.count, accent: palette.accent, swatches: palette.swatches, ...wish };
  const swatches = swatchesOf(counted, next);
  const { count: of, accent } = next;
  desk.session.commit([{ item: palette.id, set: { count: of, accent, swatches } }]);
  return true;
}
