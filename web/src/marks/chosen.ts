import type { Operation } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import { createStore, type StoreApi } from '../state/index.ts';
import { type AnyMark, isAnyMark } from './under.ts';

interface Chosen {
  readonly ids: ReadonlySet<string>;
}
const stores = new WeakMap<Desk, StoreApi<Chosen>>();

/** Which marks are chosen on a desk, one by one. */
export function chosenStore(desk: Desk): StoreApi<Chosen> {
  const store = stores.get(desk) ?? createStore<Chosen>(() => ({ ids: new Set() }));
  stores.set(desk, store);
  return store;
}

export const chosenMarks = (desk: Desk): AnyMark[] =>
  [...chosenStore(desk).getState().ids].flatMap((id) => {
    const item = desk.session.items.get(id);
    return item && isAnyMark(item) && !item.removed ? [item] : [];
  });

export function commitAny(desk: Desk, operations: readonly Operation[]): void {
  if (operations.length > 0) desk.session.commit(operations);
}

export const recolourChosen = (desk: Desk, ink: string): void =>
  commitAny(
    desk,
    chosenMarks(desk)
      .filter((mark) => mark.ink !== ink)
      .map(({ id }) => ({ item: id, set: { ink } })),
  );

export function removeChosen(desk: Desk): void {
  const free = chosenMarks(desk).filter(({ isFixed }) => !isFixed);
  if (free.length === 0) desk.say('No mark is chosen.', ['Press one first, or drag around some.']);
  commitAny(
    desk,
    free.map(({ id }) => ({ item: id, set: { removed: true } })),
  );
}
