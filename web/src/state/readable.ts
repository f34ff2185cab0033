import type { StoreApi } from 'zustand/vanilla';

/** A store as those see it who only read: what it holds alters by its owner alone. */
export type Readable<T> = Pick<StoreApi<T>, 'getState' | 'getInitialState' | 'subscribe'>;

/** Calls back when a part of a store alters. @returns a function that ends it */
export function watch<T, Part>(
  store: Readable<T>,
  select: (state: T) => Part,
  listener: (part: Part) => void,
): () => void {
  return store.subscribe((now, before) => {
    const part = select(now);
    if (!Object.is(part, select(before))) listener(part);
  });
}
