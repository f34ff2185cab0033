import {
  type KeptSheet,
  type ReadJournal,
  readJournal,
  stateRecord,
  tileRecord,
  tilesOfState,
} from '@miradero/core/paint';
import { FOLDER, markOf } from '../unversioned.ts';

/** Written anew once it is larger than this, and so many times what is still named in it. */
const LARGE = 32 * 1024 * 1024;
const MOST_TIMES = 3;
/** What nobody painted on for so long is opened from its newest version again, ms. */
const OLD_MS = 60 * 24 * 3_600_000;

/** A file of this browser that is read and written at once; only workers have it. Source: File System Standard, 2.6. */
interface SyncFile {
  read(into: Uint8Array, at: { readonly at: number }): number;
  write(bytes: Uint8Array, at: { readonly at: number }): number;
  truncate(size: number): void;
  getSize(): number;
  flush(): void;
}

interface Side {
  readonly name: string;
  readonly handle: SyncFile;
}

/** So long the worker of a page that is being left may hold a file. */
const LEAVING_MS = 5_000;
const AGAIN_MS = 100;

async function sideOf(folder: FileSystemDirectoryHandle, name: string): Promise<Side> {
  const file = (await folder.getFileHandle(name, { create: true })) as FileSystemFileHandle & {
    createSyncAccessHandle(): Promise<SyncFile>;
  };
  for (let waitedMs = 0; ; waitedMs += AGAIN_MS) {
    try {
      return { name, handle: await file.createSyncAccessHandle() };
    } catch (error) {
      if (waitedMs >= LEAVING_MS) throw error;
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  }
}

const folderOfAll = async (): Promise<FileSystemDirectoryHandle> =>
  (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create: true });

/** Removes what is kept of drawings that were not painted on for long, where every version was made. @param open - stays all the same */
export async function forgetOld(open: string, nowMs: number): Promise<void> {
  const folder = await folderOfAll();
  const sides = new Map<string, { readonly names: string[]; lastMs: number }>();
  for await (const [name, handle] of folder.entries()) {
    const [drawing = ''] = name.split('.');
    if (handle.kind !== 'file' || drawing === open) continue;
    const { lastModified } = await handle.getFile();
    const { names = [], lastMs = 0 } = sides.get(drawing) ?? {};
    sides.set(drawing, { names: [...names, name], lastMs: Math.max(lastMs, lastModified) });
  }
  for (const [drawing, { names, lastMs }] of sides)
    if (nowMs - lastMs > OLD_MS && !names.includes(markOf(drawing)))
      // What another window has open stays.
      for (const name of names) await folder.removeEntry(name).catch(() => {});
}

/**
 * The files of one sheet: two, of which one is added to. Once that is mostly of what is gone, the other is written whole and
 * takes its place; until its state is on the disk the first one stays as it is.
 */
export class Journal {
  readonly #sides: readonly [Side, Side];
  readonly #folder: FileSystemDirectoryHandle;
  readonly #mark: string;
  /** Whether the mark is there; undefined: as it was left. */
  #isMarked: boolean | undefined;
  #current: 0 | 1 = 0;
  /** Where the next record goes. */
  #end = 0;
  /** Packed bytes of the tiles that are named. */
  #tiles = new Map<number, Uint8Array>();

  private constructor(folder: FileSystemDirectoryHandle, drawing: string, sides: readonly [Side, Side]) {
    this.#folder = folder;
    this.#mark = markOf(drawing);
    this.#sides = sides;
  }

  static async open(drawing: string): Promise<Journal> {
    const folder = await folderOfAll();
    const sides = [await sideOf(folder, `${drawing}.a`), await sideOf(folder, `${drawing}.b`)] as const;
    return new Journal(folder, drawing, sides);
  }

  /** Says whether something of it is no version yet, so that it is found where everything ends. */
  async mark(is: boolean): Promise<void> {
    if (this.#isMarked === is) return;
    if (is) await this.#folder.getFileHandle(this.#mark, { create: true });
    // It may not be there.
    else await this.#folder.removeEntry(this.#mark).catch(() => {});
    this.#isMarked = is;
  }

  /** Packed pixels of the tiles that are named, by number. */
  get tiles(): ReadonlyMap<number, Uint8Array> {
    return this.#tiles;
  }

  /** What is kept; undefined where nothing is. */
  read(): Pick<ReadJournal, 'state' | 'tiles'> | undefined {
    const read = this.#sides.map(({ handle }) => {
      const bytes = new Uint8Array(handle.getSize());
      handle.read(bytes, { at: 0 });
      return readJournal(bytes);
    });
    // Both are whole only where everything ended between writing the one and emptying the other.
    this.#current = read[1] && (!read[0] || read[1].state.change > read[0].state.change) ? 1 : 0;
    const found = read[this.#current];
    if (!found) return undefined;
    this.#end = found.end;
    const named = tilesOfState(found.state);
    // Copies: what is no more named of the file need not stay.
    const kept = [...found.tiles].filter(([tile]) => named.has(tile));
    this.#tiles = new Map(kept.map(([tile, bytes]) => [tile, new Uint8Array(bytes)]));
    return { state: found.state, tiles: this.#tiles };
  }

  /** Adds tiles and the state that names them. @throws DOMException where there is no room: what was kept before still is */
  write(tiles: readonly (readonly [number, Uint8Array])[], state: KeptSheet): void {
    const { handle } = this.#sides[this.#current];
    let at = this.#end;
    try {
      for (const [tile, bytes] of tiles) at = add(handle, tileRecord(tile, bytes), at);
      at = add(handle, stateRecord(state), at);
      handle.flush();
    } catch (error) {
      handle.truncate(this.#end);
      throw error;
    }
    this.#end = at;
    for (const [tile, bytes] of tiles) this.#tiles.set(tile, bytes);
    const named = tilesOfState(state);
    for (const tile of this.#tiles.keys()) if (!named.has(tile)) this.#tiles.delete(tile);
    const live = [...this.#tiles.values()].reduce((sum, bytes) => sum + bytes.length, 0);
    if (this.#end > LARGE && this.#end > MOST_TIMES * live) this.#writeAnew(state);
  }

  #writeAnew(state: KeptSheet): void {
    const before = this.#sides[this.#current].handle;
    const next = this.#current === 0 ? 1 : 0;
    const { handle } = this.#sides[next];
    handle.truncate(0);
    let at = 0;
    try {
      for (const [tile, bytes] of this.#tiles) at = add(handle, tileRecord(tile, bytes), at);
      at = add(handle, stateRecord(state), at);
      handle.flush();
    } catch {
      // There is no room for both: it goes on as it is.
      handle.truncate(0);
      return;
    }
    before.truncate(0);
    before.flush();
    this.#current = next;
    this.#end = at;
  }
}

/** @returns where the next one goes @throws DOMException where there is no room */
function add(handle: SyncFile, record: Uint8Array, at: number): number {
  if (handle.write(record, { at }) < record.length)
    throw new DOMException('the disk took a part of it', 'QuotaExceededError');
  return at + record.length;
}
