import {
  type KeptSheet,
  type KeptStep,
  type PaintedSheet,
  type PaintStep,
  type TileChange,
  type TilePixels,
  tilesOfState,
} from '@miradero/core/paint';
import type { FromKeeper, NumberedTile, SheetFormat, ToKeeper } from '../messages.ts';

/** What was painted is on the disk so long after it at most, and a moment to write it. */
const AFTER_MS = 1_200;

/** Where there was no room it is tried again after so long, ms: somebody may have made some. */
const ROOM_AGAIN_MS = 10_000;

/** So many tiles are packed in one go, and the memory of so many is kept for the next. */
const AT_ONCE = 32;
const MOST_SPARE = 64;

/** That one paints is told so often, ms. */
const TOLD_EVERY_MS = 400;

/** What of a sheet is to be kept now. */
export interface KeepNow {
  readonly sheet: PaintedSheet;
  readonly about: Pick<
    KeptSheet,
    'width' | 'height' | 'ppi' | 'reference' | 'version' | 'isAltered' | 'change'
  >;
  /** What is being done and not taken up yet: its tiles are altered on. */
  readonly underWay: readonly TileChange[];
}

type KeptRow = Extract<FromKeeper, { kind: 'row' }>;
type AskedFile = Extract<ToKeeper, { kind: 'export' }>;

/** What was kept of a sheet. */
export interface Kept {
  readonly state: KeptSheet;
  /** From above; it fails where they cannot be read. */
  readonly rows: ReadableStream<KeptRow>;
  /** Then the tiles that only what can be taken back has; null: they cannot be read. */
  readonly past: Promise<readonly NumberedTile[] | null>;
}

/** Sends what was painted to the worker that keeps it, in what was painted not twice. */
export class Keeping {
  readonly #port: MessagePort;
  readonly #now: () => KeepNow;
  readonly #hand: (file: Extract<FromKeeper, { kind: 'exported' | 'unexported' }>) => void;
  readonly #tell: (trouble: 'full' | 'failed' | null, isKept: boolean) => void;
  readonly #numbers = new WeakMap<TilePixels, number>();
  /** Copies of tiles that are altered on, as long as they were not altered since. */
  readonly #copies = new Map<TilePixels, number>();
  #next = 1;
  #timer: ReturnType<typeof setTimeout> | undefined;
  /** Also until all that was kept has come. */
  #isWriting = true;
  /** Who waits for the next writing, and for this one. */
  readonly #waiting: (() => void)[] = [];
  #written: (() => void)[] = [];
  readonly #asked: AskedFile[] = [];
  #isWanted = false;
  #toldMs = Number.NEGATIVE_INFINITY;
  #opening: { resolve(kept: Kept | undefined): void; reject(error: Error): void } | undefined;
  #rows: ReadableStreamDefaultController<KeptRow> | undefined;
  #comePast: (tiles: readonly NumberedTile[] | null) => void = () => {};
  /** Of the state that is being written: what is not packed yet. */
  readonly #toPack: (NumberedTile & { readonly isCopy: boolean })[] = [];
  /** And the files that were asked for before: they are of it. */
  #unsaved: { readonly state: KeptSheet; readonly files: readonly AskedFile[] } | undefined;
  readonly #memory: ArrayBuffer[] = [];
  /** Numbers that were sent and are not known to be on the disk. */
  #sent: TilePixels[] = [];

  /** @param hand - hands a file on that was made, or why it was not */
  constructor(
    port: MessagePort,
    now: () => KeepNow,
    hand: (file: Extract<FromKeeper, { kind: 'exported' | 'unexported' }>) => void,
    tell: (trouble: 'full' | 'failed' | null, isKept: boolean) => void,
  ) {
    this.#port = port;
    this.#now = now;
    this.#hand = hand;
    this.#tell = tell;
    port.onmessage = ({ data }: MessageEvent<FromKeeper>) => this.#hear(data);
  }

  /** What is kept of a drawing. @throws Error in words, where this browser's private files cannot be had */
  read(drawing: string): Promise<Kept | undefined> {
    this.#post({ kind: 'open', drawing });
    return new Promise((resolve, reject) => {
      this.#opening = { resolve, reject };
    });
  }

  /** From now on it is written: all that was kept has come. */
  start(): void {
    this.#goOn();
  }

  /** Tiles of what is under way were altered on: what was kept of them is not how they are. */
  alteredOn(tiles: Iterable<TilePixels | undefined>): void {
    for (const pixels of tiles) if (pixels) this.#copies.delete(pixels);
  }

  /** The hand paints. */
  paint(): void {
    this.busy();
    this.touch();
  }

  /** Somebody paints, or moves the view: what is not wanted at once waits. */
  busy(): void {
    const nowMs = performance.now();
    if (nowMs - this.#toldMs > TOLD_EVERY_MS) {
      this.#toldMs = nowMs;
      this.#post({ kind: 'painting' });
    }
  }

