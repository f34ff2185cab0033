import { boardAfter, boundsOfItems, fitToContent, group, isStanding, keysOnTop } from '../board/index.ts';
import { addPoints, unionOf } from '../geometry/index.ts';
import { bringBackBoard } from '../history/index.ts';
import {
  createNote,
  heightOf,
  type Item,
  isPlacement,
  noteHeightFor,
  type Placement,
} from '../items/index.ts';
import { idWithin } from '../picture/index.ts';
import type { Operation } from '../schema/index.ts';

/** What somebody who looked at a board by a link said of it. */
export interface GuestSaid {
  /** Of the guest; UUID. */
  readonly id: string;
  readonly name: string;
  /** By the item. */
  readonly choices: ReadonlyMap<string, 'yes' | 'no'>;
  /** `item`: null for the board as a whole. Oldest first. */
  readonly remarks: readonly { readonly id: string; readonly item: string | null; readonly text: string }[];
}

/** Between what is chosen, and around it; of the height of a row. */
const GAP = 0.06;
/** Width of the rows by the height of one. */
const ROW = 5;
/** Of a remark under a picture, by the height of a row. */
const NOTE_WIDTH = 0.9;
const USUAL_HEIGHT = 200;
/** Board units a letter of a remark is high, by the height of a row. */
const NOTE_SCALE = 1 / 220;

interface Placed {
  readonly items: readonly Item[];
  readonly bottom: number;
}

/** Pictures in rows of one height, each with what was said of it below. */
function rowsOf(
  chosen: readonly Placement[],
  said: GuestSaid,
  { x, y, height }: { readonly x: number; readonly y: number; readonly height: number },
  stacks: Iterator<string>,
): Placed {
  const gap = GAP * height;
  const items: Item[] = [];
  let [left, top, bottom] = [x, y, y];
  for (const placement of chosen) {
    const width = (placement.width * height) / heightOf(placement);
    if (left > x && left + width > x + ROW * height) [left, top] = [x, bottom + gap];
    const copy: Placement = {
      ...placement,
      ...{ id: idWithin(said.id, placement.id), stack: stacks.next().value as string },
      ...{ centre: { x: left + width / 2, y: top + height / 2 }, width, turn: 0, opacity: 1 },
      ...{ removed: false, isFixed: false, cluster: null },
    };
    items.push(copy);
    let under = top + height;
    for (const remark of said.remarks.filter(({ item }) => item === placement.id)) {
      const note = remarkAt(
        remark,
        said,
        { x: left, y: under + gap / 2, width: Math.max(width, NOTE_WIDTH * height), height },
        stacks,
      );
      items.push(note);
      under += gap / 2 + note.height;
    }
    bottom = Math.max(bottom, under);
    left += Math.max(width, under > top + height ? NOTE_WIDTH * height : 0) + gap;
  }
  return { items, bottom };
}

function remarkAt(
  { id, text }: GuestSaid['remarks'][number],
  said: GuestSaid,
  at: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  stacks: Iterator<string>,
) {
  const scale = at.height * NOTE_SCALE;
  const height = noteHeightFor(text, { width: at.width, scale });
  return createNote({
    ...{ id: idWithin(said.id, `remark ${id}`), stack: stacks.next().value as string, text, scale },
    ...{ centre: { x: at.x + at.width / 2, y: at.y + height / 2 }, width: at.width, height },
  });
}

/** Thousandths of a board unit are not seen. */
const rounded = (length: number): number => Math.round(length * 1_000) / 1_000;

const middleOf = (all: readonly number[]): number =>
  [...all].sort((a, b) => a - b)[all.length >> 1] ?? USUAL_HEIGHT;

/**
 * Lays what a guest said onto the board, to build on: one cluster of what they said yes to and one of what they said no to, of
 * copies with their remarks below, right of everything else; what they said of the board as a whole stands in the first. Said
 * again, it takes the place of what it was.
 *
 * @returns the change; no operations where nothing was said
 */
export function choicesOnBoard(board: ReadonlyMap<string, Item>, said: GuestSaid): Operation[] {
  const clusterOf = { yes: idWithin(said.id, 'yes'), no: idWithin(said.id, 'no') };
  // Everything that came of an earlier saying goes; what is said again comes under the same ids.
  const own = new Set([
    ...[...board.keys()].map((id) => idWithin(said.id, id)),
    ...said.remarks.map(({ id }) => idWithin(said.id, `remark ${id}`)),
    ...Object.values(clusterOf),
  ]);
  const others = new Map([...board].filter(([id]) => !own.has(id)));
  const standing = [...others.values()].filter(isStanding);
  const placements = standing.filter(isPlacement);
  const height = middleOf(placements.map(heightOf));
  const extent = unionOf(standing.map((item) => boundsOfItems([item]))) ?? {
    x: 0,
    y: 0,
    width: 0,
    height: 0,
  };
  const before = board.get(clusterOf.yes) ?? board.get(clusterOf.no);
  const isThere = before !== undefined && !before.removed;
  const corner = isThere
    ? { x: before.centre.x - before.width / 2, y: before.centre.y - heightOf(before) / 2 }
    : { x: extent.x + extent.width + height / 2, y: extent.y };
  // Where it begins is found again from where it stands, whatever sums did to the last bits: said again it alters nothing.
  const origin = { x: rounded(corner.x), y: rounded(corner.y) };
  const stacks = keysOnTop(others.values(), 2 * placements.length + said.remarks.length + 2)[
    Symbol.iterator
  ]();
  let now = new Map(others);
  let top = origin.y;
  const general = said.remarks.filter(({ item }) => item === null || !others.has(item));
  for (const choice of ['yes', 'no'] as const) {
    const chosen = placements.filter(({ id }) => said.choices.get(id) === choice);
    // A remark on something that was laid on neither stands with what was liked.
    const alone =
      choice === 'yes'
        ? placements.filter(({ id }) => !said.choices.has(id) && said.remarks.some(({ item }) => item === id))
        : [];
    const placed = rowsOf([...chosen, ...alone], said, { x: origin.x, y: top, height }, stacks);
    const notes: Item[] = [];
    let under = placed.bottom === top ? top : placed.bottom + GAP * height;
    for (const remark of choice === 'yes' ? general : []) {
      const note = remarkAt(remark, said, { x: origin.x, y: under, width: 2 * height, height }, stacks);
      notes.push(note);
      under += note.height + (GAP * height) / 2;
    }
    const members = [...placed.items, ...notes];
    if (members.length === 0) continue;
    now = boardAfter(
      now,
      members.map((create) => ({ create })),
    );
    const id = clusterOf[choice];
    const title = choice === 'yes' ? `${said.name}: yes` : `${said.name}: no`;
    now = boardAfter(now, [
      ...group(now, members, id),
      { item: id, set: { title, tint: choice === 'yes' ? 'reed' : 'sand' } },
    ]);
    now = boardAfter(now, fitToContent(now, [now.get(id)!]));
    // Its title stands above what lies in it: the cluster begins where that was to begin.
    const bounds = boundsOfItems([now.get(id)!]);
    const by = { x: origin.x - bounds.x, y: top - bounds.y };
    now = boardAfter(
      now,
      [id, ...members.map((one) => one.id)].map((item) => ({
        item,
        set: { centre: addPoints(now.get(item)!.centre, by) },
      })),
    );
    top += bounds.height + height / 4;
  }
  return bringBackBoard(board, now);
}
