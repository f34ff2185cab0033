import type { Board, StandsOn } from '@miradero/core/schema';
import { useState } from 'react';
import { placeOnBoard } from '../../gather/index.ts';
import { useSync } from '../../shell/index.ts';
import { ask } from '../../sync/index.ts';
import type { Asked } from '../finding/library-query.ts';
import type { Selection } from '../finding/use-selection.ts';
import { bulkTeller } from './bulk-teller.ts';

/** A board on which something stands, and how often. */
type Standing = Omit<StandsOn, 'since'>;

export interface LibraryHand {
  /** Boards on which something stands that is to be put away; asked about before it is. */
  readonly sure: readonly Standing[] | undefined;
  leave(): void;
  place(board: Board, dragged: readonly string[]): void;
  /** Puts away what is selected, or brings it back where that is what is shown. */
  putAway(isSure?: boolean): Promise<void>;
}

/** What can be done with the pictures that are selected, beside saying something of them. */
export function useLibraryHand(asked: Asked, selection: Selection): LibraryHand {
  const sync = useSync();
  const [sure, setSure] = useState<readonly Standing[]>();
  const ids = selection.pictures.map(({ id }) => id);
  const place = (board: Board, dragged: readonly string[]) => {
    const wanted = dragged.length > 0 ? dragged : ids;
    const pictures = selection.pictures.filter(({ id }) => wanted.includes(id));
    if (pictures.length === 0) return;
    placeOnBoard(sync, board.id, pictures).then(
      () =>
        bulkTeller.say(
          `${pictures.length === 1 ? `“${pictures[0]!.name}” stands` : `${pictures.length} stand`} on ${board.name}.`,
        ),
      (error: Error) => bulkTeller.say(error.message),
    );
  };
  const putAway = async (isSure = false) => {
    if (ids.length === 0) return;
    if (asked.isPutAway) {
      await bulkTeller.tell(sync, { pictures: ids, isPutAway: false }, 'Brought back');
      selection.clear();
      return;
    }
    const { boards } = isSure
      ? { boards: [] }
      : await ask('POST /api/library/standing', { body: { pictures: ids } });
    if (boards.length > 0) {
      setSure(boards);
      return;
    }
    setSure(undefined);
    await bulkTeller.tell(sync, { pictures: ids, isPutAway: true }, 'Put away');
    selection.clear();
  };
  return { sure, leave: () => setSure(undefined), place, putAway };
}
