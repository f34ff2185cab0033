import { createStore, type Readable } from '../state/index.ts';
import type { Channel } from './channel.ts';

/** A job that told nothing for so long has ended with its process. */
const SILENT_MS = 15_000;

/** How far long jobs of the server are, 0..1, by what they work on; gone with the job. */
export function jobProgress(channel: Channel): Readable<ReadonlyMap<string, number>> {
  const store = createStore<ReadonlyMap<string, number>>(() => new Map());
  const timers = new Map<string, ReturnType<typeof setTimeout>>();
  const end = (of: string) => {
    clearTimeout(timers.get(of));
    if (!timers.delete(of)) return;
    store.setState(new Map([...store.getState()].filter(([id]) => id !== of)), true);
  };
  channel.subscribe((message) => {
    if (message.kind !== 'event') return;
    const { event } = message;
    if (event.kind !== 'progress') return;
    const { of, share } = event;
    if (share >= 1) {
      end(of);
      return;
    }
    clearTimeout(timers.get(of));
    timers.set(
      of,
      setTimeout(() => end(of), SILENT_MS),
    );
    store.setState(new Map(store.getState()).set(of, share), true);
  });
  return store;
}
