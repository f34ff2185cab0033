import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { drawList, marksByPicture, takenOut, withMarks } from '@miradero/core/board';
import { annotationsAsJsonLd, MOST_PAGE_MM } from '@miradero/core/formats';
import { isAsItCame, isMark, isPictureMark, isPlacement, picturesOf } from '@miradero/core/items';
import { fileNameOf } from '@miradero/core/picture';
import type { Item } from '@miradero/core/schema';
import { EXPORT_TYPES } from '@miradero/core/schema';
import { findItems } from '../database/board-items.ts';
import { findBoardForPreview } from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { findExport, type KeptExport, recordExport } from '../database/exports.ts';
import { findPicturesById } from '../database/pictures.ts';
import type { Decoding } from '../pixels/decoding/decoders.ts';
import { storeFile } from '../storage/blob-store.ts';
import { makeWorkFolder } from '../storage/work-folders.ts';
import { layDownOriginal } from './lay-down-original.ts';
import { makeBoardFile } from './make-board-file.ts';
import { makeDrawing } from './make-drawing.ts';
import { type Made, type MakingFlat, makeFlat } from './make-flat.ts';
import { makeLayers } from './make-layers.ts';
import { makePages } from './make-pages.ts';
import { makeZip, type ZipEntry } from './make-zip.ts';
import type { TellProgress } from './progress.ts';

/** Whoever asked for it does not want it any more. */
class Stopped extends Error {}

/** Of copies that go along where nobody chose, pixels. */
const COPIES_SIDE = 1024;

/** How often it is asked whether it is still wanted, ms. */
const ASK_MS = 500;

/** Asks now and then whether an export is still wanted. @throws Stopped when it is not */
function stillWanted(knex: Knex, id: string): () => Promise<void> {
  let askedAt = 0;
  return async () => {
    if (performance.now() - askedAt < ASK_MS) return;
    askedAt = performance.now();
    const now = await findExport(knex, id);
    if (now?.state !== 'working') throw new Stopped();
  };
}

async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(path)) hash.update(piece as Buffer);
  return hash.digest('hex');
}

/** The last try failed, for whatever reason: it says so instead of waiting for ever. */
export async function leaveExport(knex: Knex, id: string): Promise<void> {
  await recordExport(knex, id, { state: 'failed', why: 'It could not be made, and was given up.' });
}

