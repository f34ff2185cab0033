import { INTAKE_LIMITS, type Level, ladderSidesOf, sizeAtSide } from '@miradero/core/picture';
import sharp from 'sharp';
import { rgbaToThumbHash } from 'thumbhash';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { recordFailure, recordLevels } from '../database/pictures.ts';
import { readBytes, storeBytes } from '../storage/blob-store.ts';
import { ATLAS_QUEUE, type Queue } from './queue.ts';

const WEBP = { quality: 84, effort: 1, smartSubsample: true } as const;
/** The longest side that a thumbhash is computed from. Source: thumbhash 0.1, `rgbaToThumbHash` refuses more than 100. */
const THUMBHASH_SIDE = 100;

interface Raw {
  readonly data: Buffer;
  readonly info: { width: number; height: number; channels: 1 | 2 | 3 | 4 };
}

const fromRaw = ({ data, info }: Raw) =>
  sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } });

/** Decodes once, upright and in sRGB, no larger than the top level; smaller levels are made from these pixels. */
async function decodeTop(original: Buffer, side: number): Promise<Raw> {
  const { data, info } = await sharp(original, {
    limitInputPixels: INTAKE_LIMITS.pixels,
    pages: 1,
    sequentialRead: true,
  })
    .autoOrient()
    .resize(side, side, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, info: info as Raw['info'] };
}

export interface MadeLevels {
  readonly levels: { readonly side: number; readonly bytes: Buffer }[];
  readonly thumbhash: string;
}

/** Makes the ladder and the thumbhash of a picture. @throws Error when its pixels cannot be read */
export async function makeLevels(original: Buffer, width: number, height: number): Promise<MadeLevels> {
  const sides = ladderSidesOf(width, height).reverse();
  let source = await decodeTop(original, sides[0]!);
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

/** The job: makes and stores the levels of one picture, or records why that cannot be done. */
export async function runLevelsJob(knex: Knex, queue: Queue, picture: string): Promise<void> {
  const row = await knex('pictures')
    .where({ id: picture })
    .first('owner', 'sha256', 'width', 'height', 'state');
  if (!row || row.state === 'ready') return;
  const original = await readBytes(knex, row.sha256);
  let made: MadeLevels;
  try {
    made = await makeLevels(original, row.width, row.height);
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
    await recordLevels(trx, picture, levels, made.thumbhash);
    await notifyNews(trx, row.owner, { kind: 'picture', picture });
    await queue.send(trx, ATLAS_QUEUE, { owner: row.owner }, { singletonKey: row.owner });
  });
}