  /** Something is to be kept. */
  touch(): void {
    this.#isWanted = true;
    if (this.#isWriting || this.#timer !== undefined) return;
    this.#tell(null, false);
    this.#timer = setTimeout(() => {
      this.#timer = undefined;
      this.#write();
    }, AFTER_MS);
  }

  /** Keeps what was painted at once, then makes a file of it. */
  export(ask: number, as: SheetFormat): void {
    this.#asked.push({ kind: 'export', ask, as });
    if (this.#isWriting) {
      this.#isWanted = true;
      return;
    }
    clearTimeout(this.#timer);
    this.#timer = undefined;
    this.#write();
  }

  /** Keeps what was painted at once. @param done - called when it is on the disk, or could not be */
  keep(done: () => void): void {
    this.#waiting.push(done);
    if (this.#isWriting) return;
    clearTimeout(this.#timer);
    this.#timer = undefined;
    this.#write();
  }

  #write(): void {
    this.#written = this.#waiting.splice(0);
    const files = this.#asked.splice(0);
    this.#isWanted = false;
    this.#isWriting = true;
    const { sheet, about, underWay } = this.#now();
    this.#sent = [];
    const changing = new Set(underWay.map(({ after }) => after));
    const numberOf = (pixels: TilePixels | undefined): number => {
      if (!pixels) return 0;
      const known = this.#numbers.get(pixels) ?? this.#copies.get(pixels);
      if (known) {
        // What is altered on no more keeps the number of its last copy.
        if (!changing.has(pixels)) this.#numbers.set(pixels, known);
        return known;
      }
      const tile = this.#next;
      this.#next += 1;
      // What is altered on is copied at once; what is not may wait for its turn.
      if (changing.has(pixels)) {
        this.#copies.set(pixels, tile);
        this.#toPack.push({ tile, pixels: this.#copyOf(pixels), isCopy: true });
      } else {
        this.#numbers.set(pixels, tile);
        this.#toPack.push({ tile, pixels, isCopy: false });
      }
      this.#sent.push(pixels);
      return tile;
    };
    const kept = ({ tiles: changes, layers }: PaintStep): KeptStep => ({
      tiles: changes.map(({ layer, key, before, after }) => [layer, key, numberOf(before), numberOf(after)]),
      ...(layers && { layers }),
    });
    const { done, undone } = sheet.history;
    const state: KeptSheet = {
      ...about,
      ...{ frame: sheet.frame, layers: sheet.facts },
      tiles: Object.fromEntries(
        sheet.layers.map(({ id, tiles: own }) => [
          id,
          [...own.keys].map((key) => [key, numberOf(own.get(key))] as const),
        ]),
      ),
      done: [...done.map(kept), ...(underWay.length > 0 ? [kept({ tiles: underWay })] : [])],
      undone: undone.map(kept),
    };
    if (underWay.length === 0) this.#copies.clear();
    this.#unsaved = { state, files };
    this.#packMore();
  }

  /** Sends the next tiles, or the state that names them once all were sent: so never are many there twice. */
  #packMore(): void {
    const some = this.#toPack.splice(0, AT_ONCE);
    if (some.length > 0) {
      const tiles = some.map(({ tile, pixels, isCopy }) => ({
        tile,
        pixels: isCopy ? pixels : this.#copyOf(pixels),
      }));
      this.#post(
        { kind: 'pack', tiles },
        tiles.map(({ pixels }) => pixels.buffer),
      );
      return;
    }
    if (!this.#unsaved) return;
    const { state, files } = this.#unsaved;
    this.#unsaved = undefined;
    this.#post({ kind: 'save', state });
    for (const asked of files) this.#post(asked);
  }

  #copyOf(pixels: TilePixels): TilePixels {
    const copy = new Uint8ClampedArray(this.#memory.pop() ?? new ArrayBuffer(pixels.byteLength));
    copy.set(pixels);
    return copy;
  }

  #know(tiles: readonly NumberedTile[]): void {
    for (const { tile, pixels } of tiles) this.#numbers.set(pixels, tile);
  }

  #hear(message: FromKeeper): void {
    switch (message.kind) {
      case 'unopened':
        this.#opening?.reject(
          new Error('It cannot be kept on this computer: the browser lets nothing be written.'),
        );
        return;
      case 'none':
        this.#opening?.resolve(undefined);
        return;
      case 'found':
        this.#opening?.resolve(this.#found(message.state));
        return;
      case 'row':
        this.#know(message.tiles);
        this.#rows?.enqueue(message);
        return;
      case 'broken':
        this.#rows?.error(new Error('what was kept is broken'));
        return;
      case 'past':
        if (message.tiles) this.#know(message.tiles);
        this.#rows?.close();
        this.#comePast(message.tiles);
        return;
      case 'exported':
      case 'unexported':
        this.#hand(message);
        return;
      case 'packed':
        this.#memory.push(...message.memory.slice(0, MOST_SPARE - this.#memory.length));
        this.#packMore();
        return;
      case 'saved':
        this.#saved(message.trouble);
        return;
    }
  }

  #found(state: KeptSheet): Kept {
    // Also where it is not gone on with: a number must not come to mean another tile before another state is on the disk.
    for (const tile of tilesOfState(state)) this.#next = Math.max(this.#next, tile + 1);
    const rows = new ReadableStream<KeptRow>({
      start: (controller) => {
        this.#rows = controller;
      },
    });
    const past = new Promise<readonly NumberedTile[] | null>((come) => {
      this.#comePast = come;
    });
    return { state, rows, past };
  }

  #saved(trouble: 'full' | 'failed' | null): void {
    for (const done of this.#written.splice(0)) done();
    // What did not come to the disk is sent again with the next.
    if (trouble)
      for (const pixels of this.#sent) {
        this.#numbers.delete(pixels);
        this.#copies.delete(pixels);
      }
    this.#tell(trouble, !this.#isWanted && !trouble);
    this.#goOn(trouble === 'failed');
    if (trouble === 'full') setTimeout(() => this.touch(), ROOM_AGAIN_MS);
  }

  /** Nothing is being written any more. */
  #goOn(isWanted = this.#isWanted): void {
    this.#isWriting = false;
    if (this.#asked.length > 0 || this.#waiting.length > 0) this.#write();
    else if (isWanted || this.#isWanted) this.touch();
  }

  #post(message: ToKeeper, transfer: Transferable[] = []): void {
    this.#port.postMessage(message, transfer);
  }
}
