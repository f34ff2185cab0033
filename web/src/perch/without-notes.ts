import type { Item } from '@miradero/core/schema';
import type { BoardOnStage } from '../stage/index.ts';

const HIDDEN = new Set(['note']);

/** A board as it is seen where its notes are hidden. It is made anew by whoever hides them, and follows the board from then. */
export function withoutNotes(board: BoardOnStage): BoardOnStage {
  const isShown = (id: string) => !HIDDEN.has(board.items.get(id)?.kind ?? '');
  let items: ReadonlyMap<string, Item> | undefined;
  return {
    get items() {
      items ??= new Map([...board.items].filter(([id]) => isShown(id)));
      return items;
    },
    shown: (id) => (isShown(id) ? board.shown(id) : undefined),
    get previewed() {
      return board.previewed.filter(isShown);
    },
    onAltered: (listener) =>
      board.onAltered((touched) => {
        items = undefined;
        listener(touched);
      }),
    onPreview: (listener) => board.onPreview(listener),
  };
}
