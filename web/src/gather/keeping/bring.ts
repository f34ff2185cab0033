import { keysOnTop } from '@miradero/core/board';
import type { Point } from '@miradero/core/geometry';
import { createNote, NOTE_TYPE, noteHeightFor } from '@miradero/core/items';
import { NOTE_MOST } from '@miradero/core/schema';
import { cutText, storableText } from '@miradero/core/text';
import type { Desk } from '../../desk/index.ts';
import { formattedOf } from '../../items/index.ts';
import type { Sync } from '../../sync/index.ts';
import type { Brought, BroughtText } from '../reading/brought.ts';
import { isBoardFile } from '../reading/is-board-file.ts';
import { modelAmong } from '../reading/model-among.ts';
import { ArchiveError, isArchive, openArchive } from '../reading/open-archive.ts';
import { arrive } from './arrive.ts';
import { takeBoardFile } from './board-files.ts';
import { fetchAll } from './errands.ts';
import { gatheringOf } from './gathering.ts';
import { land } from './land.ts';

/** Where what is brought goes: to a point of a board, or without one to the landing. */
export interface Destination {
  readonly sync: Sync;
  readonly desk: Desk | undefined;
  readonly at: Point;
  /** A board that is not in front: files go straight there. */
  readonly board?: { readonly id: string; readonly name: string };
}

/** A board is no archive of pictures: what shall become of it is asked. @returns what is no board */
export async function takeBoards(brought: readonly Brought[]): Promise<Brought[]> {
  const others: Brought[] = [];
  for (const one of brought) {
    const isZip = one.kind === 'file' && (await isArchive(one.file).catch(() => false));
    if (isZip && (await isBoardFile(one.file).catch(() => false))) void takeBoardFile(one.file);
    else others.push(one);
  }
  return others;
}

/** Archives give what is in them. */
async function unpacked(sync: Sync, desk: Desk | undefined, brought: readonly Brought[]): Promise<Brought[]> {
  const found: Brought[] = [];
  for (const one of brought) {
    if (one.kind !== 'file' || !(await isArchive(one.file).catch(() => false))) {
      found.push(one);
      continue;
    }
    try {
      const files = await openArchive(one.file);
      const model = await modelAmong(files);
      // An archive of one model with its surface is the model; the pictures beside it come in as well.
      if (model) found.push(one);
      for (const file of model?.others ?? files) found.push({ kind: 'file', file });
    } catch (error) {
      if (!(error instanceof ArchiveError)) throw error;
      gatheringOf(sync).begin(1);
      gatheringOf(sync).end({ what: one.file.name, why: error.message });
      const words = `${one.file.name} was not taken in. ${error.message}`;
      if (desk) desk.say(words);
      else gatheringOf(sync).say(words);
    }
  }
  return found;
}

/** A piece of text becomes a note where the pointer is, formatted as it came where it came so. */
async function note(desk: Desk, { text: whole, html }: BroughtText, at: Point): Promise<void> {
  const formatted = html === undefined ? undefined : await formattedOf(html);
  const text = formatted ?? cutText(storableText(whole), NOTE_MOST);
  if (typeof text === 'string' && text.length < whole.length)
    desk.say(`A note holds ${NOTE_MOST.toLocaleString('en')} characters; what came after them was left out.`);
  const scale = 1 / (desk.view?.camera.scale ?? 1);
  const width = NOTE_TYPE.width * scale;
  const height = noteHeightFor(text, { width, scale });
  const create = createNote({
    ...{ id: crypto.randomUUID(), stack: keysOnTop(desk.session.items.values(), 1)[0]! },
    ...{ centre: { x: at.x + width / 2, y: at.y + height / 2 }, width, scale, height, text },
    begunAt: new Date().toISOString(),
  });
  desk.session.commit([{ create }]);
  desk.select([create.id]);
}

/** Brings anything in, each kind its own way. */
export async function bring(
  { sync, desk, at, board }: Destination,
  given: readonly Brought[],
): Promise<void> {
  const brought = await unpacked(sync, desk, await takeBoards(given));
  const files = brought.filter((one) => one.kind === 'file');
  const addresses = brought.filter((one) => one.kind === 'address');
  const texts = brought.filter((one) => one.kind === 'text');
  for (const text of texts) {
    if (desk) await note(desk, text, at);
    else gatheringOf(sync).say('A text becomes a note on a board; open one and paste it there.');
  }
  const coming: Promise<unknown>[] = [];
  if (files.length > 0) coming.push(desk ? arrive(desk, files, at) : land(sync, files, board));
  if (addresses.length > 0) coming.push(fetchAll(sync, desk, addresses, at));
  await Promise.all(coming);
}
