import type { BoardFileReading, BoardOrigin, PastChange, ReadBoardFile } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

/** What of a board goes into its file beside its items. */
export interface BoardForFile {
  readonly owner: string;
  readonly name: string;
  readonly surround: number;
  readonly forWhom: string;
  readonly question: string;
  readonly due: string | null;
  readonly revision: number;
  /** The board elsewhere from which it came; null: it was made here. */
  readonly origin: BoardOrigin | null;
  /** The revision here that was the origin's. */
  readonly originBase: number | null;
  readonly leftRevision: number | null;
}

export async function findBoardForFile(knex: Knex, id: string): Promise<BoardForFile | undefined> {
  const row = await knex('boards').where({ id }).first();
  return (
    row && {
      ...{ owner: row.owner, name: row.name, surround: row.surround, question: row.question, due: row.due },
      ...{ forWhom: row.for_whom, revision: Number(row.revision), origin: row.origin },
      originBase: row.origin_base === null ? null : Number(row.origin_base),
      leftRevision: row.left_revision === null ? null : Number(row.left_revision),
    }
  );
}

/** A board was handed out: what is done from then on goes along when it is handed out again. */
export async function noteLeft(knex: Knex, id: string, revision: number): Promise<void> {
  await knex('boards').where({ id }).whereNull('left_revision').update({ left_revision: revision });
}

/** Says from where a board came, and which revision here is the state it had there. */
export async function recordOrigin(
  knex: Knex,
  id: string,
  origin: BoardOrigin,
  originBase: number,
): Promise<void> {
  await knex('boards')
    .where({ id })
    .update({ origin: JSON.stringify(origin), origin_base: originBase });
}

/** Changes after a revision with when and by whom; null where they are larger than `mostBytes`. */
export async function findPastChanges(
  knex: Knex,
  board: string,
  since: number,
  mostBytes: number,
): Promise<PastChange[] | null> {
  const log = () => knex('board_changes').where({ board }).andWhere('revision', '>', since);
  const size = await log().first(knex.raw('coalesce(sum(octet_length(operations::text)), 0) as bytes'));
  if (Number((size as unknown as { bytes: string }).bytes) > mostBytes) return null;
  const rows = await log()
    .orderBy('revision')
    .select('revision', 'change', 'operations', 'made_at', 'made_by');
  return rows.map((row) => ({
    ...{ revision: Number(row.revision), at: row.made_at.toISOString(), by: row.made_by },
    change: { id: row.change, operations: row.operations },
  }));
}

/** Every picture that a board ever showed. */
export const findPicturesEverOn = (knex: Knex, board: string): Promise<string[]> =>
  knex('board_pictures').where({ board }).pluck('picture');

/** Posters of clips and models, by the picture. */
export async function findPosters(knex: Knex, ids: readonly string[]): Promise<Map<string, string>> {
  const rows = await knex('pictures')
    .whereIn('id', [...ids])
    .whereNotNull('poster')
    .select('id', 'poster');
  return new Map(rows.map(({ id, poster }) => [id, poster]));
}

/** A board file that came in. */
export interface KeptBoardFile {
  readonly id: string;
  readonly owner: string;
  /** Its bytes; null once it was read. */
  readonly hash: string | null;
  readonly state: BoardFileReading['state'];
  readonly why: string | null;
  readonly request: ReadBoardFile | null;
  readonly result: BoardFileReading['result'];
}

const KEPT = ['id', 'owner', 'hash', 'state', 'why', 'request', 'result'] as const;

export async function addBoardFile(trx: Knex, owner: string, id: string, hash: string): Promise<void> {
  await trx('board_files').insert({ id, owner, hash });
}

export async function findBoardFile(knex: Knex, id: string): Promise<KeptBoardFile | undefined> {
  return knex('board_files').where({ id }).first(KEPT);
}

export async function recordBoardFile(
  knex: Knex,
  id: string,
  { request, result, ...rest }: Partial<Omit<KeptBoardFile, 'id' | 'owner'>>,
): Promise<void> {
  await knex('board_files')
    .where({ id })
    .update({
      ...rest,
      ...(request === undefined ? {} : { request: JSON.stringify(request) }),
      ...(result === undefined ? {} : { result: JSON.stringify(result) }),
    });
}

/** Files that nobody read within a day. */
export async function removeOldBoardFiles(knex: Knex): Promise<void> {
  await knex('board_files')
    .where('created_at', '<', knex.raw("now() - interval '24 hours'"))
    .whereNot('state', 'working')
    .delete();
}

/** A board of an owner with where it came from. */
export interface BoardWithOrigin {
  readonly id: string;
  readonly name: string;
  readonly origin: BoardOrigin | null;
}

export const findBoardsWithOrigin = (knex: Knex, owner: string): Promise<BoardWithOrigin[]> =>
  knex('boards').where({ owner, put_away: false }).orderBy('name').select('id', 'name', 'origin');

/** Of some changes those that a board knows. */
export async function findKnownChanges(
  knex: Knex,
  board: string,
  changes: readonly string[],
): Promise<Set<string>> {
  const { rows } = await knex.raw(
    'select change from board_changes where board = ? and change = any(?::uuid[])',
    [board, changes as never],
  );
  return new Set((rows as { change: string }[]).map(({ change }) => change));
}
