import { applyChange, type BoardState } from '../board/index.ts';
import { UPRIGHT } from '../items/index.ts';
import type { Change, Item, PastSegment } from '../schema/index.ts';

/** Items of the first boards knew neither turn nor opacity; the log still says so. */
const asOfToday = (item: Item): Item => ({ ...UPRIGHT, ...item });

/** Applies a change of the log, in place, as it would be made today. */
export function replay(state: Map<string, Item>, change: Change): void {
  for (const id of applyChange(state, change)) state.set(id, asOfToday(state.get(id)!));
}

/** @throws RangeError for a revision that is not in the segment */
export function stateAt({ base, until, items, changes }: PastSegment, revision: number): BoardState {
  if (revision < base || revision > until)
    throw new RangeError(`revision ${revision} is not between ${base} and ${until}`);
  const state = new Map(items.map((item) => [item.id, item]));
  for (const one of changes) {
    if (one.revision > revision) break;
    replay(state, one.change);
  }
  return state;
}

/** A state is kept after changes of so many bytes, even of a small board. */
export const LEAST_BYTES = 48 * 1024;
/** And of a larger one after those of this share of its size: what is read to show any state stays within 1.25 of it. */
const SHARE = 0.25;

/**
 * Whether a state is to be kept, so that later ones need not be put together from more than this.
 *
 * @param bytesSince - size of the changes since the last state that is kept
 * @param stateBytes - size of that state
 */
export const isStateDue = (bytesSince: number, stateBytes: number): boolean =>
  bytesSince >= Math.max(LEAST_BYTES, SHARE * stateBytes);
