import { useSyncExternalStore } from 'react';

const KEY = 'miradero-open-boards';
const listeners = new Set<() => void>();
let known: { text: string | null; ids: readonly string[] } = { text: null, ids: [] };

function read(): readonly string[] {
  const text = localStorage.getItem(KEY);
  if (text === known.text) return known.ids;
  let ids: readonly string[] = [];
  try {
    const parsed: unknown = JSON.parse(text ?? '[]');
    if (Array.isArray(parsed)) ids = parsed.filter((id): id is string => typeof id === 'string');
  } catch {
    // What cannot be read is forgotten.
  }
  known = { text, ids };
  return ids;
}

function write(ids: readonly string[]): void {
  localStorage.setItem(KEY, JSON.stringify(ids));
  for (const listener of listeners) listener();
}

/** Boards that stand open as tabs of the application, in the order in which they were opened; shared by all windows. */
export const openBoards = {
  ids: read,
  open(id: string): void {
    if (!read().includes(id)) write([...read(), id]);
  },
  close(id: string): void {
    write(read().filter((open) => open !== id));
  },
  subscribe(listener: () => void): () => void {
    listeners.add(listener);
    window.addEventListener('storage', listener);
    return () => {
      listeners.delete(listener);
      window.removeEventListener('storage', listener);
    };
  },
};

export const useOpenBoards = (): readonly string[] =>
  useSyncExternalStore(openBoards.subscribe, openBoards.ids);
