import { createStore, type Readable, useStore } from '../state/index.ts';

const QUERY = globalThis.matchMedia?.('(max-width: 767px)');
const store = createStore<boolean>(() => QUERY?.matches ?? false);
QUERY?.addEventListener('change', ({ matches }) => store.setState(matches, true));

/** Whether the window is as narrow as a telephone: what has a place of its own elsewhere is then behind a word. */
export const useNarrow = (): boolean => useStore(store as Readable<boolean>);

/** The same, now. */
export const isNarrow = (): boolean => store.getState();
