import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useSync } from '../../shell/index.ts';
import { ask } from '../../sync/index.ts';

export const LANDING = ['landing'] as const;
/** News of many pictures come together; one question answers them. */
const GATHER_MS = 150;
const MOST = 500;

/** What came in and stands nowhere, newest first; asked again at news of pictures and boards. */
export function useLanding() {
  const queries = useQueryClient();
  const { channel } = useSync();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const unsubscribe = channel.subscribe((message) => {
      const isNews =
        message.kind === 'outcomes' ||
        (message.kind === 'event' && ['picture', 'board', 'hello', 'compare'].includes(message.event.kind));
      if (!isNews) return;
      timer ??= setTimeout(() => {
        timer = undefined;
        void queries.invalidateQueries({ queryKey: LANDING });
      }, GATHER_MS);
    });
    return () => {
      clearTimeout(timer);
      unsubscribe();
    };
  }, [channel, queries]);
  return useQuery({
    queryKey: LANDING,
    queryFn: async () => (await ask('GET /api/pictures', { query: { landing: true, limit: MOST } })).pictures,
  });
}
