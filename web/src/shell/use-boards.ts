import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { ask } from '../sync/index.ts';
import { useSync } from './sync-context.tsx';

export const BOARDS = ['boards'];
/** News after which the list may be another one. */
const TELLING = new Set(['board-facts', 'hello', 'compare']);

/** Every board of the owner, asked for again at news. */
export function useBoards() {
  const queries = useQueryClient();
  const { channel } = useSync();
  useEffect(
    () =>
      channel.subscribe((message) => {
        // Not at every change: a board's facts are told when the hand rests.
        if (message.kind === 'event' && TELLING.has(message.event.kind)) {
          void queries.invalidateQueries({ queryKey: BOARDS });
        }
      }),
    [channel, queries],
  );
  return useQuery({
    queryKey: BOARDS,
    queryFn: () => ask('GET /api/boards').then(({ boards }) => boards),
  });
}
