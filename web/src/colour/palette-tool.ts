import { boundsOf, keysOnTop } from '@miradero/core/board';
import { colourWords, hexToOklab, mergedPalette, oklabToHex, PALETTE_SIZES } from '@miradero/core/colour';
import {
  type HandedPalette,
  PaletteFileError,
  readPaletteFile,
  sheetToPalette,
} from '@miradero/core/formats';
import {
  createPalette,
  heightOf,
  type Item,
  isPalette,
  type KeptSwatch,
  MOST_SOURCES,
  PALETTE_STRIP,
  type PaletteItem,
  type Placement,
} from '@miradero/core/items';
import type { Desk, Tool } from '../desk/index.ts';
import { LOOK } from '../tools/index.ts';
import { type NamedPalette, openColourSheet } from './colour-sheets.ts';
import { countColours, type MadeOf, picturesMeant, swatchesOf } from './counting.ts';
import { standingBelow } from './standing-below.ts';

const WIDTH = { least: 180, most: 900 } as const;
const ASPECT = PALETTE_STRIP.width / (PALETTE_STRIP.patches + PALETTE_STRIP.title);
/** As wide as what it is of, within bounds. */
const widthFor = (width: number): number => Math.min(WIDTH.most, Math.max(WIDTH.least, width));

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
    stand(desk, placements, {
      ...wish,
      swatches,
      madeOf: of,
      title: titleOf(desk, placements, of).slice(0, 200),
    });
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

/** Palettes that are selected as one, which stands below them. */
export function mergePalettes(desk: Desk): void {
  const palettes = desk.targets.filter(isPalette);
  if (palettes.length < 2) {
    desk.say('Two palettes are merged: select them first.');
    return;
  }
  const colours = ({ swatches }: PaletteItem) =>
    swatches.map(({ hex, share }) => ({ ...hexToOklab(hex), share }));
  const merged = palettes
    .slice(1)
    .reduce((all, palette) => mergedPalette(all, colours(palette)), colours(palettes[0]!))
    .slice(0, PALETTE_SIZES.most);
  const named = new Map(palettes.flatMap(({ swatches }) => swatches.map(({ hex, name }) => [hex, name])));
  const swatches = merged.map((swatch): KeptSwatch => {
    const hex = oklabToHex(swatch);
    return { hex, share: swatch.share, name: named.get(hex) ?? colourWords(swatch), isLocked: false };
  });
  stand(desk, palettes, {
    swatches,
    title: palettes
      .map(({ title }) => title || 'Palette')
      .join(' and ')
      .slice(0, 200),
    count: Math.max(PALETTE_SIZES.least, swatches.length),
  });
}

/** A palette of the shelf comes onto the board. */
export function standPalette(desk: Desk, { title, swatches }: NamedPalette): void {
  const count = Math.max(PALETTE_SIZES.least, swatches.length);
  const kept = swatches.map((swatch): KeptSwatch => ({ ...swatch, isLocked: false }));
  stand(desk, desk.session.standing, { swatches: kept, title, count });
}

/** The palettes that are selected, side by side. */
export function comparePalettes(desk: Desk): void {
  const [one, two] = desk.targets.filter(isPalette);
  if (one && two) openColourSheet({ kind: 'compared', desk, palettes: [one, two] });
  else desk.say('Two palettes are set side by side: select them first.');
}

/** A palette comes onto the board, in free space below something, and is looked at. */
function stand(
  desk: Desk,
  below: readonly Item[],
  made: Pick<PaletteItem, 'swatches' | 'title' | 'count'> & Partial<PaletteItem>,
): void {
  const create = createPalette({
    ...{ id: crypto.randomUUID(), stack: keysOnTop(desk.session.items.values(), 1)[0]! },
    ...standingBelow(desk, below, widthFor, ASPECT),
    ...made,
  });
  desk.session.commit([{ create }]);
  desk.select([create.id]);
  if (!desk.now.isLabelOpen) desk.toggleLabel();
  desk.view?.reveal({ ...boundsOf(create), height: heightOf(create) });
}

const MOST_BYTES = 2_000_000;

/** Reads a palette of a file; it comes onto the board. */
export async function bringPalette(desk: Desk): Promise<void> {
  const file = await chooseFile('.css,.json,.svg,.png,text/css,application/json,image/svg+xml,image/png');
  if (!file) return;
  try {
    if (file.size > MOST_BYTES * 10) throw new PaletteFileError('This file is too large for a palette.');
    const read = await paletteOfFile(file);
    const swatches = read.swatches.slice(0, PALETTE_SIZES.most).map(({ hex, share, name }): KeptSwatch => {
      const words = name || colourWords(hexToOklab(hex));
      return { hex, share, name: words, isLocked: false };
    });
    const standing = desk.session.standing;
    const count = Math.max(PALETTE_SIZES.least, swatches.length);
    stand(desk, standing, { swatches, title: read.name, count });
    if (read.swatches.length > swatches.length)
      desk.say(
        `A palette has ${PALETTE_SIZES.most} colours at most: ${read.swatches.length - swatches.length} were left out.`,
      );
  } catch (error) {
    desk.say(error instanceof PaletteFileError ? error.message : 'This file cannot be read as a palette.', [
      `“${file.name}” stays as it is.`,
    ]);
  }
}

async function paletteOfFile(file: File): Promise<HandedPalette> {
  if (!/\.png$/i.test(file.name) && file.type !== 'image/png') {
    if (file.size > MOST_BYTES) throw new PaletteFileError('This file is too large for a palette.');
    return readPaletteFile(file.name, await file.text());
  }
  const bitmap = await createImageBitmap(file);
  const { width } = bitmap;
  // A sheet is alike from top to bottom: its middle row tells it.
  const context = new OffscreenCanvas(width, 1).getContext('2d')!;
  context.drawImage(bitmap, 0, -Math.floor(bitmap.height / 2));
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, 1);
  return sheetToPalette(file.name.replace(/\.png$/i, ''), { width, height: 1, data });
}

/** Asks for one file. @returns undefined when the person left it */
function chooseFile(accept: string): Promise<File | undefined> {
  return new Promise((resolve) => {
    const input = document.createElement('input');
    Object.assign(input, { type: 'file', accept });
    input.addEventListener('change', () => resolve(input.files?.[0]));
    input.addEventListener('cancel', () => resolve(undefined));
    input.click();
  });
}
