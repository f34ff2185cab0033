import { rm } from 'node:fs/promises';
import { boundsOf, isStanding, keysOnTop } from '@miradero/core/board';
import { unionOf } from '@miradero/core/geometry';
import { createNote, NOTE_TYPE, noteHeightFor } from '@miradero/core/items';
import { cleanName, idWithin } from '@miradero/core/picture';
import {
  type BoardFile,
  type BoardFileReading,
  CHANGE_LIMITS,
  type ChangeOutcome,
  type Item,
  type LeftOut,
} from '@miradero/core/schema';
import { asChecks } from '@miradero/core/text';
import { acceptChanges } from '../boards/accept-changes.ts';
import {
  findBoardFile,
  findBoardsWithOrigin,
  findKnownChanges,
  type KeptBoardFile,
  recordBoardFile,
  recordOrigin,
} from '../database/board-files.ts';
import { findItems } from '../database/board-items.ts';
import { addBoard, findBoard, updateBoard } from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findDatabaseId } from '../database/owner.ts';
import type { Intake } from '../intake/take-in.ts';
import type { TellProgress } from '../jobs/progress.ts';
import { isUuid } from '../requests/validation.ts';
import { makeWorkFolder } from '../storage/work-folders.ts';
import { itemHere, operationHere, type PicturesHere } from './as-here.ts';
import { readBoardJson } from './board-json.ts';
import { mergeable } from './merging.ts';
import { OpenZip, ZipError } from './open-zip.ts';
import { takePictures } from './take-pictures.ts';

type Means = Omit<Intake, 'owner'>;
type Result = NonNullable<BoardFileReading['result']>;

/** Items of one change of a board that is read whole. */
const ITEMS_AT_ONCE = 4_000;
/** Of the work so much is taking pictures in. */
const PICTURES_SHARE = 0.9;

/** Reading failed for the last time, for whatever reason: it says so instead of waiting for ever. */
export async function leaveReading(knex: Knex, id: string): Promise<void> {
  await recordBoardFile(knex, id, { state: 'failed', why: 'It could not be read, and was given up.' });
}

