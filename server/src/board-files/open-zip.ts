import type { Readable } from 'node:stream';
import { type Entry, fromRandomAccessReader, RandomAccessReader, type ZipFile } from 'yauzl';
import type { Knex } from '../database/connection.ts';
import { type BlobFacts, findBlob, readBlob } from '../storage/blob-store.ts';

/** A file that is no ZIP, or not one that is read here; its message is for the person. */
export class ZipError extends Error {}

/** So many entries are looked at: every picture has four. */
const MOST_ENTRIES = 500_000;
/** What is packed so tightly was made to burst. */
const MOST_RATIO = 100;

class BlobReader extends RandomAccessReader {
  readonly #read: (start: number, end: number) => Readable;
  constructor(knex: Knex, hash: string, facts: BlobFacts) {
    super();
    this.#read = (start, end) => readBlob(knex, hash, facts, { start, end: end - 1 });
  }
  override _readStreamForRange(start: number, end: number): Readable {
    return this.#read(start, end);
  }
}

/** A ZIP that is kept among the blobs, its entries by their names. */
export class OpenZip {
  readonly #zip: ZipFile;
  readonly #entries: ReadonlyMap<string, Entry>;

  private constructor(zip: ZipFile, entries: ReadonlyMap<string, Entry>) {
    this.#zip = zip;
    this.#entries = entries;
  }

  /** @throws ZipError for what is no ZIP, or names what nobody should */
  static async open(knex: Knex, hash: string): Promise<OpenZip> {
    const facts = await findBlob(knex, hash);
    if (!facts) throw new Error(`no bytes are kept under ${hash}`);
    const zip = await new Promise<ZipFile>((resolve, reject) => {
      fromRandomAccessReader(
        new BlobReader(knex, hash, facts),
        facts.bytes,
        // Names with `..`, backslashes or a root are refused by it; sizes are held to what is told.
        { lazyEntries: true, autoClose: false, strictFileNames: true, validateEntrySizes: true },
        (error, opened) => (error ? reject(error) : resolve(opened)),
      );
    }).catch((error: unknown) => {
      throw new ZipError('It is no ZIP, or a damaged one.', { cause: error });
    });
    if (zip.entryCount > MOST_ENTRIES) throw new ZipError('It holds more entries than any board file.');
    return new OpenZip(zip, await entriesOf(zip));
  }

  names(): Iterable<string> {
    return this.#entries.keys();
  }

  /** Bytes of an entry, unpacked; undefined where there is none. */
  sizeOf(name: string): number | undefined {
    return this.#entries.get(name)?.uncompressedSize;
  }

  /** @throws ZipError for what is not there, encrypted, or packed to burst */
  async stream(name: string): Promise<Readable> {
    const entry = this.#entries.get(name);
    if (!entry) throw new ZipError(`“${name}” is not in it.`);
    if (entry.uncompressedSize > MOST_RATIO * Math.max(1_000, entry.compressedSize))
      throw new ZipError(`“${name}” is packed to burst.`);
    return new Promise((resolve, reject) => {
      this.#zip.openReadStream(entry, (error, stream) =>
        error
          ? reject(new ZipError(`“${name}” cannot be unpacked: ${error.message}.`, { cause: error }))
          : resolve(stream),
      );
    });
  }

  /** A text of at most so many bytes. @throws ZipError */
  async text(name: string, mostBytes: number): Promise<string> {
    if ((this.sizeOf(name) ?? 0) > mostBytes) throw new ZipError(`“${name}” is too large.`);
    const pieces: Buffer[] = [];
    try {
      for await (const piece of await this.stream(name)) pieces.push(piece as Buffer);
    } catch (error) {
      if (error instanceof ZipError) throw error;
      throw new ZipError(`“${name}” cannot be unpacked.`, { cause: error });
    }
    return Buffer.concat(pieces).toString('utf8');
  }

  close(): void {
    this.#zip.close();
  }
}

function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  return new Promise((resolve, reject) => {
    const entries = new Map<string, Entry>();
    zip.on('error', (error: Error) => {
      zip.close();
      reject(new ZipError(`It names something that no board file does: ${error.message}.`, { cause: error }));
    });
    zip.on('end', () => resolve(entries));
    zip.on('entry', (entry: Entry) => {
      // Of two with one name the first counts.
      if (!entries.has(entry.fileName)) entries.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.readEntry();
  });
}
