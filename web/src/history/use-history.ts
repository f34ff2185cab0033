import { HistoryLine } from '@miradero/core/history';
import type { History } from '@miradero/core/schema';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { useSync } from '../shell/index.ts';
import { ask } from '../sync/index.ts';
import { isPathOfName, ownNames, withOwnNames } from './named-states.ts';

const keyOf = (board: string) => ['history', board] as const;
/** A board that is being worked on elsewhere is told of now and then. */
const REST_MS = 500;

/** What was done to a board, with names of its states as they were given here. */
export interface KnownHistory {
  readonly line: HistoryLine;
  readonly named: History['named'];
}

/** Asks for a board's history, and again whenever something is told of it. @param enabled - not before: pictures come first */
export function useHistory(
  board: string,
  enabled: boolean,
): { history: KnownHistory | undefined; trouble: Error | null } {
  const sync = useSync();
  const queries = useQueryClient();
  const { data, error } = useQuery({
    queryKey: keyOf(board),
    queryFn: () => ask('GET /api/boards/:id/history', { parameters: { id: board } }),
    enabled,
  });
  const [own, setOwn] = useState(() => ownNames(sync));
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const askAgain = () => {
      timer ??= setTimeout(() => {
        timer = undefined;
        void queries.invalidateQueries({ queryKey: keyOf(board) });
      }, REST_MS);
    };
    const ends = [
      sync.patches.subscribe((path) => {
        if (!isPathOfName(path)) return;
        setOwn(ownNames(sync));
        askAgain();
      }),
      sync.channel.subscribe((message) => {
        if (message.kind !== 'event') return;
        const { event } = message;
        const isOfBoard = (event.kind === 'board' || event.kind === 'board-facts') && event.board === board;
        if (isOfBoard || event.kind === 'hello' || event.kind === 'compare') askAgain();
      }),
    ];
    return () => {
      clearTimeout(timer);
      for (const end of ends) end();
    };
  }, [sync, queries, board]);
  const line = useMemo(() => data && new HistoryLine(data.stretches), [data]);
  const named = useMemo(() => withOwnNames(data?.named ?? [], board, own), [data, board, own]);
  return { history: line && { line, named }, trouble: data ? null : error };
}
