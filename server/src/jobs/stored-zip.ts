import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';

/** An entry with its own path in the ZIP, from a file or from memory. */
export type StoredEntry =
  | { readonly name: string; readonly path: string }
  | { readonly name: string; readonly bytes: Buffer };

/** Writes entries in their order, each stored as it is, under exactly the names that are given. */
export async function writeStoredZip(path: string, entries: readonly StoredEntry[]): Promise<void> {
  const zip = new ZipFile();
  const written = pipeline(zip.outputStream, createWriteStream(path));
  for (const entry of entries) {
    if ('path' in entry) zip.addFile(entry.path, entry.name, { compress: false });
    else zip.addBuffer(entry.bytes, entry.name, { compress: false });
  }
  zip.end();
  await written;
}
