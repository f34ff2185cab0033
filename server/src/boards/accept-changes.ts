import { applyOperation, itemIdOf } from '@miradero/core/board';
import { gistOf } from '@miradero/core/history';
import { picturesOf } from '@miradero/core/items';
import {
  CHANGE_LIMITS,
  type Change,
  type ChangeOutcome,
  type ChangeRefusalCode,
  changeSchema,
  ITEM_SCHEMAS,
  type Item,
  type ItemKind,
  isItemKind,
  SET_SCHEMAS,
} from '@miradero/core/schema';
import { type AcceptedChange, readForChanges, writeChanges } from '../database/board-changes.ts';
import { lockBoard } from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { PREVIEW, STATES } from '../jobs/kinds.ts';
import type { Queue } from '../jobs/queue.ts';
import { ProblemError } from '../requests/problem.ts';
import { compileSchema, explain } from '../requests/validation.ts';

const TITLES: Readonly<Record<Exclude<ChangeRefusalCode, 'set-aside'>, string>> = {
  malformed: 'The change holds something that a board cannot take.',
  'unknown-item': 'The change concerns something that is not on this board.',
  'item-exists': 'Something with this id stands on the board already.',
  'foreign-picture': 'The picture belongs to somebody else.',
  'board-missing': 'The board does not exist.',
  'too-many-operations': `More than ${CHANGE_LIMITS.operations} operations came at once.`,
};

const isChange = compileSchema(changeSchema);
const compiled = <S extends object>(schemas: Readonly<Record<ItemKind, S>>) =>
  Object.fromEntries(
    Object.entries<S>(schemas).map(([kind, schema]) => [kind, compileSchema(schema)]),
  ) as Record<ItemKind, ReturnType<typeof compileSchema>>;
const isItem = compiled(ITEM_SCHEMAS);
const isSet = compiled(SET_SCHEMAS);

interface Refusal {
  readonly code: ChangeRefusalCode;
  readonly title: string;
}
const refusal = (code: keyof typeof TITLES, why?: string): Refusal => ({
  code,
  title: why ? `${TITLES[code]} (${why})` : TITLES[code],
});

/** Applies one change to a copy of what it touches; the copy is kept only when every operation is good. */
function tryChange(
  items: ReadonlyMap<string, Item>,
  foreignPictures: ReadonlySet<string>,
  change: Change,
): Map<string, Item> | Refusal {
  const touched = new Map<string, Item>();
  for (const operation of change.operations) {
    const id = itemIdOf(operation);
    const present = touched.get(id) ?? items.get(id);
    if ('create' in operation) {
      const { kind } = operation.create;
      if (!isItemKind(kind))
        return refusal('malformed', `unknown kind of item: ${String(kind).slice(0, 40)}`);
      if (!isItem[kind](operation.create)) return refusal('malformed', explain(isItem[kind].errors));
      if (present !== undefined) return refusal('item-exists');
      if (picturesOf(operation.create).some((picture) => foreignPictures.has(picture)))
        return refusal('foreign-picture');
    } else {
      if (present === undefined) return refusal('unknown-item');
      if (!isSet[present.kind](operation.set))
        return refusal('malformed', explain(isSet[present.kind].errors));
      if ('picture' in operation.set && foreignPictures.has(String(operation.set.picture)))
        return refusal('foreign-picture');
    }
    touched.set(id, applyOperation(present, operation)!);
  }
  return touched;
}

/** Pictures that changes place, or put in the place of others. */
export const picturesNamedBy = (changes: readonly Change[]): string[] => {
  const named = changes.flatMap((change) =>
    change.operations.map((operation) => ('create' in operation ? operation.create : operation.set)),
  );
  return [
    ...new Set(
      named.flatMap((properties) =>
        'picture' in properties && /^[0-9a-f-]{36}$/.test(String(properties.picture))
          ? [String(properties.picture)]
          : [],
      ),
    ),
  ];
};

/** After so many changes, or a change of so many operations, the past may need another state to begin from. */
const STATES_EVERY = { changes: 40, operations: 100 } as const;

const mayNeedState = (before: number, after: number, changes: readonly Change[]): boolean =>
  Math.floor(before / STATES_EVERY.changes) !== Math.floor(after / STATES_EVERY.changes) ||
  changes.some(({ operations }) => operations.length >= STATES_EVERY.operations);

const idOf = (value: object): string => {
  const { id } = value as { id?: unknown };
  return typeof id === 'string' ? id.slice(0, 64) : '';
};

/**
 * Checks, applies and logs changes in their order, in one transaction. A bad one is refused alone; one that was
 * accepted before keeps its revision.
 *
 * @param by - who made them, where that was not the owner
 * @throws ProblemError `board-missing`
 */
export async function acceptChanges(
  knex: Knex,
  queue: Queue,
  owner: string,
  board: string,
  values: readonly object[],
  by: string | null = null,
): Promise<ChangeOutcome[]> {
  const parsed = values.map((value): { change: Change } | { id: string; why: string } =>
    isChange(value) ? { change: value as Change } : { id: idOf(value), why: explain(isChange.errors) },
  );
  const wellFormed = parsed.flatMap((one) => ('change' in one ? [one.change] : []));
  return knex.transaction(async (trx) => {
    const before = await lockBoard(trx, owner, board);
    if (before === undefined) throw new ProblemError('board-missing');
    const {
      accepted: known,
      items: present,
      foreign,
    } = await readForChanges(trx, owner, board, {
      changes: wellFormed.map(({ id }) => id),
      items: [...new Set(wellFormed.flatMap(({ operations }) => operations.map(itemIdOf)))],
      pictures: picturesNamedBy(wellFormed),
    });
    const items = new Map(present.map((item) => [item.id, item]));
    const standing = new Set(items.keys());

    const altered = new Map<string, Item>();
    const accepted: AcceptedChange[] = [];
    const outcomes = parsed.map((one): ChangeOutcome => {
      if (!('change' in one)) return { id: one.id, refused: refusal('malformed', one.why) };
      const { change } = one;
      const { id } = change;
      const earlier = known.get(change.id);
      if (earlier !== undefined) return { id, revision: earlier };
      const result = tryChange(items, foreign, change);
      if (!(result instanceof Map)) return { id, refused: result };
      for (const [itemId, item] of result) {
        items.set(itemId, item);
        altered.set(itemId, item);
      }
      const revision = before + accepted.length + 1;
      accepted.push({ revision, change, gist: gistOf(change, (item) => items.get(item)?.kind) });
      known.set(change.id, revision);
      return { id, revision };
    });
    if (accepted.length === 0) return outcomes;
    const written = [...altered.values()];
    const changes = accepted.map(({ change }) => change);
    await writeChanges(trx, owner, board, {
      ...{ accepted, by, pictures: picturesNamedBy(changes) },
      altered: written.filter(({ id }) => standing.has(id)),
      added: written.filter(({ id }) => !standing.has(id)),
    });
    await queue.send(trx, PREVIEW, { board });
    if (mayNeedState(before, before + accepted.length, changes)) await queue.send(trx, STATES, { board });
    return outcomes;
  });
}
