import { createWriteStream } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { isSeen, isStanding } from '@miradero/core/board';
import { markAsSvg, viewerPage, viewerScript } from '@miradero/core/board-file';
import { surroundColour } from '@miradero/core/colour';
import {
  escapedMarkup,
  PALETTE_FILES,
  pageOfHtml,
  sourceLineOf,
  sourcesAsCsv,
  sourcesAsHtml,
  sourcesAsTable,
  textAsHtml,
} from '@miradero/core/formats';
import { isNote, isPalette, isPictureMark, picturesOf } from '@miradero/core/items';
import { portableName } from '@miradero/core/picture';
import type { BoardFile, BoardFilePicture, BoardFilePictures, Item, Picture } from '@miradero/core/schema';
import { ZipFile } from 'yazl';
import {
  type BoardForFile,
  findBoardForFile,
  findPastChanges,
  findPicturesEverOn,
  findPosters,
  noteLeft,
} from '../database/board-files.ts';
import { findItems } from '../database/board-items.ts';
import type { Knex } from '../database/connection.ts';
import { findNamedStates } from '../database/history.ts';
import { findDatabaseId } from '../database/owner.ts';
import { findPicturesById } from '../database/pictures.ts';
import { viewerProgram } from '../programs.ts';
import { findBlob, readBlob } from '../storage/blob-store.ts';
import type { Made } from './make-flat.ts';
import { viewerBoardOf } from './viewer-board.ts';

export interface MakingBoardFile {
  readonly owner: string;
  readonly board: string;
  readonly name: string;
  readonly pictures: BoardFilePictures;
  /** For a class; '' for nothing. */
  readonly tasks: string;
  /** It is given by a link: nothing but what is seen goes along, no past, and nothing that was noted to oneself. */
  readonly isForLooking: boolean;
  /** Longest side of the copies that go along, pixels. */
  readonly side: number;
  readonly folder: string;
  /** Throws when it is not wanted any more. */
  readonly isWanted: () => Promise<void>;
  readonly tell: (share: number) => void;
}

/** Changes of a board that goes back and forth; larger ones stay, and the board can only be read whole, bytes. */
const MOST_CHANGES_BYTES = 24 * 1024 * 1024;

/** The smallest copy whose longest side is at least `side`, else the largest there is. */
const levelFor = (picture: Picture, side: number) =>
  picture.levels.find((level) => level.side >= side) ?? picture.levels.at(-1);

const ENDING = /\.[A-Za-z0-9]{1,8}$/;

/** Writes a ZIP, stored as it is, a piece at a time; above 4 GB as ZIP64. */
class Writer {
  readonly #zip = new ZipFile();
  readonly #knex: Knex;
  readonly #written: Promise<void>;
  readonly #making: MakingBoardFile;
  readonly #folder: string;

  constructor(knex: Knex, making: MakingBoardFile, path: string) {
    this.#knex = knex;
    this.#making = making;
    this.#folder = portableName(making.name);
    this.#written = pipeline(this.#zip.outputStream, createWriteStream(path));
    this.#written.catch(() => {});
  }

  text(name: string, text: string): void {
    this.#zip.addBuffer(Buffer.from(text), `${this.#folder}/${name}`, { compress: false });
  }

