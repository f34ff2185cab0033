import { sizeAtSide, sufficientSide } from '@miradero/core/picture';
import { pathOfSide, sidesOf } from '../levels.ts';
import { ORIGINAL, PixelError, type PixelProgress, type PixelSource } from '../requests.ts';

export interface Loaders {
  fetchBitmap(
    path: string,
    signal: AbortSignal,
    onProgress: ((progress: PixelProgress) => void) | undefined,
  ): Promise<ImageBitmap>;
  decodeFile(file: Blob, size: { width: number; height: number } | undefined): Promise<ImageBitmap>;
}

/** For whom something is loaded. */
export interface Wanted {
  readonly signal: AbortSignal;
  readonly onProgress?: ((progress: PixelProgress) => void) | undefined;
}

interface Load {
  readonly bitmap: Promise<ImageBitmap>;
  readonly ending: AbortController;
  readonly askers: Set<Wanted>;
}

/** A decoded picture and the side that it really has. */
export interface Decoded {
  readonly bitmap: ImageBitmap;
  readonly side: number;
}

/**
 * Decoded pictures of one worker. What is asked for twice at once is loaded once, and left when nobody wants it any more;
 * what was loaded is kept within a budget, what was used longest ago goes first.
 */
export class PixelStore {
  readonly #loaders: Loaders;
  readonly #budget: number;
  readonly #loads = new Map<string, Load>();
  /** In the order of use. */
  readonly #kept = new Map<string, ImageBitmap>();
  /** How many use what is kept under a name, or wait for it. */
  readonly #pins = new Map<string, number>();
  #bytes = 0;

  /** @param budget - bytes of decoded pixels that may be kept */
  constructor(loaders: Loaders, budget: number) {
    this.#loaders = loaders;
    this.#budget = budget;
  }

  get bytes(): number {
    return this.#bytes;
  }

  /** Loads a bitmap that is handed away: nothing of it is kept here. */
  take(path: string, { signal, onProgress }: Wanted): Promise<ImageBitmap> {
    return this.#loaders.fetchBitmap(path, signal, onProgress);
  }

  /** A whole picture, to be handed away. */
  async takeWhole(source: PixelSource, wanted: number, asker: Wanted): Promise<ImageBitmap> {
    const side = this.#sideFor(source, wanted);
    return this.#load(source, side, asker);
  }

  /** Uses a whole picture, which stays here for further questions. */
  whole<T>(source: PixelSource, wanted: number, asker: Wanted, use: (decoded: Decoded) => T): Promise<T> {
    const side = this.#sideFor(source, wanted);
    const real = side === ORIGINAL ? Math.max(source.width, source.height) : side;
    return this.using(
      `${source.id}:${side}`,
      asker,
      (by) => this.#load(source, side, by),
      (bitmap) => use({ bitmap, side: real }),
    );
  }

  /** Uses a bitmap that is kept under a name, or loaded; while it is used it does not make room for others. */
  async using<T>(
    key: string,
    asker: Wanted,
    load: (by: Wanted) => Promise<ImageBitmap>,
    use: (bitmap: ImageBitmap) => T,
  ): Promise<T> {
    this.#pins.set(key, (this.#pins.get(key) ?? 0) + 1);
    try {
      return use(await this.#bitmapOf(key, asker, load));
    } finally {
      const left = this.#pins.get(key)! - 1;
      if (left > 0) this.#pins.set(key, left);
      else this.#pins.delete(key);
      this.#makeRoom();
    }
  }

  async #bitmapOf(
    key: string,
    asker: Wanted,
    load: (by: Wanted) => Promise<ImageBitmap>,
  ): Promise<ImageBitmap> {
    const kept = this.#kept.get(key);
    if (kept) {
      this.#kept.delete(key);
      this.#kept.set(key, kept);
      return kept;
    }
    const under = this.#loads.get(key) ?? this.#begin(key, load);
    under.askers.add(asker);
    const leave = () => {
      under.askers.delete(asker);
      if (under.askers.size === 0) under.ending.abort(asker.signal.reason);
    };
    asker.signal.addEventListener('abort', leave);
    try {
      const bitmap = await under.bitmap;
      asker.signal.throwIfAborted();
      return bitmap;
    } finally {
      asker.signal.removeEventListener('abort', leave);
    }
  }

  #begin(key: string, load: (by: Wanted) => Promise<ImageBitmap>): Load {
    const ending = new AbortController();
    const askers = new Set<Wanted>();
    const onProgress = (progress: PixelProgress) => {
      for (const asker of askers) asker.onProgress?.(progress);
    };
    const loading = load({ signal: ending.signal, onProgress }).then(
      (bitmap) => {
        this.#loads.delete(key);
        this.#put(key, bitmap);
        return bitmap;
      },
      (error) => {
        this.#loads.delete(key);
        throw error;
      },
    );
    // Whoever wanted it may have left.
    loading.catch(() => {});
    const begun = { bitmap: loading, ending, askers };
    this.#loads.set(key, begun);
    ending.signal.addEventListener('abort', () => {
      // Who asks from now on does not join what was left.
      if (this.#loads.get(key) === begun) this.#loads.delete(key);
    });
    return begun;
  }

  #sideFor(source: PixelSource, wanted: number): number {
    const side = sufficientSide(sidesOf(source), wanted);
    if (side === undefined) throw new PixelError('absent');
    return side;
  }

  #load(source: PixelSource, side: number, { signal, onProgress }: Wanted): Promise<ImageBitmap> {
    const path = pathOfSide(source, side);
    if (path !== undefined) return this.#loaders.fetchBitmap(path, signal, onProgress);
    if (source.file === null) return Promise.reject(new PixelError('absent'));
    const size = side === ORIGINAL ? undefined : sizeAtSide(source.width, source.height, side);
    return this.#loaders.decodeFile(source.file, size);
  }

  #put(key: string, bitmap: ImageBitmap): void {
    const before = this.#kept.get(key);
    if (before) this.#drop(key, before);
    this.#kept.set(key, bitmap);
    this.#bytes += bytesIn(bitmap);
  }

  #makeRoom(): void {
    for (const [key, bitmap] of this.#kept) {
      if (this.#bytes <= this.#budget) break;
      if (!this.#pins.has(key)) this.#drop(key, bitmap);
    }
  }

  #drop(key: string, bitmap: ImageBitmap): void {
    this.#kept.delete(key);
    this.#bytes -= bytesIn(bitmap);
    bitmap.close();
  }
}

const bytesIn = ({ width, height }: ImageBitmap): number => width * height * 4;
