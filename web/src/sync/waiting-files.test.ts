import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { type BrowserDatabase, openBrowserDatabase, type WaitingFile } from './browser-database.ts';
import { WaitingFiles } from './waiting-files.ts';

let number = 0;
let database: BrowserDatabase;
/** The same, counting how often files are read one by one, and all of them. */
let counting: BrowserDatabase;
let reads: { one: number; all: number };
const file = (id: string, refusal?: string): WaitingFile => ({
  ...{ id, fileName: id, name: id, type: 'image/png', width: 1, height: 1, bytes: new Blob(['xy']) },
  ...{ addedAt: '', ...(refusal && { refusal }) },
});
const idsOf = (files: readonly WaitingFile[]) => files.map(({ id }) => id);
const isFree = () => true;

beforeEach(async () => {
  number += 1;
  database = await openBrowserDatabase(`waiting-${number}`);
  reads = { one: 0, all: 0 };
  counting = {
    get: (store: 'files', id: string) => {
      reads.one += 1;
      return database.get(store, id);
    },
    transaction: (store: 'files') => {
      reads.all += 1;
      return database.transaction(store);
    },
  } as unknown as BrowserDatabase;
});

describe('files that wait', () => {
  it('are read once, and told of one by one from then on', async () => {
    await database.put('files', file('a'));
    await database.put('files', file('b', 'It is no picture.'));
    const waiting = new WaitingFiles(counting);
    expect(idsOf(await waiting.next(5, isFree))).toEqual(['a']);
    for (let index = 0; index < 200; index += 1) {
      await database.put('files', file(`f${index}`));
      waiting.add(`f${index}`);
      await waiting.next(2, (id) => id !== 'a');
    }
    expect(waiting.sizes.size).toBe(201);
    expect(waiting.sizes.get('f7')).toBe(2);
    // Two at each look, and the new one.
    expect(reads).toEqual({ one: 1 + 3 * 200 - 1, all: 1 });
  });

  it('are handed out in their order, without those that are busy, gone, settled or refused meanwhile', async () => {
    for (const id of ['a', 'b', 'c', 'd', 'e']) await database.put('files', file(id));
    const waiting = new WaitingFiles(counting);
    await waiting.next(0, isFree);
    await database.delete('files', 'b');
    await database.put('files', file('c', 'It is no picture.'));
    waiting.drop('d');
    expect(idsOf(await waiting.next(2, (id) => id !== 'a'))).toEqual(['e']);
    expect([...waiting.sizes.keys()]).toEqual(['a', 'e']);
  });

  it('are read anew when anything may have altered, and when reading them failed', async () => {
    const waiting = new WaitingFiles(counting);
    await database.put('files', file('a', 'It is no picture.'));
    expect(await waiting.next(2, isFree)).toEqual([]);
    await database.put('files', file('a'));
    waiting.forget();
    expect(idsOf(await waiting.next(2, isFree))).toEqual(['a']);
    const failing = new WaitingFiles({
      ...counting,
      transaction: (store: 'files') => {
        if (reads.all < 4) {
          reads.all += 1;
          throw new Error('It is closing.');
        }
        return database.transaction(store);
      },
    } as unknown as BrowserDatabase);
    reads.all = 3;
    await expect(failing.next(2, isFree)).rejects.toThrow('It is closing.');
    expect(idsOf(await failing.next(2, isFree))).toEqual(['a']);
  });
});
