import {
  type IntakeType,
  isPostered,
  type Level,
  ladderSidesOf,
  needsTiles,
  sizeAtSide,
} from '@miradero/core/picture';
import sharp from 'sharp';
import { rgbaToThumbHash } from 'thumbhash';
import { findBoardsOfPicture } from '../database/board-items.ts';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findSettings } from '../database/owner-settings.ts';
import {
  completeSource,
  nameByTitle,
  recordFacts,
  recordFailure,
  recordLevels,
} from '../database/pictures.ts';
import { openPicture } from '../pixels/open-picture.ts';
import { readFacts } from '../pixels/read-facts.ts';
import { readBytes, storeBytes } from '../storage/blob-store.ts';
import { COPIES_QUEUE, type Queue, queueAtlas, queuePreview, TILES_QUEUE } from './queue.ts';

const WEBP = { quality: 84, effort: 1, smartSubsample: true } as const;
/** The longest side that a thumbhash is computed from. Source: thumbhash 0.1, `rgbaToThumbHash` refuses more than 100. */
const THUMBHASH_SIDE = 100;

interface Raw {
  readonly data: Buffer;
  readonly info: { width: number; height: number; channels: 1 | 2 | 3 | 4 };
}

const fromRaw = ({ data, info }: Raw) =>
  sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } });

/** Kinds of which browsers show every pixel as it is meant; the others get a lossless copy. */
const READ_BY_BROWSERS = new Set<string>([
  'image/jpeg',
  'image/png',
  'image/webp',
  'image/avif',
  'image/gif',
]);

/** Upright and in sRGB. Decodes no larger than `side`; smaller levels are made from these pixels. */
async function decodeTop(picture: PictureBytes, side: number): Promise<Raw> {
  const opened = await openPicture(picture.original, picture.type, picture.width, picture.height);
  const { data, info } = await opened
    .autoOrient()
    .resize(side, side, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, info: info as Raw['info'] };
}

/** The bytes of a picture, with what intake read from their head. */
export interface PictureBytes {
  readonly original: Buffer;
  readonly type: IntakeType;
  readonly width: number;
  readonly height: number;
  readonly colour?: string | null;
}

/** A lossless copy in sRGB of a picture that browsers cannot read, or not in its colours; undefined where none is needed. */
export async function makeReadingMaster(picture: PictureBytes): Promise<Buffer | undefined> {
  const { original, type, width, height, colour } = picture;
  const isRead = READ_BY_BROWSERS.has(type) && !colour?.startsWith('CMYK');
  if (isRead || needsTiles(width, height)) return undefined;
  const opened = await openPicture(original, type, width, height);
  return opened.autoOrient().toColourspace('srgb').webp({ lossless: true, effort: 0 }).toBuffer();
}

export interface MadeLevels {
  readonly levels: { readonly side: number; readonly bytes: Buffer }[];
  readonly thumbhash: string;
}

/** Makes the ladder and the thumbhash of a picture. @throws Error when its pixels cannot be read */
export async function makeLevels(picture: PictureBytes): Promise<MadeLevels> {
  const { width, height } = picture;
  const sides = ladderSidesOf(width, height).reverse();
  let source = await decodeTop(picture, sides[0]!);
  const levels: MadeLevels['levels'] = [];
  for (const side of sides) {
    const size = sizeAtSide(width, height, side);
    if (size.width !== source.info.width || size.height !== source.info.height) {
      const { data, info } = await fromRaw(source)
        .resize(size.width, size.height, { fit: 'fill' })
        .toBuffer({ resolveWithObject: true });
      source = { data, info: info as Raw['info'] };
    }
    levels.push({ side, bytes: await fromRaw(source).webp(WEBP).toBuffer() });
  }
  const small = await fromRaw(source)
    .resize(THUMBHASH_SIDE, THUMBHASH_SIDE, { fit: 'inside', withoutEnlargement: true })
    .ensureAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const hash = rgbaToThumbHash(small.info.width, small.info.height, small.data);
  return { levels: levels.reverse(), thumbhash: Buffer.from(hash).toString('base64') };
}

/** What the file tells of itself; where a page or person said something already, that stays. */
async function keepFacts(knex: Knex, owner: string, picture: string, original: Buffer): Promise<void> {
  const { positions = false } = await findSettings(knex, owner);
  const { facts, source } = readFacts(original, positions);
  await recordFacts(knex, picture, facts);
  await completeSource(knex, picture, source);
  if (source.title) await nameByTitle(knex, picture, source.title);
}

/** The job: makes and stores the levels of one picture, or records why that cannot be done. */
export async function runLevelsJob(knex: Knex, queue: Queue, picture: string): Promise<void> {
  const row = await knex('pictures')
    .where({ id: picture })
    .first('owner', 'sha256', 'type', 'width', 'height', 'colour', 'state', 'poster');
  if (!row || row.state === 'ready') return;
  const original = await readBytes(knex, row.sha256);
  await keepFacts(knex, row.owner, picture, original);
  if (isPostered(row.type) && row.poster === null) {
    await recordFailure(knex, picture, 'It is kept, but no browser has made a picture of it yet.');
    await notifyNews(knex, row.owner, { kind: 'picture', picture });
    return;
  }
  const bytes: PictureBytes = row.poster
    ? { ...row, type: 'image/webp', original: await readBytes(knex, row.poster) }
    : { ...row, original };
  let made: MadeLevels;
  let reading: Buffer | undefined;
  try {
    made = await makeLevels(bytes);
    reading = await makeReadingMaster(bytes);
  } catch (cause) {
    const reason = cause instanceof Error ? cause.message.split('\n')[0]! : String(cause);
    await recordFailure(knex, picture, `The picture is kept, but its pixels cannot be read: ${reason}`);
    await notifyNews(knex, row.owner, { kind: 'picture', picture });
    return;
  }
  await knex.transaction(async (trx) => {
    const levels: Level[] = [];
    for (const { side, bytes } of made.levels) {
      levels.push({ side, bytes: bytes.length, hash: await storeBytes(trx, bytes, 'image/webp') });
    }
    const master = reading ? await storeBytes(trx, reading, 'image/webp') : null;
    await recordLevels(trx, picture, levels, made.thumbhash, master);
    await notifyNews(trx, row.owner, { kind: 'picture', picture });
    await queueAtlas(queue, trx, row.owner);
    for (const board of await findBoardsOfPicture(trx, picture)) await queuePreview(queue, trx, board);
    if (needsTiles(row.width, row.height)) await queue.send(trx, TILES_QUEUE, { picture });
    await queue.send(trx, COPIES_QUEUE, { picture });
  });
}
