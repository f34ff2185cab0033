import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { INTAKE_LIMITS } from '@miradero/core/picture';
import { storableText } from '@miradero/core/text';
import busboy from 'busboy';
import type { Request } from 'express';
import { ProblemError } from '../requests/problem.ts';
import { makeWorkFolder } from '../storage/work-folders.ts';

/** What came with the files: one poster, and what is known of the file, as text. */
export interface Accompanying {
  readonly poster: ReceivedFile | undefined;
  readonly about: string | undefined;
  readonly tooMany: boolean;
}

/** One file of a request as it lies in a temporary folder. */
export interface ReceivedFile {
  readonly fileName: string;
  readonly path: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly isCutOff: boolean;
}

const UNREADABLE =
  'The upload broke off, or is no form that can be read: a name may be too long or hold odd characters.';

function hashing(): { stream: Transform; result: () => { bytes: number; sha256: string } } {
  const hash = createHash('sha256');
  let bytes = 0;
  const stream = new Transform({
    transform(piece: Buffer, _encoding, done) {
      hash.update(piece);
      bytes += piece.length;
      done(null, piece);
    },
  });
  return { stream, result: () => ({ bytes, sha256: hash.digest('hex') }) };
}

/** @throws ProblemError `malformed` for a form without a boundary */
function formOf(request: Request, fileSize: number): ReturnType<typeof busboy> {
  let form: ReturnType<typeof busboy>;
  try {
    form = busboy({
      headers: request.headers,
      defParamCharset: 'utf8',
      limits: { fileSize, files: INTAKE_LIMITS.files, fields: 10, fieldSize: 20_000 },
    });
  } catch {
    throw new ProblemError('malformed', UNREADABLE);
  }
  // One that fails fails again when it is destroyed; an `error` that nobody hears would end the process.
  form.on('error', () => {});
  return form;
}

/** Lets the form read the request to its end. A form that cannot be read leaves the connection open for the answer. */
async function feed(request: Request, form: ReturnType<typeof busboy>): Promise<void> {
  try {
    await new Promise((resolve, reject) => {
      form.once('close', resolve);
      form.once('error', reject);
      request.once('error', reject);
      request.once('aborted', () => reject(new Error('the request was cut off')));
      request.pipe(form);
    });
  } catch {
    request.unpipe(form);
    request.resume();
    form.destroy();
    throw new ProblemError('malformed', UNREADABLE);
  }
}

/**
 * Streams the files of a multipart request to disk, hashing as they come, and hands them to `use`; the folder is gone
 * afterwards, whatever happens.
 *
 * @param mostBytes - of one file; a larger one is cut off, and says so
 * @throws ProblemError `not-multipart`, `malformed`
 */
export async function withReceivedFiles<T>(
  request: Request,
  use: (files: readonly ReceivedFile[], others: Accompanying) => Promise<T>,
  mostBytes: number = INTAKE_LIMITS.bytes,
): Promise<T> {
  if (!/^multipart\/form-data/i.test(request.headers['content-type'] ?? ''))
    throw new ProblemError('not-multipart');
  const folder = await makeWorkFolder();
  try {
    const writing: Promise<ReceivedFile>[] = [];
    let poster: Promise<ReceivedFile> | undefined;
    let about: string | undefined;
    let tooMany = false;
    const form = formOf(request, mostBytes);
    form.on('file', (field, stream, { filename }) => {
      if (field !== 'file' && (field !== 'poster' || poster)) {
        stream.resume();
        return;
      }
      const path = join(folder, field === 'poster' ? field : String(writing.length));
      stream.on('error', () => {});
      const { stream: hasher, result } = hashing();
      const written = pipeline(stream, hasher, createWriteStream(path)).then(() => ({
        fileName: storableText(filename ?? ''),
        path,
        ...result(),
        isCutOff: stream.truncated === true,
      }));
      written.catch(() => {});
      if (field === 'poster') poster = written;
      else writing.push(written);
    });
    form.on('field', (field, value) => {
      if (field === 'about') about = value;
    });
    form.on('filesLimit', () => {
      tooMany = true;
    });
    await feed(request, form);
    return await use(await Promise.all(writing), { poster: await poster, about, tooMany });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
