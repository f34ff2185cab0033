import type { Board, PatchBoard } from '@miradero/core/schema';
import { cutText } from '@miradero/core/text';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, recordBoardMade, recordBoardPatch } from '../sync/index.ts';
import { askAgain, BOARDS } from './news.ts';
import { openBoards } from './open-boards.ts';
import { useSync } from './sync-context.tsx';

export interface BoardActions {
  readonly patch: (id: string, change: PatchBoard) => void;
  readonly duplicate: (board: Board) => void;
}

/** Altering boards from where they are listed; what the server refuses is said. */
export function useBoardActions(onPutAway: (id: string) => void = () => {}): {
  readonly actions: BoardActions;
  readonly trouble: string;
} {
  const queries = useQueryClient();
  const sync = useSync();
  const [trouble, setTrouble] = useState('');
  const settled = {
    onSuccess: () => setTrouble(''),
    onError: (failure: Error) => setTrouble(failure.message),
    onSettled: () => askAgain(queries, BOARDS),
  };
  const patch = useMutation({
    mutationFn: ({ id, change }: { id: string; change: PatchBoard }) =>
      ask('PATCH /api/boards/:id', { parameters: { id }, body: change }),
    ...settled,
    onSuccess: (_, { id, change }) => {
      setTrouble('');
      const board = queries.getQueryData<Board[]>(BOARDS)?.find((one) => one.id === id);
      if (board) recordBoardPatch(sync, board, change);
    },
  });
  const copy = useMutation({
    mutationFn: ({ id, name }: Board) =>
      ask('POST /api/boards/:id/copies', {
        parameters: { id },
        body: { name: `${cutText(name, 190)}, copy` },
      }),
    ...settled,
    onSuccess: ({ board }) => {
      setTrouble('');
      recordBoardMade(sync, board);
    },
  });
  const actions: BoardActions = {
    patch: (id, change) => {
      patch.mutate({ id, change });
      if (!('putAway' in change && change.putAway)) return;
      openBoards.close(id);
      onPutAway(id);
    },
    duplicate: (board) => copy.mutate(board),
  };
  return { actions, trouble };
}
