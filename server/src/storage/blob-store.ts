import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Knex } from '../database/connection.ts';
import { makeWorkFolder } from './work-folders.ts';

/** One value of 60 MB cost 2.4 s and 330 MB of memory; pieces of this size cost neither. */
const PIECE_BYTES = 250_000;
const PIECES_A_STATEMENT = 8;

export interface BlobFacts {
  readonly bytes: number;
  readonly type: string;
}

export const sha256Of = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

async function writePieces(trx: Knex, hash: string, first: number, pieces: readonly Buffer[]): Promise<void> {
  if (pieces.length === 0) return;
  await trx('blob_pieces').insert(pieces.map((piece, index) => ({ hash, number: first + index, piece })));
}

/** Claims the hash; false when the bytes are kept already. */
async function claim(trx: Knex, hash: string, { bytes, type }: BlobFacts): Promise<boolean> {
  // A known one is renewed, so that it is not swept away before it is named again.
  const { rows } = await trx.raw(
    `insert into blobs (hash, bytes, type) values (?, ?, ?)
     on conflict (hash) do update set created_at = now(), unnamed_since = null returning xmax = 0 as is_new`,
    [hash, bytes, type],
  );
  return rows[0].is_new;
}

/** Stores bytes held in memory (levels, atlases). @returns their SHA-256 */
export async function storeBytes(trx: Knex, bytes: Buffer, type: string): Promise<string> {
  const hash = sha256Of(bytes);
  if (!(await claim(trx, hash, { bytes: bytes.length, type }))) return hash;
  const pieces: Buffer[] = [];
  for (let at = 0; at < bytes.length; at += PIECE_BYTES) pieces.push(bytes.subarray(at, at + PIECE_BYTES));
  for (let at = 0; at < pieces.length; at += PIECES_A_STATEMENT) {
    await writePieces(trx, hash, at, pieces.slice(at, at + PIECES_A_STATEMENT));
  }
  return hash;
}

/** Stores a file whose hash is known, a few pieces in memory at a time. */
export async function storeFile(trx: Knex, path: string, hash: string, facts: BlobFacts): Promise<void> {
  if (!(await claim(trx, hash, facts))) return;
  let number = 0;
  let waiting: Buffer[] = [];
  for await (const piece of createReadStream(path, { highWaterMark: PIECE_BYTES })) {
    waiting.push(piece as Buffer);
    if (waiting.length === PIECES_A_STATEMENT) {
      await writePieces(trx, hash, number, waiting);
      number += waiting.length;
      waiting = [];
    }
  }
  await writePieces(trx, hash, number, waiting);
}

export async function findBlob(knex: Knex, hash: string): Promise<BlobFacts | undefined> {
  const row = await knex('blobs').where({ hash }).first('bytes', 'type');
  return row && { bytes: Number(row.bytes), type: row.type };
}

/** Bytes `start` to `end` of a blob, both counted in. */
export interface Span {
  readonly start: number;
  readonly end: number;
}

async function* piecesOf(knex: Knex, hash: string, { start, end }: Span): AsyncGenerator<Buffer> {
  const last = Math.floor(end / PIECE_BYTES);
  for (let from = Math.floor(start / PIECE_BYTES); from <= last; from += PIECES_A_STATEMENT) {
    const rows = await knex('blob_pieces')
      .where({ hash })
      .andWhere('number', '>=', from)
      .andWhere('number', '<=', Math.min(last, from + PIECES_A_STATEMENT - 1))
      .orderBy('number')
      .select('number', 'piece');
    for (const { number, piece } of rows as { number: number; piece: Buffer }[]) {
      const at = number * PIECE_BYTES;
      yield piece.subarray(Math.max(0, start - at), end + 1 - at);
    }
  }
}

/** The bytes of a blob, or a span of them, as a stream. */
export const readBlob = (knex: Knex, hash: string, facts: BlobFacts, span?: Span): Readable =>
  facts.bytes === 0
    ? Readable.from([])
    : Readable.from(piecesOf(knex, hash, span ?? { start: 0, end: facts.bytes - 1 }), { objectMode: false });

/**
 * Lays blobs down as files of a temporary folder and hands their paths to `use`, undefined for what is not named; the
 * folder is gone afterwards, whatever happens. @throws Error when one of them is not there
 */
export async function withBlobFiles<T>(
  knex: Knex,
  hashes: readonly (string | null | undefined)[],
  use: (paths: readonly (string | undefined)[]) => Promise<T>,
): Promise<T> {
  const folder = await makeWorkFolder();
  try {
    const paths: (string | undefined)[] = [];
    for (const [index, hash] of hashes.entries()) {
      const path = hash ? join(folder, String(index)) : undefined;
      paths.push(path);
      if (!hash || !path) continue;
      const facts = await findBlob(knex, hash);
      if (!facts) throw new Error(`no bytes are kept under ${hash}`);
      await pipeline(readBlob(knex, hash, facts), createWriteStream(path));
    }
    return await use(paths);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The whole of a blob in memory. @throws Error when there is none */
export async function readBytes(knex: Knex, hash: string): Promise<Buffer> {
  const rows = await knex('blob_pieces').where({ hash }).orderBy('number').select('piece');
  if (rows.length === 0) throw new Error(`no bytes are kept under ${hash}`);
  return Buffer.concat(rows.map((row) => row.piece));
}
