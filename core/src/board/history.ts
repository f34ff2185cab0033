import type { Change, Operation } from '../schema/index.ts';
import { type BoardState, invertChange, sameValue } from './state.ts';

/** A change that was made, and what takes it back. */
export interface Done {
  readonly change: Change;
  readonly inverse: readonly Operation[];
}

/** What taking back came to: the operations to apply, and how many properties were left as another window set them. */
export interface TakenBack {
  readonly operations: Operation[];
  readonly skipped: number;
}

export const recordDone = (before: BoardState, change: Change): Done => ({
  change,
  inverse: invertChange(before, change),
});

/** The value each property had right after `change`: item id → property → value. */
function valuesLeftBy(change: Change): Map<string, Map<string, unknown>> {
  const left = new Map<string, Map<string, unknown>>();
  for (const operation of change.operations) {
    const isCreation = 'create' in operation;
    const id = isCreation ? operation.create.id : operation.item;
    const values = left.get(id) ?? new Map<string, unknown>();
    const set: Readonly<Record<string, unknown>> = isCreation
      ? { removed: operation.create.removed }
      : operation.set;
    for (const [property, value] of Object.entries(set)) values.set(property, value);
    left.set(id, values);
  }
  return left;
}

/**
 * Computes how to take `done` back from the board as it is `now`. A property that no longer has the value that the
 * change left was set since by another window: it is skipped and counted.
 */
export function takeBack(now: BoardState, done: Done): TakenBack {
  const left = valuesLeftBy(done.change);
  const restored = new Map<string, Record<string, unknown>>();
  // The inverse may name a property twice (a change that set it twice); the last value is the oldest, and wins.
  for (const operation of done.inverse) {
    if ('create' in operation) continue;
    restored.set(operation.item, { ...restored.get(operation.item), ...operation.set });
  }
  const operations: Operation[] = [];
  let skipped = 0;
  for (const [id, values] of restored) {
    const item = now.get(id) as unknown as Record<string, unknown> | undefined;
    if (item === undefined) continue;
    const set: Record<string, unknown> = {};
    for (const [property, value] of Object.entries(values)) {
      if (sameValue(item[property], left.get(id)?.get(property))) set[property] = value;
      else skipped += 1;
    }
    if (Object.keys(set).length > 0) operations.push({ item: id, set });
  }
  return { operations, skipped };
}
