import { createStore, type Readable, recall, remember, useStore } from '../state/index.ts';

const KEY = 'miradero-open-boards';
const RECENT_KEY = 'miradero-recent-boards';
/** So many are remembered. */
const MOST_RECENT = 12;

/** A list of ids as it was kept; what cannot be read is forgotten. */
function idsIn(text: string | null): readonly string[] {
  try {
    const parsed: unknown = JSON.parse(text ?? '[]');
    return Array.isArray(parsed) ? parsed.filter((id): id is string => typeof id === 'string') : [];
  } catch {
    return [];
  }
}

/** Boards that were in front, the last one first. */
export const recentBoards = (): readonly string[] => idsIn(recall(RECENT_KEY)).slice(0, MOST_RECENT);

let known: { text: string | null; ids: readonly string[] } = { text: null, ids: [] };

/** What the windows of this browser share; the same array until it alters. */
function read(): readonly string[] {
  const text = recall(KEY);
  if (text === known.text) return known.ids;
  const ids = idsIn(text);
  known = { text, ids };
  return ids;
}

const store = createStore<readonly string[]>(read);
const readAgain = (): readonly string[] => {
  store.setState(read(), true);
  return store.getState();
};
globalThis.window?.addEventListener('storage', readAgain);

function write(ids: readonly string[]): void {
  remember(KEY, JSON.stringify(ids));
  readAgain();
}

/** Boards that stand open as tabs of the application, in the order in which they were opened; shared by all windows. */
export const openBoards = {
  ids: readAgain,
  store: store as Readable<readonly string[]>,
  open(id: string): void {
    remember(RECENT_KEY, JSON.stringify([id, ...recentBoards().filter((one) => one !== id)]));
    openBoards.add(id);
  },
  /** The same, without its having been in front. */
  add(id: string): void {
    if (!read().includes(id)) write([...read(), id]);
  },
  close(id: string): void {
    write(read().filter((open) => open !== id));
  },
};

export const useOpenBoards = (): readonly string[] => useStore(openBoards.store);
