import type { Board } from '@miradero/core/schema';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { askServer } from '../sync/index.ts';
import { useSync } from './sync-context.tsx';

export const BOARDS = ['boards'];

/** Every board of the owner, asked for again at news. */
export function useBoards() {
  const queries = useQueryClient();
  const { channel } = useSync();
  useEffect(
    () =>
      channel.subscribe((message) => {
        if (message.kind === 'event' && message.event.kind !== 'picture') {
          void queries.invalidateQueries({ queryKey: BOARDS });
        }
      }),
    [channel, queries],
  );
  return useQuery({
    queryKey: BOARDS,
    queryFn: () => askServer<{ boards: Board[] }>('/api/boards').then(({ boards }) => boards),
  });
}