  /** Bytes that are kept, read when it is their turn. @throws Error when they are not there */
  async blob(name: string, hash: string): Promise<void> {
    const facts = await findBlob(this.#knex, hash);
    if (!facts) throw new Error(`no bytes are kept under ${hash}`);
    await this.#making.isWanted();
    await new Promise<void>((resolve, reject) => {
      const stream = readBlob(this.#knex, hash, facts);
      stream.once('error', reject);
      stream.once('end', resolve);
      this.#written.catch(reject);
      this.#zip.addReadStream(stream, `${this.#folder}/${name}`, { compress: false, size: facts.bytes });
    });
  }

  async finish(): Promise<void> {
    this.#zip.end();
    await this.#written;
  }
}

/** What of a picture goes into the file, and under which name. */
interface Along {
  readonly picture: Picture;
  /** Bytes that go along; undefined: nothing of it does. */
  readonly hash: string | undefined;
  readonly told: BoardFilePicture;
  readonly posterHash: string | undefined;
}

function alongOf(
  picture: Picture,
  { pictures: mode, side, isForLooking }: MakingBoardFile,
  isShown: boolean,
  poster: string | undefined,
): Along {
  const { id, name, sha256, bytes, type, width, height, fileName, source, useMark } = picture;
  const level = mode === 'copies' ? levelFor(picture, side) : undefined;
  // One smaller than the copies that are wanted goes as it is.
  const isCopy = level !== undefined && Math.max(width, height) > level.side;
  const goes = isShown && (mode !== 'copies' || picture.state === 'ready');
  const ending = isCopy ? '.webp' : (ENDING.exec(fileName)?.[0].toLowerCase() ?? '');
  const scale = isCopy ? level.side / Math.max(width, height) : 1;
  const path = `${isCopy ? 'copies' : 'originals'}/${id}${ending}`;
  const hasPoster = goes && !isCopy && poster !== undefined;
  return {
    picture,
    hash: goes ? (isCopy ? level.hash : sha256) : undefined,
    posterHash: hasPoster ? poster : undefined,
    told: {
      ...{ id, name, original: { sha256, bytes, type, width, height, fileName } },
      file: goes ? path : null,
      copy: isCopy
        ? { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) }
        : null,
      ...(hasPoster ? { poster: `posters/${id}.webp` } : {}),
      ...{ source, useMark, note: isForLooking ? '' : picture.note },
      ...{ tags: isForLooking ? [] : [...picture.tags], purposes: isForLooking ? [] : [...picture.purposes] },
      ...{ pile: isForLooking ? null : picture.pile, isToScale: picture.isToScale },
      ...(picture.facts.stance ? { stance: picture.facts.stance } : {}),
    } as BoardFilePicture,
  };
}

async function boardJsonOf(
  knex: Knex,
  { board: id, tasks, isForLooking }: MakingBoardFile,
  board: BoardForFile,
  items: readonly Item[],
  along: readonly Along[],
): Promise<BoardFile> {
  const from = { database: await findDatabaseId(knex), board: id, revision: board.revision };
  const since = isForLooking ? board.revision : (board.originBase ?? board.leftRevision ?? board.revision);
  const named = isForLooking ? [] : await findNamedStates(knex, id);
  return {
    ...{ kind: 'board', version: 1, savedAt: new Date().toISOString() },
    board: {
      ...{ name: board.name, surround: board.surround },
      ...(isForLooking ? {} : { forWhom: board.forWhom, question: board.question, due: board.due }),
    },
    ...{ origin: board.origin ?? from, from },
    pictures: along.map(({ told }) => told),
    items: items as unknown as BoardFile['items'],
    changes: (await findPastChanges(knex, id, since, MOST_CHANGES_BYTES)) as unknown as BoardFile['changes'],
    ...(tasks.trim() === '' ? {} : { tasks: tasks.trim() }),
    named: named.map(({ revision, name }) => ({ revision, name })),
  };
}

/** What reads well outside: remarks, marks, palettes, sources and licences. */
function writeOpenParts(
  writer: Writer,
  board: BoardForFile,
  items: readonly Item[],
  along: readonly Along[],
): void {
  for (const item of items) {
    if (item.removed) continue;
    if (isNote(item)) writer.text(`notes/${item.id}.html`, pageOfHtml(board.name, textAsHtml(item.text)));
    const mark = markAsSvg(item);
    if (mark) writer.text(`marks/${item.id}.svg`, mark);
    if (isPalette(item)) {
      const { ending, write } = PALETTE_FILES.json;
      const swatches = item.swatches.map(({ hex, share, name }) => ({ hex, share, name }));
      writer.text(`palettes/${item.id}${ending}`, write({ name: item.title, swatches }));
    }
  }
  const lines = along.filter(({ hash }) => hash).map(({ picture }) => sourceLineOf(picture));
  writer.text('credits.csv', sourcesAsCsv(lines));
  writer.text('credits.html', sourcesAsHtml(`Pictures of “${board.name}”`, lines));
}

/** What is to be done, and the pictures to do it with: who made them, and where they are from. */
function pageOfTasks(name: string, tasks: string, along: readonly Along[]): string {
  const lines = along.filter(({ hash }) => hash).map(({ picture }) => sourceLineOf(picture));
  const body = `<h1>${escapedMarkup(name)}</h1>\n${textAsHtml(tasks.trim())}\n<h2>Pictures</h2>\n${sourcesAsTable(lines)}`;
  return pageOfHtml(name, body);
}

/** Items that go along. */
async function itemsFor(knex: Knex, { board, isForLooking }: MakingBoardFile): Promise<Item[]> {
  const all = await findItems(knex, board);
  if (!isForLooking) return all;
  const map = new Map(all.map((item) => [item.id, item]));
  const seen = all.filter((item) => isSeen(map, item));
  const shown = new Set(seen.map((item) => item.id));
  // What was drawn on a picture is seen on it.
  const drawn = all.filter((item) => isStanding(item) && isPictureMark(item) && shown.has(item.on));
  return [...seen, ...drawn];
}

/** Makes a board one open file that shows itself. @returns undefined where the board is gone */
export async function makeBoardFile(
  knex: Knex,
  making: MakingBoardFile,
): Promise<(Made & { readonly name: string }) | undefined> {
  const { owner, board: id, folder, tell, name } = making;
  const board = await findBoardForFile(knex, id);
  if (!board) return undefined;
  const all = await itemsFor(knex, making);
  const ever = making.isForLooking ? [] : await findPicturesEverOn(knex, id);
  const ids = [...new Set([...ever, ...all.flatMap(picturesOf)])];
  const pictures = new Map((await findPicturesById(knex, owner, ids)).map((one) => [one.id, one]));
  const mayGo = (picture: string) => making.pictures !== 'work' || pictures.get(picture)?.useMark === 'work';
  const items = all.filter((item) => picturesOf(item).every(mayGo));
  const shown = new Set(items.filter(isStanding).flatMap(picturesOf));
  const posters = await findPosters(knex, ids);
  const along = [...pictures.values()]
    .filter((picture) => mayGo(picture.id))
    .map((picture) => alongOf(picture, making, shown.has(picture.id), posters.get(picture.id)));
  const path = join(folder, 'board.zip');
  const writer = new Writer(knex, making, path);
  writer.text('board.json', JSON.stringify(await boardJsonOf(knex, making, board, items, along)));
  const ground = surroundColour(board.surround);
  const copies = along.flatMap(({ picture, hash }) => (hash ? [picture] : []));
  writer.text('index.html', viewerPage(board.name, ground));
  const { viewer, paths } = viewerBoardOf(
    board.name,
    ground,
    items,
    new Map(copies.map((one) => [one.id, one])),
  );
  writer.text('viewer.js', viewerScript(viewer, await viewerProgram()));
  writeOpenParts(writer, board, items, along);
  if (making.tasks.trim() !== '') writer.text('tasks.html', pageOfTasks(board.name, making.tasks, along));
  const preview = await knex('boards').where({ id }).first('preview');
  if (preview?.preview) await writer.blob('preview.webp', preview.preview);
  for (const { path: to, hash } of paths) await writer.blob(to, hash);
  const bytes = along.reduce((sum, one) => sum + (one.hash ? one.picture.bytes : 0), 0);
  let done = 0;
  for (const { hash, told, picture, posterHash } of along) {
    if (!hash || !told.file) continue;
    await writer.blob(told.file, hash);
    if (posterHash && told.poster) await writer.blob(told.poster, posterHash);
    done += picture.bytes;
    tell(done / Math.max(1, bytes));
  }
  await writer.finish();
  if (!making.isForLooking) await noteLeft(knex, id, board.revision);
  const missing = [...shown].filter((one) => !along.some(({ told, hash }) => told.id === one && hash)).length;
  return {
    path,
    type: 'application/zip',
    width: null,
    height: null,
    missing,
    name: `${portableName(name)}.board.zip`,
  };
}
