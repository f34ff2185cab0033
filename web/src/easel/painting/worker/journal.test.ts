import { type KeptSheet, newLayers, readJournal } from '@miradero/core/paint';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { markOf } from '../unversioned.ts';
import { forgetOld, Journal } from './journal.ts';

/** A browser's private files, in memory, with so many bytes at most. */
class PrivateFiles {
  readonly files = new Map<string, Uint8Array>();
  readonly held = new Set<string>();
  /** When a file was written last, ms. */
  readonly writtenMs = new Map<string, number>();
  room = Number.POSITIVE_INFINITY;

  get bytes(): number {
    return [...this.files.values()].reduce((sum, one) => sum + one.length, 0);
  }

  handle(name: string) {
    if (this.held.has(name)) throw new DOMException('it is held', 'NoModificationAllowedError');
    this.held.add(name);
    const now = () => this.files.get(name) ?? new Uint8Array(0);
    const become = (bytes: Uint8Array) => this.files.set(name, bytes);
    return {
      getSize: () => now().length,
      flush: () => {},
      truncate: (size: number) => become(now().slice(0, size)),
      read: (into: Uint8Array, { at }: { at: number }) => {
        into.set(now().subarray(at, at + into.length));
        return into.length;
      },
      write: (bytes: Uint8Array, { at }: { at: number }) => {
        const grown = Math.max(now().length, at + bytes.length);
        if (this.bytes - now().length + grown > this.room)
          throw new DOMException('there is no room', 'QuotaExceededError');
        const next = new Uint8Array(grown);
        next.set(now());
        next.set(bytes, at);
        become(next);
        return bytes.length;
      },
    };
  }

  directory(): unknown {
    return {
      getDirectoryHandle: async () => this.directory(),
      entries: async function* (this: void): AsyncGenerator<[string, unknown]> {
        for (const name of disk.files.keys())
          yield [
            name,
            { kind: 'file', getFile: async () => ({ lastModified: disk.writtenMs.get(name) ?? 0 }) },
          ];
      },
      removeEntry: async (name: string) => {
        if (this.held.has(name)) throw new DOMException('it is held', 'NoModificationAllowedError');
        this.files.delete(name);
      },
      getFileHandle: async (name: string) => {
        if (!this.files.has(name)) this.files.set(name, new Uint8Array(0));
        return { createSyncAccessHandle: async () => this.handle(name) };
      },
    };
  }
}

let disk: PrivateFiles;
beforeEach(() => {
  disk = new PrivateFiles();
  vi.stubGlobal('navigator', { storage: { getDirectory: async () => disk.directory() } });
});
afterEach(() => vi.unstubAllGlobals());

const stateWith = (change: number, ...tiles: number[]): KeptSheet => ({
  ...{ width: 500, height: 400, ppi: 300, frame: { x: 0, y: 0, width: 500, height: 400 } },
  ...{ reference: null, layers: newLayers(null), version: null, isAltered: true, change },
  ...{ tiles: { sketch: tiles.map((tile, at) => [at, tile]) }, done: [], undone: [] },
});
const tile = (number: number, bytes = 1_000): [number, Uint8Array] => [
  number,
  new Uint8Array(bytes).fill(number),
];
/** What the next page finds. */
async function found() {
  disk.held.clear();
  return (await Journal.open('one')).read();
}

describe('the file in which a sheet is kept', () => {
  it('has what was written last; what is on it already is not written again', async () => {
    const journal = await Journal.open('one');
    expect(journal.read()).toBeUndefined();
    journal.write([tile(1), tile(2)], stateWith(1, 1, 2));
    const before = disk.bytes;
    journal.write([tile(3)], stateWith(2, 1, 3));
    expect(disk.bytes - before).toBeLessThan(2_500);
    const kept = await found();
    expect(kept?.state.change).toBe(2);
    expect([...kept!.tiles.keys()]).toEqual([1, 3]);
  });

  it('that finds no room keeps what it had, and takes the rest once there is room', async () => {
    const journal = await Journal.open('one');
    journal.write([tile(1)], stateWith(1, 1));
    disk.room = disk.bytes + 500;
    expect(() => journal.write([tile(2)], stateWith(2, 1, 2))).toThrow('no room');
    expect((await found())?.state.change).toBe(1);
    expect(readJournal(disk.files.get('one.a')!)?.end).toBe(disk.files.get('one.a')!.length);
    disk.room = Number.POSITIVE_INFINITY;
    journal.write([tile(2)], stateWith(3, 1, 2));
    expect((await found())?.state.change).toBe(3);
  });

  it('is written anew once most of it is gone, and goes on as it is where there is no room for both', async () => {
    const journal = await Journal.open('one');
    const MB = 1024 * 1024;
    for (let change = 1; change <= 9; change += 1)
      journal.write([tile(change, 4 * MB)], stateWith(change, change));
    expect(disk.bytes).toBeLessThan(9 * MB);
    expect((await found())?.state.change).toBe(9);
    disk.held.clear();
    const other = await Journal.open('one');
    other.read();
    disk.room = 44 * MB;
    for (let change = 10; change <= 17; change += 1)
      other.write([tile(change, 4 * MB)], stateWith(change, change, 9));
    expect((await found())?.state.change).toBe(17);
  });

  it('waits for the worker of a page that is being left', async () => {
    const before = await Journal.open('one');
    before.write([tile(1)], stateWith(1, 1));
    setTimeout(() => disk.held.clear(), 150);
    expect((await Journal.open('one')).read()?.state.change).toBe(1);
  });

  it('is marked while something of it is no version yet', async () => {
    const journal = await Journal.open('one');
    const isMarked = () => disk.files.has(markOf('one'));
    await journal.mark(true);
    expect(isMarked()).toBe(true);
    disk.held.clear();
    // The next page finds it so, whatever it does first.
    const next = await Journal.open('one');
    expect(isMarked()).toBe(true);
    await next.mark(false);
    expect(isMarked()).toBe(false);
    await next.mark(false);
  });

  it('goes once nobody painted on it for long: unless all of it is nowhere else, or another window has it', async () => {
    const dayMs = 24 * 3_600_000;
    for (const [name, day] of [
      ['gone.a', 1],
      ['gone.b', 30],
      ['one-side.a', 1],
      ['one-side.b', 50],
      ['painted.a', 1],
      [markOf('painted'), 1],
      ['open.a', 1],
      ['held.a', 1],
    ] as const) {
      disk.files.set(name, new Uint8Array(1));
      disk.writtenMs.set(name, day * dayMs);
    }
    disk.held.add('held.a');
    await forgetOld('open', 91 * dayMs);
    expect([...disk.files.keys()].sort()).toEqual([
      ...['held.a', 'one-side.a', 'one-side.b', 'open.a', 'painted.a'],
      markOf('painted'),
    ]);
  });
});
