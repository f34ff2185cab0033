import type { View } from '@miradero/core/schema';
import { createStore, forget, type Readable, recall, remember } from '../../state/index.ts';

/** What is being looked for: a part of a subject, perhaps from a certain side. What comes in while it stands is given to it. */
export interface Aim {
  readonly words: string;
  readonly subject: string;
  /** The part, or the subject itself. */
  readonly part: string;
  readonly view?: View;
}

/** What a place is asked for an aim: without the marks between a subject and its part. */
export const wordsToAsk = ({ words }: Pick<Aim, 'words'>): string =>
  words.replace(': ', ' ').replaceAll(',', '');

const KEY = 'miradero-aim';

const isAim = (value: unknown): value is Aim =>
  typeof value === 'object' &&
  value !== null &&
  ['words', 'subject', 'part'].every((name) => typeof (value as Record<string, unknown>)[name] === 'string');

function read(): Aim | undefined {
  try {
    const kept: unknown = JSON.parse(recall(KEY) ?? 'null');
    return isAim(kept) ? kept : undefined;
  } catch {
    return undefined;
  }
}

const store = createStore<{ readonly aim: Aim | undefined }>(() => ({ aim: read() }));
globalThis.window?.addEventListener('storage', ({ key }) => {
  if (key === KEY || key === null) store.setState({ aim: read() });
});

/** The aim goes along through pages, windows and reloads until it is ended. */
export const aiming = {
  store: store as Readable<{ readonly aim: Aim | undefined }>,
  get aim(): Aim | undefined {
    return store.getState().aim;
  },
  set(aim: Aim): void {
    remember(KEY, JSON.stringify(aim));
    store.setState({ aim });
  },
  end(): void {
    forget(KEY);
    store.setState({ aim: undefined });
  },
};