/** The job: reads a board file as a board of its own, or merges what it carries. */
export async function runReading(means: Means, id: string, tell: TellProgress): Promise<void> {
  const { knex } = means;
  const kept = await findBoardFile(knex, id);
  if (!kept?.hash || !kept.request || kept.state === 'done' || kept.state === 'failed') return;
  await recordBoardFile(knex, id, { state: 'working' });
  const folder = await makeWorkFolder();
  try {
    const result = await read(means, kept, folder, (share) => tell(kept.owner, share));
    // Its bytes are not needed any more.
    await recordBoardFile(knex, id, { state: 'done', result, hash: null });
    await notifyNews(knex, kept.owner, { kind: 'board-facts', board: result.board });
  } catch (error) {
    if (!(error instanceof ZipError)) throw error;
    await recordBoardFile(knex, id, { state: 'failed', why: error.message, hash: null });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function read(
  means: Means,
  { id, owner, hash, request }: KeptBoardFile,
  folder: string,
  tell: (share: number) => void,
): Promise<Result> {
  const { knex } = means;
  const zip = await OpenZip.open(knex, hash!);
  try {
    const { file, folder: inZip } = await readBoardJson(zip);
    const pictures = await takePictures(
      { intake: { ...means, owner }, zip, inZip, folder, tell: (share) => tell(PICTURES_SHARE * share) },
      file.pictures,
    );
    const { here, count, leftOut } = pictures;
    const reading: Reading = { id, means, owner, file, here, leftOut: [...leftOut] };
    const result =
      request!.into === null
        ? await asBoard(reading)
        : await merge(reading, request!.into, request!.by ?? null);
    return { ...result, pictures: count, leftOut: reading.leftOut };
  } finally {
    zip.close();
  }
}

interface Reading {
  /** Of the file that came in. */
  readonly id: string;
  readonly means: Means;
  readonly owner: string;
  readonly file: BoardFile;
  readonly here: PicturesHere;
  readonly leftOut: LeftOut[];
}

/** What is to be done, as a list to check off, left of everything that stands. */
function tasksBeside(items: ReadonlyMap<string, Item>, tasks: string, id: string): Item {
  const standing = [...items.values()].filter(isStanding);
  const extent = unionOf(standing.map(boundsOf)) ?? { x: 0, y: 0, width: 0, height: 0 };
  const scale = Math.max(1, Math.max(extent.width, extent.height) / 1_400);
  const width = NOTE_TYPE.width * scale;
  const text = asChecks(tasks.trim());
  const height = noteHeightFor(text, { width, scale });
  const centre = { x: extent.x - width / 2 - 24 * scale, y: extent.y + height / 2 };
  return createNote({ id, stack: keysOnTop(items.values(), 1)[0]!, centre, width, height, scale, text });
}

type Made = Pick<Result, 'board' | 'changes' | 'known'>;

/** Makes changes, some at a time; those that are refused are left out, each with its reason. */
async function makeChanges(
  { means: { knex, queue }, owner, leftOut }: Reading,
  board: string,
  changes: readonly { readonly change: object; readonly what: string }[],
  by: string | null,
): Promise<ChangeOutcome[]> {
  const values = changes.map(({ change }) => change);
  const outcomes = await acceptChanges(knex, queue, owner, board, values, by);
  for (const [index, outcome] of outcomes.entries())
    if ('refused' in outcome) leftOut.push({ what: changes[index]!.what, why: outcome.refused.title });
  return outcomes;
}

async function asBoard(reading: Reading): Promise<Made> {
  const { id, means, owner, file, here } = reading;
  const { knex } = means;
  const { name, surround, forWhom = '', question = '', due = null } = file.board;
  // Begun anew after its process ended, it goes on with the same board: everything it makes has an id of its own.
  await addBoard(knex, owner, id, cleanName(name) || 'Board');
  await updateBoard(knex, owner, id, { surround, forWhom, question, due });
  const told = new Map(file.pictures.map((picture) => [picture.id, picture]));
  const items = file.items.map((item) => itemHere(item, here, told));
  for (let from = 0; from < items.length; from += ITEMS_AT_ONCE)
    await makeItems(reading, items.slice(from, from + ITEMS_AT_ONCE), from);
  const { tasks = '' } = file;
  if (tasks.trim() !== '') {
    const standing = new Map((await findItems(knex, id)).map((item) => [item.id, item]));
    await makeItems(reading, [tasksBeside(standing, tasks, idWithin(id, 'tasks'))], items.length);
  }
  const revision = (await findBoard(knex, owner, id))!.revision;
  await recordOrigin(knex, id, file.from, revision);
  return { board: id, changes: revision, known: 0 };
}

/** Items in one change; where one of them is refused, each alone, so that it keeps no other out. */
async function makeItems(reading: Reading, items: readonly object[], first: number): Promise<void> {
  const { id: board, means, owner } = reading;
  const all = { id: idWithin(board, `items ${first}`), operations: items.map((create) => ({ create })) };
  const [outcome] = await acceptChanges(means.knex, means.queue, owner, board, [all]);
  if (outcome && !('refused' in outcome)) return;
  const each = items.map((create, index) => ({
    change: { id: idWithin(board, `item ${first + index}`), operations: [{ create }] },
    what: `Item ${first + index + 1}, “${String((create as { kind?: unknown }).kind).slice(0, 40)}”`,
  }));
  for (let from = 0; from < each.length; from += CHANGE_LIMITS.changes)
    await makeChanges(reading, board, each.slice(from, from + CHANGE_LIMITS.changes), null);
}

async function merge(reading: Reading, board: string, by: string | null): Promise<Made> {
  const { means, owner, file, here } = reading;
  const { knex } = means;
  const target = (await findBoardsWithOrigin(knex, owner)).find(({ id }) => id === board);
  const entries = target && mergeable(file, target, await findDatabaseId(knex));
  if (!target || !entries)
    throw new ZipError('It shares no past with that board, or carries too much of it.');
  const told = new Map(file.pictures.map((picture) => [picture.id, picture]));
  const idOf = ({ change }: (typeof entries)[number]) => String((change as { id?: unknown }).id);
  const known = await findKnownChanges(knex, board, entries.map(idOf).filter(isUuid));
  let made = 0;
  // One after the other by whose they are: a change bears one name.
  for (const [name, some] of runsBy(
    entries.filter((entry) => !known.has(idOf(entry))),
    by,
  )) {
    const changes = some.map(({ change, at }) => {
      const { operations } = change as { operations?: unknown };
      const mapped = Array.isArray(operations)
        ? { ...change, operations: operations.map((one) => operationHere(one, here, told)) }
        : change;
      return { change: mapped, what: `A change of ${at.slice(0, 16).replace('T', ', ')}` };
    });
    const outcomes = await makeChanges(reading, board, changes, name);
    made += outcomes.filter((outcome) => !('refused' in outcome)).length;
  }
  if (target.origin && target.origin.board === file.from.board)
    await moveOrigin(knex, board, file.from.revision);
  return { board, changes: made, known: known.size };
}

/** What was done there until now is here from now on. */
async function moveOrigin(knex: Knex, board: string, revision: number): Promise<void> {
  await knex.raw(
    `update boards set origin = jsonb_set(origin, '{revision}', to_jsonb(?::bigint))
     where id = ? and (origin ->> 'revision')::bigint < ?`,
    [revision, board, revision],
  );
}

type Entry = NonNullable<BoardFile['changes']>[number];

/** Changes that follow each other and are by one person, few enough to be made at once. */
function* runsBy(entries: readonly Entry[], otherwise: string | null): Generator<[string | null, Entry[]]> {
  let run: Entry[] = [];
  let name: string | null = null;
  let operations = 0;
  for (const entry of entries) {
    const by = entry.by ?? otherwise;
    const count = ((entry.change as { operations?: unknown[] }).operations ?? []).length;
    const isFull = run.length >= CHANGE_LIMITS.changes || operations + count > CHANGE_LIMITS.operations;
    if (run.length > 0 && (by !== name || isFull)) {
      yield [name, run];
      run = [];
      operations = 0;
    }
    name = by;
    operations += count;
    run.push(entry);
  }
  if (run.length > 0) yield [name, run];
}
