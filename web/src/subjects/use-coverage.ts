import { factsBefore } from '@miradero/core/board';
import type { PutSubject, Subject } from '@miradero/core/schema';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useSyncExternalStore } from 'react';
import { COVERAGE, SUBJECTS, useSync } from '../shell/index.ts';
import { ask } from '../sync/index.ts';

const pathOf = (id: string): string => `/api/subjects/${id}`;
const MOST = 300;

/** What pictures show of a subject, and the pictures themselves. */
export function useCoverage(subject: Subject | undefined) {
  const { patches } = useSync();
  const id = subject?.id;
  const isNew = useSyncExternalStore(
    useCallback((listener) => patches.subscribe(listener), [patches]),
    () => id !== undefined && patches.bodiesOf(pathOf(id)).length > 0 && subject?.pictures === 0,
  );
  const isKnown = id !== undefined;
  const coverage = useQuery({
    queryKey: [...COVERAGE, id, subject?.parts],
    queryFn: () =>
      ask('GET /api/subjects/:id/coverage', { parameters: { id: id! } }).then((answer) => answer.coverage),
    // One that was just made is asked for once the server knows it.
    enabled: isKnown && !isNew,
    placeholderData: (was) => was,
  });
  const pictures = useQuery({
    queryKey: [...COVERAGE, 'pictures', id],
    queryFn: () =>
      ask('GET /api/library', { query: { subject: id!, limit: MOST } }).then((answer) => answer.pictures),
    enabled: isKnown,
  });
  return { coverage: coverage.data, pictures: pictures.data ?? [] };
}

/** Sets a subject: shown at once, kept, and sent; also what makes a new one. */
export function usePutSubject() {
  const sync = useSync();
  const queries = useQueryClient();
  return async (id: string, put: PutSubject): Promise<void> => {
    const path = pathOf(id);
    const was = queries.getQueryData<Subject[]>(SUBJECTS)?.find((one) => one.id === id);
    // One that is made goes by being put away.
    const made = was ? undefined : { before: { isPutAway: true }, after: { isPutAway: false } };
    const step = made ?? { before: factsBefore({ ...was }, put), after: { ...put } };
    const name = was?.name ?? put.name;
    const words = made
      ? `Subject “${name}” made`
      : put.isPutAway !== undefined
        ? `Subject “${name}” ${put.isPutAway ? 'put away' : 'brought back'}`
        : undefined;
    sync.steps.record(
      { kind: 'facts', path, ...step },
      { at: `/subjects/${id}`, ...(words ? { words } : {}) },
    );
    queries.setQueryData<Subject[]>(SUBJECTS, (known = []) => {
      const fresh: Subject = { id, name: '', parts: [], isPutAway: false, pictures: 0 };
      const was = known.find((one) => one.id === id);
      const is = { ...(was ?? fresh), ...put } as Subject;
      return was ? known.map((one) => (one.id === id ? is : one)) : [...known, is];
    });
    await sync.outbox.put({ kind: 'patch', path, body: put });
  };
}
