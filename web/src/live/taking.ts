import { whyOf } from '@miradero/core/text';
import type { Desk } from '../desk/index.ts';
import { createStore, type StoreApi } from '../state/index.ts';

/** Pictures that are being taken of something on a board. */
export interface Taking {
  readonly words: string;
  readonly done: number;
  readonly total: number;
  stop(): void;
}

const ofDesk = new WeakMap<Desk, StoreApi<{ readonly taking: Taking | undefined }>>();

/** What is being taken on a desk's board right now. */
export function takingOn(desk: Desk) {
  const store =
    ofDesk.get(desk) ?? createStore<{ readonly taking: Taking | undefined }>(() => ({ taking: undefined }));
  ofDesk.set(desk, store);
  return store;
}

/** Looks, then shoots: each step says how far it is, and stops where it is told to. */
export interface Steps {
  readonly signal: AbortSignal;
  /** @throws AbortError where it was stopped */
  at(words: string, done: number, total: number): void;
}

/** Takes pictures, one such work at a time; what goes wrong is said, and what was stopped leaves nothing. */
export async function takePictures(desk: Desk, work: (steps: Steps) => Promise<void>): Promise<void> {
  const store = takingOn(desk);
  if (store.getState().taking) {
    desk.say('Pictures are being taken already.', ['Wait for them, or stop them.']);
    return;
  }
  const stopping = new AbortController();
  const at: Steps['at'] = (words, done, total) => {
    stopping.signal.throwIfAborted();
    store.setState({ taking: { words, done, total, stop: () => stopping.abort() } });
  };
  at('taking', 0, 1);
  try {
    await work({ signal: stopping.signal, at });
  } catch (error) {
    if (stopping.signal.aborted) desk.say('Stopped: no picture was taken.');
    else desk.say('No picture could be taken.', [whyOf(error)]);
  } finally {
    store.setState({ taking: undefined });
  }
}
