import { type TakenOut, takenOut } from '@miradero/core/board';
import { isPlacement } from '@miradero/core/items';
import { finestSide } from '@miradero/core/raster';
import type { CreateExport, Export } from '@miradero/core/schema';
import { whyOf } from '@miradero/core/text';
import type { Desk } from '../desk/index.ts';
import { exportingOf, pathOfExport, StoppedError } from './exporting.ts';

/** A picture on the clipboard has so long a side at most, pixels: other programs take it into memory whole. */
const MOST_COPIED_SIDE = 8_000;

/** What keys act on, to be taken out; where that is nothing, and `orAll`, the whole board. */
export interface Chosen extends TakenOut {
  readonly ids: readonly string[] | null;
}

export function chosenOn(desk: Desk, orAll: boolean): Chosen | undefined {
  const targets = desk.targets.map(({ id }) => id);
  if (targets.length === 0 && !orAll) return undefined;
  const ids = targets.length > 0 ? targets : null;
  const taken = takenOut(desk.session.items, ids);
  return taken && { ...taken, ids };
}

const NOTHING = 'There is nothing to take out: no picture is on this board.';

/** Says what kept something from being taken out, unless the person stopped it. */
export function sayWhy(desk: Desk, error: unknown): void {
  if (error instanceof StoppedError) return;
  exportingOf(desk.sync).fail(whyOf(error));
}

/** Hands a file to the browser, which keeps it where downloads lie. */
function download({ id, name }: Pick<Export, 'id' | 'name'>): void {
  const link = document.createElement('a');
  link.href = pathOfExport(id);
  link.download = name;
  link.click();
}

const withoutWords = (missing: number): string[] =>
  missing === 0
    ? []
    : [`Without ${missing === 1 ? 'one picture' : `${missing} pictures`} whose pixels are not here.`];

/** Takes something out as a file of the browser's downloads. */
export async function saveAs(desk: Desk, request: Omit<CreateExport, 'id'>): Promise<void> {
  try {
    const made = await exportingOf(desk.sync).take({ board: desk.session.id, request });
    download(made);
    desk.say(`Saved as “${made.name}”.`, withoutWords(made.missing));
  } catch (error) {
    sayWhy(desk, error);
  }
}

/** Saves every picture among what is chosen as a file of its own, several in a ZIP. */
export function saveFiles(desk: Desk): void {
  const chosen = chosenOn(desk, true);
  if (!chosen?.items.some(isPlacement)) desk.say(NOTHING);
  else
    void saveAs(desk, {
      ...{ items: chosen.ids && [...chosen.ids], as: 'each', type: 'image/png', side: null },
      ground: 'clear',
    });
}

/**
 * Puts what keys act on on the clipboard as one picture, as it stands: trimmed, mirrored, turned.
 *
 * @param withoutMarks - what hands drew is left out
 */
export async function copyAsPicture(desk: Desk, withoutMarks = desk.feed.areMarksHidden): Promise<void> {
  const chosen = chosenOn(desk, false);
  if (!chosen) {
    desk.say('Nothing to copy as a picture.', ['Select something first, or point at it.']);
    return;
  }
  const side = Math.min(MOST_COPIED_SIDE, finestSide(chosen.region, chosen.items));
  const exporting = exportingOf(desk.sync);
  let made: Export | undefined;
  const bytes = async () => {
    made = await exporting.take({
      board: desk.session.id,
      request: {
        ...{ items: chosen.ids && [...chosen.ids], as: 'flat', type: 'image/png', side, ground: 'clear' },
        ...(withoutMarks && { withoutMarks }),
      },
    });
    const answer = await fetch(pathOfExport(made.id));
    if (!answer.ok) throw new Error('It could not be fetched from the server.');
    return answer.blob();
  };
  // What kept it from being made is said; the clipboard only says that nothing came.
  let trouble: unknown;
  const png = bytes().catch((error: unknown) => {
    trouble = error;
    throw error;
  });
  try {
    await navigator.clipboard.write([new ClipboardItem({ 'image/png': png })]);
    desk.say(
      `On the clipboard as a picture of ${made!.width!.toLocaleString('en')} × ${made!.height!.toLocaleString('en')}\u2009px.`,
      withoutWords(made!.missing),
    );
  } catch (error) {
    if (trouble === undefined)
      desk.say('The browser does not let pictures be put on the clipboard.', [
        'Save it as a picture instead.',
      ]);
    else sayWhy(desk, trouble ?? error);
  }
}
