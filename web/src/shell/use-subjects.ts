import type { Subject } from '@miradero/core/schema';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { askServer } from '../sync/index.ts';
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
const ask = () => askServer<{ subjects: Subject[] }>('/api/subjects').then(({ subjects }) => subjects);

/** Every subject of the owner that is not put away, in the order in which they were made. */
export const useSubjects = () => useQuery({ queryKey: SUBJECTS, queryFn: ask, select: here });
/** Those that were put away. */
export const useSubjectsAway = () => useQuery({ queryKey: SUBJECTS, queryFn: ask, select: away });

/** Asks for subjects again at news; for pages that show them. */
export function useFreshSubjects() {
  const queries = useQueryClient();
  useLibraryNews(() => void queries.invalidateQueries({ queryKey: SUBJECTS }));
  return useSubjects();
}
