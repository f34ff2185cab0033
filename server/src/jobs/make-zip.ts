import { once } from 'node:events';
import { createReadStream, createWriteStream } from 'node:fs';
import { finished } from 'node:stream/promises';
import { portableName } from '@miradero/core/picture';
import { Zip, ZipPassThrough } from 'fflate';

export interface ZipEntry {
  readonly path: string;
  readonly name: string;
  /** In which it lies. */
  readonly folder?: string;
}

/** A name that every system takes, and that none of `taken` has: of two alike the later one is numbered. */
function freeName(name: string, taken: Set<string>): string {
  const [, stem = name, ending = ''] = /^(.*?)(\.[A-Za-z0-9]{1,5})?$/su.exec(name) ?? [];
  const clean = portableName(stem);
  for (let number = 1; ; number += 1) {
    const free = number === 1 ? `${clean}${ending}` : `${clean} ${number}${ending}`;
    if (taken.has(free.toLowerCase())) continue;
    taken.add(free.toLowerCase());
    return free;
  }
}

/** Writes files into a ZIP, stored as they are: pictures are packed already. */
export async function makeZip(path: string, entries: readonly ZipEntry[]): Promise<void> {
  const out = createWriteStream(path);
  let failure: Error | undefined;
  const zip = new Zip((error, chunk, isLast) => {
    if (error) failure = error;
    else out.write(chunk);
    if (isLast) out.end();
  });
  const taken = new Set<string>();
  for (const entry of entries) {
    const name = freeName(entry.name, taken);
    const file = new ZipPassThrough(entry.folder ? `${entry.folder}/${name}` : name);
    zip.add(file);
    for await (const piece of createReadStream(entry.path)) {
      file.push(piece as Buffer);
      if (out.writableNeedDrain) await once(out, 'drain');
    }
    file.push(new Uint8Array(), true);
  }
  zip.end();
  await finished(out);
  if (failure) throw failure;
}
