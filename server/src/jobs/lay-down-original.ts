import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import type { Picture } from '@miradero/core/schema';
import type { Knex } from '../database/connection.ts';
import { findBlob, readBlob } from '../storage/blob-store.ts';
import type { Made } from './make-flat.ts';

/** Lays the bytes down as they came. @throws Error when they are not there */
export async function layDownOriginal(knex: Knex, picture: Picture, path: string): Promise<Made> {
  const facts = await findBlob(knex, picture.sha256);
  if (!facts) throw new Error(`no bytes are kept under ${picture.sha256}`);
  await pipeline(readBlob(knex, picture.sha256, facts), createWriteStream(path));
  return { path, type: facts.type, width: picture.width, height: picture.height, missing: 0 };
}
