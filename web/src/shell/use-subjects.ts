import type { Subject } from '@miradero/core/schema';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { ask, type Sync } from '../sync/index.ts';
import { SUBJECTS } from './news.ts';
import { useSync } from './sync-context.tsx';

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
  const { answer, bodies } = await patches.duringUnder(PATH, () => ask('GET /api/subjects'));
  return withOwn(answer.subjects, bodies);
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

/** Subjects with what is said of them in other windows at once; for pages that show them. */
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
  return useSubjects();
}
