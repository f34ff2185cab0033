import type { ServerEvent } from '@miradero/core/schema';
import type { QueryClient, QueryKey } from '@tanstack/react-query';
import type { Channel, WindowMessage } from '../sync/index.ts';

export const BOARDS = ['boards'] as const;
export const SUBJECTS = ['subjects'] as const;
export const LIBRARY = ['library'] as const;
export const COVERAGE = ['coverage'] as const;
/** Drawings that are followed, by board. */
export const DRAWINGS = ['drawings'] as const;
export const LANDING = ['landing'] as const;
/** How much lies there. */
export const LANDING_COUNT = ['landing-count'] as const;

/** News of many pictures come together; one question answers them. */
const GATHER_MS = 150;
/** A figure at the edge of every page may come later: changes of a board are told at every key. */
const FIGURE_MS = 1_200;

const LIBRARY_EVENTS: readonly ServerEvent['kind'][] = ['library', 'picture', 'hello', 'compare'];

/** What may be another one after which events; what changes of boards do to it is known only when they were taken. */
const TOLD: readonly {
  readonly key: QueryKey;
  readonly events: readonly ServerEvent['kind'][];
  readonly afterChanges?: true;
  readonly restMs?: number;
}[] = [
  // Not at every change: a board's facts are told when the hand rests.
  { key: BOARDS, events: ['board-facts', 'hello', 'compare'] },
  { key: SUBJECTS, events: LIBRARY_EVENTS },
  { key: LIBRARY, events: LIBRARY_EVENTS },
  { key: COVERAGE, events: LIBRARY_EVENTS },
  { key: DRAWINGS, events: ['picture', 'hello', 'compare'] },
  { key: LANDING, events: ['picture', 'board', 'hello', 'compare'], afterChanges: true },
  {
    ...{
      key: LANDING_COUNT,
      events: ['library', 'picture', 'board', 'hello', 'compare'],
      afterChanges: true,
    },
    restMs: FIGURE_MS,
  },
];

/**
 * Asks again for what is shown under a key; what is not shown is asked for when it is. A first question that is still being
 * answered is asked once more then: it may have been answered before what is told of.
 */
export function askAgain(queries: QueryClient, queryKey: QueryKey): void {
  // Left to itself the library would take the answer that is on its way for the new one.
  const first = queries
    .getQueryCache()
    .findAll({ queryKey, fetchStatus: 'fetching', predicate: ({ state }) => state.data === undefined });
  for (const query of first) {
    const again = () => void queries.invalidateQueries({ queryKey: query.queryKey, exact: true });
    query.promise?.then(again, () => {});
  }
  void queries.invalidateQueries({ queryKey });
}

const isToldBy = (message: WindowMessage, { events, afterChanges }: (typeof TOLD)[number]): boolean =>
  message.kind === 'event'
    ? events.includes(message.event.kind)
    : message.kind === 'outcomes' && afterChanges === true;

/**
 * Hears for as long as the window lives what the server and other windows tell, also while the page it is about is not in
 * front: it would be missed between leaving a page and coming back.
 *
 * @returns a function that ends it
 */
export function hearNews(queries: QueryClient, channel: Channel): () => void {
  const timers = new Map<QueryKey, ReturnType<typeof setTimeout>>();
  const end = channel.subscribe((message) => {
    for (const one of TOLD) {
      const { key, restMs = GATHER_MS } = one;
      if (timers.has(key) || !isToldBy(message, one)) continue;
      const ask = () => {
        timers.delete(key);
        askAgain(queries, key);
      };
      timers.set(key, setTimeout(ask, restMs));
    }
  });
  return () => {
    for (const timer of timers.values()) clearTimeout(timer);
    end();
  };
}
