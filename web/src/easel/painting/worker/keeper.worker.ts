import type { KeptSheet } from '@miradero/core/paint';
import { whyOf } from '@miradero/core/text';
import type { FromKeeper, NumberedTile, ToKeeper } from '../messages.ts';
import { forgetOld, Journal } from './journal.ts';
import { flatPng, openRasterOf, type PackedSheet } from './openraster-file.ts';
import { packedTile, unpackedTile } from './packing.ts';
import { rowsOf } from './sheets.ts';

/**
 * Keeps a sheet in the private files of this browser while it is painted, and makes files of it. A worker of its own: packing a
 * tile takes as long as drawing one.
 */
let journal: Journal | undefined;
/** What was told last, on the disk or not, and its packed tiles. */
let state: KeptSheet | undefined;
let tiles: ReadonlyMap<number, Uint8Array> = new Map();

/** When one was heard to paint last, ms: as long as one does a file waits, so that the brush has the computer. */
let paintedAtMs = Number.NEGATIVE_INFINITY;
const PAINTING_MS = 1_500;

async function whileNobodyPaints(sinceMs: number): Promise<void> {
  while (paintedAtMs > sinceMs && performance.now() - paintedAtMs < PAINTING_MS)
    await new Promise((resolve) => setTimeout(resolve, PAINTING_MS / 5));
}

type Tell = (message: FromKeeper, transfer?: Transferable[]) => void;

self.onmessage = ({ data: port }: MessageEvent<MessagePort>) => {
  const tell: Tell = (message, transfer = []) => port.postMessage(message, transfer);
  let turn: Promise<unknown> = Promise.resolve();
  port.onmessage = ({ data }: MessageEvent<ToKeeper>) => {
    if (data.kind === 'painting') paintedAtMs = performance.now();
    // A file takes long: what is painted meanwhile is kept meanwhile.
    else if (data.kind === 'export') turn.then(() => void makeFile(data, tell));
    else
      turn = turn.then(() => {
        if (data.kind === 'open') return open(data.drawing, tell);
        return data.kind === 'pack' ? pack(data, tell) : save(data.state, tell);
      });
  };
};

const buffersOf = (numbered: readonly NumberedTile[]) => numbered.map(({ pixels }) => pixels.buffer);

async function open(drawing: string, tell: Tell): Promise<void> {
  try {
    journal = await Journal.open(drawing);
  } catch {
    tell({ kind: 'unopened' });
    return;
  }
  void forgetOld(drawing, Date.now()).catch(() => {});
  const found = readOf(journal);
  if (!found) {
    tell({ kind: 'none' });
    return;
  }
  ({ state, tiles } = found);
  tell({ kind: 'found', state });
  const waiting = new Map(tiles);
  const take = async (numbers: readonly number[]): Promise<NumberedTile[]> => {
    const numbered: NumberedTile[] = [];
    for (const tile of numbers) {
      const bytes = waiting.get(tile);
      waiting.delete(tile);
      if (bytes) numbered.push({ tile, pixels: await unpackedTile(new Uint8Array(bytes)) });
    }
    return numbered;
  };
  try {
    // What is seen first: what can be taken back may be many times as much.
    for (const [row, own] of rowsOf(state)) {
      const numbered = await take(own.map(({ tile }) => tile));
      tell({ kind: 'row', row, tiles: numbered }, buffersOf(numbered));
    }
  } catch {
    tell({ kind: 'broken' });
    return;
  }
  const past = await take([...waiting.keys()]).catch(() => null);
  tell({ kind: 'past', tiles: past }, past ? buffersOf(past) : []);
}

/** What cannot be read is begun anew from its newest version. */
function readOf(from: Journal): ReturnType<Journal['read']> {
  try {
    return from.read();
  } catch {
    return undefined;
  }
}

/** Packed, and not on the disk: the next state names them. */
let ready: [number, Uint8Array][] = [];
let packingFailed = false;

async function pack({ tiles: some }: Extract<ToKeeper, { kind: 'pack' }>, tell: Tell): Promise<void> {
  const memory: ArrayBuffer[] = [];
  for (const { tile, pixels } of some) {
    try {
      ready.push([tile, await packedTile(pixels)]);
    } catch {
      packingFailed = true;
    }
    memory.push(pixels.buffer);
  }
  tell({ kind: 'packed', memory }, memory);
}

async function save(wanted: KeptSheet, tell: Tell): Promise<void> {
  const added = ready;
  ready = [];
  try {
    if (!journal) throw new Error('no file is open');
    if (packingFailed) throw new Error('a tile could not be packed');
    state = wanted;
    tiles = new Map([...journal.tiles, ...added]);
    // Before it is there, and after it is gone: it may be made a version twice, but never be forgotten.
    if (wanted.isAltered) await journal.mark(true);
    journal.write(added, wanted);
    if (!wanted.isAltered) await journal.mark(false);
    tiles = journal.tiles;
    tell({ kind: 'saved', trouble: null });
  } catch (error) {
    const isFull = error instanceof DOMException && error.name === 'QuotaExceededError';
    tell({ kind: 'saved', trouble: isFull ? 'full' : 'failed' });
  } finally {
    packingFailed = false;
  }
}

/** Something was painted since a file of it was begun. */
class Outdated extends Error {}

/**
 * A state whose tiles are unpacked one by one.
 *
 * @throws Outdated by its tiles, where there is a newer state and `isStrict`
 */
function sheetOf(kept: KeptSheet, bytes: ReadonlyMap<number, Uint8Array>, isStrict: boolean): PackedSheet {
  const sinceMs = performance.now();
  const { width, height, ppi, reference } = kept;
  const layers = kept.layers.map((facts) => {
    const own = new Map(kept.tiles[facts.id] ?? []);
    return {
      ...facts,
      keys: [...own.keys()],
      async tile(key: number) {
        await whileNobodyPaints(sinceMs);
        if (isStrict && state !== kept) throw new Outdated();
        const tile = own.get(key) ?? 0;
        const found = bytes.get(tile);
        return found && unpackedTile(new Uint8Array(found));
      },
    };
  });
  return { width, height, ppi, reference, layers };
}

/** So many times a file is begun anew because something was painted meanwhile: then it is of how it was. */
const MOST_BEGUN = 4;

async function makeFile(asked: Extract<ToKeeper, { kind: 'export' }>, tell: Tell, time = 1): Promise<void> {
  const { ask, as } = asked;
  try {
    if (!state) throw new Error('Nothing of it is kept yet.');
    const { change } = state;
    const sheet = sheetOf(state, new Map(tiles), time < MOST_BEGUN);
    const bytes = await (as === 'png' ? flatPng(sheet) : openRasterOf(sheet));
    tell({ kind: 'exported', ask, file: new Blob([bytes], { type: `image/${as}` }), change });
  } catch (error) {
    if (error instanceof Outdated) await makeFile(asked, tell, time + 1);
    else tell({ kind: 'unexported', ask, why: whyOf(error) });
  }
}
