import type { Subject } from '@miradero/core/schema';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { ask, type Sync } from '../sync/index.ts';
import { useSync } from './sync-context.tsx';

export const SUBJECTS = ['subjects'] as const;
/** News of many pictures come together; one question answers them. */
const GATHER_MS = 150;

/** Calls `again`, soon and together, at news of pictures and of what is said of them. */
export function useLibraryNews(again: () => void): void {
  const { channel } = useSync();
  // A new function at every drawing must not make what was just heard be forgotten.
  const latest = useRef(again);
  latest.current = again;
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const end = channel.subscribe((message) => {
      const isNews =
        message.kind === 'event' && ['library', 'picture', 'hello', 'compare'].includes(message.event.kind);
      if (!isNews) return;
      timer ??= setTimeout(() => {
        timer = undefined;
        latest.current();
      }, GATHER_MS);
    });
    return () => {
      clearTimeout(timer);
      end();
    };
  }, [channel]);
}

const here = (subjects: Subject[]) => subjects.filter(({ isPutAway }) => !isPutAway);
const away = (subjects: Subject[]) => subjects.filter(({ isPutAway }) => isPutAway);
const PATH = '/api/subjects/';

/** Subjects as they will be once the server knows what is on its way to it; such as it does not know at all come last. */
function withOwn(subjects: readonly Subject[], own: ReadonlyMap<string, readonly object[]>): Subject[] {
  const byId = new Map(subjects.map((subject) => [subject.id, subject]));
  for (const [path, bodies] of own) {
    const id = path.slice(PATH.length);
    const fresh: Subject = { id, name: '', parts: [], isPutAway: false, pictures: 0 };
    byId.set(id, Object.assign({}, byId.get(id) ?? fresh, ...bodies) as Subject);
  }
  return [...byId.values()].filter(({ name }) => name !== '');
}

async function askAll({ patches }: Sync): Promise<Subject[]> {
  await patches.isReady;
  const before = patches.under(PATH);
  const { subjects } = await ask('GET /api/subjects');
  // Whether the answer holds what was on its way when it was asked for, nobody knows.
  return withOwn(withOwn(subjects, before), patches.under(PATH));
}

/** Every subject of the owner that is not put away, in the order in which they were made. */
export function useSubjects() {
  const sync = useSync();
  return useQuery({ queryKey: SUBJECTS, queryFn: () => askAll(sync), select: here });
}
/** Those that were put away. */
export function useSubjectsAway() {
  const sync = useSync();
  return useQuery({ queryKey: SUBJECTS, queryFn: () => askAll(sync), select: away });
}

/** Asks for subjects again at news; for pages that show them. */
export function useFreshSubjects() {
  const queries = useQueryClient();
  const { patches } = useSync();
  useEffect(
    () =>
      patches.subscribe((path, settled) => {
        // Said in another window, or taken back: what is on its way counts already.
        if (!path.startsWith(PATH) || settled) return;
        queries.setQueryData<Subject[]>(SUBJECTS, (known) => known && withOwn(known, patches.under(PATH)));
      }),
    [patches, queries],
  );
  useLibraryNews(() => void queries.invalidateQueries({ queryKey: SUBJECTS }));
  return useSubjects();
}
