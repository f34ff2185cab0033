import { type Change, type Done, type Operation, UNSAID_VIEW } from '../schema/index.ts';
import { type BoardState, invertChange, sameValue } from './state.ts';

export type { Done };

/** What taking back came to: the operations to apply, and how many properties were left as another window set them. */
export interface TakenBack {
  readonly operations: Operation[];
  readonly skipped: number;
}

export const recordDone = (before: BoardState, change: Change): Done => ({
  change,
  inverse: invertChange(before, change),
});

type Setting = Extract<Operation, { item: string }>;
const isSetting = (operation: Operation): operation is Setting => 'item' in operation;

/** Operations that set properties, one for each item; a later value wins. */
function joinSettings(operations: readonly Setting[]): Setting[] {
  const sets = new Map<string, Setting['set']>();
  for (const { item, set } of operations) sets.set(item, { ...sets.get(item), ...set });
  return [...sets].map(([item, set]) => ({ item, set }));
}

/** Two changes, one made right after the other, as the first of them; undefined where they do more than set properties. */
export function joinChanges(first: Change, next: Change): Change | undefined {
  const operations = [...first.operations, ...next.operations];
  return operations.every(isSetting) ? { id: first.id, operations: joinSettings(operations) } : undefined;
}

/**
 * The same of what was done: taken back, it leads to what was before the first of them. They stay two where somebody else
 * set between them what both set: that is to stand when both are taken back.
 */
export function joinDone(first: Done, next: Done): Done | undefined {
  const change = joinChanges(first.change, next.change);
  const inverse = [...next.inverse, ...first.inverse];
  if (!change || !inverse.every(isSetting)) return undefined;
  const left = valuesLeftBy(first.change);
  const isInRow = joinSettings(next.inverse.filter(isSetting)).every(({ item, set }) => {
    const values = left.get(item);
    return Object.entries(set).every(([name, was]) => !values?.has(name) || sameValue(values.get(name), was));
  });
  return isInRow ? { change, inverse: joinSettings(inverse) } : undefined;
}

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

/** Facts of a picture, a board or a subject, as far as one gesture set them. */
export type Facts = Readonly<Record<string, unknown>>;

/** Facts that consist of parts which are set one by one. */
const IN_PARTS: ReadonlySet<string> = new Set(['source', 'views']);

/** Absent, null and empty text are one to the person who set them. */
const sameFact = (a: unknown, b: unknown): boolean =>
  sameValue(a === undefined || a === '' ? null : a, b === undefined || b === '' ? null : b);

/**
 * Computes what takes facts back from what they are `now`. One that no longer has the value that it was set to (`after`)
 * was set since by somebody else: it is skipped and counted.
 *
 * @param now - undefined where nobody can say: then all of it is taken back
 */
export function takeBackFacts(
  now: Facts | undefined,
  before: Facts,
  after: Facts,
): { readonly set: Record<string, unknown>; readonly skipped: number } {
  const set: Record<string, unknown> = {};
  let skipped = 0;
  for (const [name, was] of Object.entries(before)) {
    if (IN_PARTS.has(name) && was !== null && typeof was === 'object') {
      const inner = takeBackFacts(
        now && ((now[name] ?? {}) as Facts),
        was as Facts,
        (after[name] ?? {}) as Facts,
      );
      if (Object.keys(inner.set).length > 0) set[name] = inner.set;
      skipped += inner.skipped;
    } else if (now === undefined || sameFact(now[name], after[name])) set[name] = was;
    else skipped += 1;
  }
  return { set, skipped };
}

/** What a fact is where nobody said it, other than null. */
const ABSENT: Facts = {
  note: '',
  forWhom: '',
  question: '',
  tags: [],
  purposes: [],
  parts: [],
  isPutAway: false,
  isToScale: false,
};

/** What facts were, as far as `patch` sets them. */
export const factsBefore = (now: Facts, patch: Facts): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(patch).map(([name, value]) => [
      name,
      name === 'views'
        ? Object.fromEntries(
            Object.keys(value as Facts).map((subject) => [
              subject,
              (now.views as Facts | undefined)?.[subject] ?? UNSAID_VIEW,
            ]),
          )
        : IN_PARTS.has(name) && value !== null && typeof value === 'object'
          ? factsBefore((now[name] ?? {}) as Facts, value as Facts)
          : (now[name] ?? ABSENT[name] ?? null),
    ]),
  );