/** The job: makes what is taken out of a board, as it is now, and keeps it for a day. */
export async function runExportJob(
  knex: Knex,
  decoders: Decoding,
  id: string,
  tell: TellProgress,
): Promise<void> {
  const asked = await findExport(knex, id);
  if (!asked || !(await recordExport(knex, id, { state: 'working' }))) return;
  const folder = await makeWorkFolder();
  try {
    const made = await make(knex, decoders, asked, folder, {
      tell: (share) => tell(asked.owner, share),
      isWanted: stillWanted(knex, id),
    });
    if (!made) {
      const why = 'There is nothing to take out any more.';
      await recordExport(knex, id, { state: 'failed', why });
      return;
    }
    const { path, type, name, width, height, missing } = made;
    const bytes = (await stat(path)).size;
    const hash = await hashOf(path);
    await knex.transaction(async (trx) => {
      await storeFile(trx, path, hash, { bytes, type });
      await recordExport(trx, id, { state: 'done', name, width, height, missing, hash, bytes });
    });
  } catch (error) {
    if (!(error instanceof Stopped)) throw error;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

interface Watching {
  readonly tell: (share: number) => void;
  readonly isWanted: () => Promise<void>;
}

interface Other {
  readonly request: KeptExport['request'];
  readonly name: string;
  readonly tell: (share: number) => void;
  readonly items: ReadonlyMap<string, Item>;
  readonly making: MakingFlat;
}

/** Of a page where nobody chose: what a screen shows of it, pixels an inch. */
const SCREEN_PPI = 96;
const MM_PER_INCH = 25.4;

/** What other programs read as more than pixels; undefined where something else is asked for. */
async function makeOther(
  knex: Knex,
  decoders: Decoding,
  { request, name, tell, items, making }: Other,
): Promise<(Made & { readonly name: string }) | undefined> {
  switch (request.as) {
    case 'drawing': {
      const { ending, ...made } = await makeDrawing(knex, making, request.isLinked ?? false, tell);
      return { ...made, name: `${name}.${ending}` };
    }
    case 'layers':
      return { ...(await makeLayers(knex, decoders, making, items, tell)), name: `${name}.ora` };
    case 'pages': {
      const widthMm = Math.min(MOST_PAGE_MM, (making.region.width / SCREEN_PPI) * MM_PER_INCH);
      const { print = { widthMm, paper: null, overlapMm: 0, ppi: 200 } } = request;
      return { ...(await makePages(knex, decoders, making, print, name, tell)), name: `${name}.pdf` };
    }
    case 'annotations': {
      const path = join(making.folder, 'annotations.jsonld');
      await writeFile(path, annotationsAsJsonLd(name, [...making.pictures.values()]));
      const made = { path, type: 'application/ld+json', width: null, height: null, missing: 0 };
      return { ...made, name: `${name}.jsonld` };
    }
    default:
      return undefined;
  }
}

async function make(
  knex: Knex,
  decoders: Decoding,
  { owner, board: boardId, request, name }: KeptExport,
  folder: string,
  { tell, isWanted }: Watching,
): Promise<(Made & { readonly name: string }) | undefined> {
  if (request.as === 'board-file') {
    const { pictures = 'originals', side, tasks = '', link } = request;
    return makeBoardFile(knex, {
      ...{ owner, board: boardId, name, folder, tell, isWanted, pictures, tasks },
      isForLooking: link !== undefined,
      side: side ?? COPIES_SIDE,
    });
  }
  const board = await findBoardForPreview(knex, boardId);
  const all = await findItems(knex, boardId);
  const kept = request.withoutMarks ? all.filter((item) => !isMark(item) && !isPictureMark(item)) : all;
  const items = new Map(kept.map((item) => [item.id, item]));
  const marks = marksByPicture(items);
  const taken = takenOut(items, request.items);
  if (!board || !taken) return undefined;
  const ids = new Set(taken.items.flatMap(picturesOf));
  const pictures = new Map((await findPicturesById(knex, owner, [...ids])).map((one) => [one.id, one]));
  const flat = (of: readonly Item[], region: MakingFlat['region'], to: string): MakingFlat => ({
    ...{ list: drawList(withMarks(items, of), region), items: of, region, pictures, folder },
    path: join(folder, to),
    ...{ type: request.type, side: request.side, ground: request.ground, surround: board.surround },
    isWanted,
  });
  const ending = EXPORT_TYPES[request.type];
  if (request.as === 'flat') {
    const made = await makeFlat(knex, decoders, flat(taken.items, taken.region, `flat.${ending}`), tell);
    return { ...made, name: `${name}.${ending}` };
  }
  const other = await makeOther(knex, decoders, {
    ...{ request, name, tell, items, making: flat(taken.items, taken.region, 'flat.png') },
  });
  if (other) return other;
  const each = taken.items.filter(isPlacement);
  const entries: ZipEntry[] = [];
  let missing = 0;
  let only: Made | undefined;
  for (const [index, item] of each.entries()) {
    const tellOne = (share: number) => tell((index + share) / each.length);
    const picture = pictures.get(item.picture);
    if (!picture || picture.state === 'failed') {
      missing += 1;
      continue;
    }
    const one = takenOut(items, [item.id])!;
    const isOriginal = request.side === null && isAsItCame(item) && !marks.has(item.id);
    only = isOriginal
      ? await layDownOriginal(knex, picture, join(folder, `original-${index}`))
      : await makeFlat(knex, decoders, flat([item], one.region, `each-${index}.${ending}`), tellOne);
    missing += only.missing;
    const fileName = fileNameOf(picture.name, ending, isOriginal ? picture.fileName : undefined);
    entries.push({ path: only.path, name: fileName });
    await isWanted();
  }
  if (!only) return undefined;
  if (each.length === 1) return { ...only, name: entries[0]!.name };
  const path = join(folder, 'all.zip');
  await makeZip(path, entries);
  return { path, type: 'application/zip', width: null, height: null, missing, name: `${name}.zip` };
}
