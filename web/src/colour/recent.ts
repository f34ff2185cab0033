import { createStore, type Readable, recall, remember } from '../state/index.ts';

/** So many stay at hand. */
export const MOST_RECENT = 12;
const KEY = 'miradero-recent-colours';
const HEX = /^#[0-9a-f]{6}$/;

function kept(): readonly string[] {
  try {
    const all = JSON.parse(recall(KEY) ?? '[]') as unknown;
    return Array.isArray(all)
      ? all.filter((one): one is string => HEX.test(String(one))).slice(0, MOST_RECENT)
      : [];
  } catch {
    return [];
  }
}

/** The list with a colour in front, once. */
export const withRecent = (all: readonly string[], hex: string): readonly string[] =>
  [hex, ...all.filter((one) => one !== hex)].slice(0, MOST_RECENT);

const store = createStore<{ readonly all: readonly string[] }>(() => ({ all: kept() }));

/** The colours that were picked last in this browser, as hex, the last one first. */
export const recentColours = {
  store: store as Readable<{ readonly all: readonly string[] }>,
  add(hex: string): void {
    const all = withRecent(store.getState().all, hex);
    store.setState({ all });
    remember(KEY, JSON.stringify(all));
  },
};
