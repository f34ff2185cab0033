import { propertyOf } from '../items/index.ts';
import type { Change, Item, Operation } from '../schema/index.ts';

/** Every item of a board by id, removed ones included. Items are never altered in place. */
export type BoardState = ReadonlyMap<string, Item>;

export const itemIdOf = (operation: Operation): string =>
  'create' in operation ? operation.create.id : operation.item;

/** The item after one operation; `undefined` when there is nothing to set properties of. */
export function applyOperation(item: Item | undefined, operation: Operation): Item | undefined {
  if ('create' in operation) return operation.create;
  return item === undefined ? undefined : ({ ...item, ...operation.set } as Item);
}

/** Applies `change` to `state` in place. @returns the ids it touched */
export function applyChange(state: Map<string, Item>, change: Change): Set<string> {
  const touched = new Set<string>();
  for (const operation of change.operations) {
    const id = itemIdOf(operation);
    const next = applyOperation(state.get(id), operation);
    if (next === undefined) continue;
    state.set(id, next);
    touched.add(id);
  }
  return touched;
}

/**
 * The operations that take `change` back from a board that was `before` when it was applied. A created item becomes
 * `removed`, so that what others did to it meanwhile survives.
 */
export function invertChange(before: BoardState, change: Change): Operation[] {
  const working = new Map<string, Item>();
  const inverse: Operation[] = [];
  for (const operation of change.operations) {
    const id = itemIdOf(operation);
    const item = working.get(id) ?? before.get(id);
    if ('create' in operation) {
      inverse.push({ item: id, set: { removed: true } });
    } else if (item !== undefined) {
      inverse.push({
        item: id,
        set: Object.fromEntries(
          Object.keys(operation.set).map((property) => [property, propertyOf(item, property)]),
        ),
      });
    }
    const next = applyOperation(item, operation);
    if (next !== undefined) working.set(id, next);
  }
  return inverse.reverse();
}

/** Items that stand on the board: not removed, lowest first. */
export const isStanding = (item: Item): boolean => !item.removed;

/** Equality of property values: JSON values, compared by content. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  const keys = Object.keys(a);
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => sameValue((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key]))
  );
}
