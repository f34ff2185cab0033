import type { Rectangle } from '@miradero/core/geometry';
import { atlasCellOrigin, sizeAtSide, sufficientSide, tilePart, tilesWithin } from '@miradero/core/picture';
import { thumbHashToRGBA } from 'thumbhash';
import { type Pixels, sidesOf } from '../../pixels/index.ts';
import type { DecodedPicture, SceneSource, WorkerReport } from '../messages.ts';
import { TileIndex } from './tile-index.ts';

/** Pixels to draw from: a part of a decoded bitmap, in its own pixels. */
export interface DrawnPixels {
  readonly image: ImageBitmap | OffscreenCanvas;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Pixels of a tile, and which part (fractions 0..1) of the picture they are. */
export interface Tile {
  readonly pixels: DrawnPixels;
  readonly part: Rectangle;
}

interface Held {
  readonly bitmap: ImageBitmap | OffscreenCanvas;
  readonly bytes: number;
  usedInFrame: number;
}

interface Queued {
  readonly key: string;
  readonly urgency: number;
  readonly load: () => Promise<ImageBitmap>;
}

/** What follows from a source alone, found once: thousands are asked for in every frame. */
interface SourceFacts {
  readonly sides: readonly number[];
  readonly atlas32: string;
  readonly atlas64: string;
  readonly cells: Map<32 | 64, DrawnPixels>;
}

const LOADS_AT_ONCE = 6;
const TELL_MS = 50;
/** What was decoded whole is seen first, and then made as small as it is seen. */
const SHRINK_AFTER_MS = 120;
/** A load that failed is tried again after this time. */
const FAILED_MS = 3_000;

/** Decoded pixels in this worker, within a budget; what was used longest ago goes first. */
export class PictureCache {
  readonly #sources = new Map<string, SceneSource>();
  readonly #held = new Map<string, Held>();
  readonly #loading = new Set<string>();
  readonly #failedAt = new Map<string, number>();
  readonly #queue = new Map<string, Queued>();
  /** What waits, most urgent last; undefined when something came to it. */
  #inOrder: Queued[] | undefined;
  readonly #factsOf = new WeakMap<SceneSource, SourceFacts>();
  #bytes = 0;
  #budget = 200 * 1024 * 1024;
  #frame = 0;
  #tellTimer: ReturnType<typeof setTimeout> | undefined;
  readonly #pixels: Pixels;
  readonly #onNews: (report: WorkerReport) => void;
  readonly #tileIndex = new TileIndex(() => this.tellNews());

  constructor(pixels: Pixels, onNews: (report: WorkerReport) => void) {
    this.#pixels = pixels;
    this.#onNews = onNews;
  }

  /** What failed for want of the worker that loads is tried again without waiting. */
  tryAgain(): void {
    this.#failedAt.clear();
    this.tellNews();
  }

  set budget(bytes: number) {
    this.#budget = bytes;
    this.#evict();
  }

  source(id: string): SceneSource | undefined {
    return this.#sources.get(id);
  }

  putSources(sources: readonly SceneSource[]): void {
    for (const source of sources) {
      this.#sources.set(source.id, source);
      // The smallest copies of a whole board come by one request, best before its first frame.
      if (source.atlas) this.#wantAtlas(source.atlas.hash32);
    }
    this.#pump();
    this.tellNews();
  }

  /** Takes what was decoded elsewhere: it need not be loaded. */
  give(picture: string, { side, seenAt, bitmap }: DecodedPicture): void {
    const key = `${picture}:${side}`;
    this.#hold(key, bitmap, bitmap.width, bitmap.height);
    if (side === seenAt) return;
    // It stays for a moment alone, and takes the place of nothing.
    this.#bytes -= this.#held.get(key)!.bytes;
    this.#held.set(key, { bitmap, bytes: 0, usedInFrame: this.#frame });
    setTimeout(() => void this.#shrink(picture, { side, seenAt, bitmap }), SHRINK_AFTER_MS);
  }

  /** Keeps of a large picture the size in which it is seen. */
  async #shrink(picture: string, { side, seenAt, bitmap }: DecodedPicture): Promise<void> {
    const size = sizeAtSide(bitmap.width, bitmap.height, seenAt);
    const options = { resizeWidth: size.width, resizeHeight: size.height, resizeQuality: 'medium' } as const;
    const small = await createImageBitmap(bitmap, options).catch(() => undefined);
    if (small) this.#hold(`${picture}:${seenAt}`, small, small.width, small.height);
    this.#drop(`${picture}:${side}`);
    this.tellNews();
  }

  /** Begins a frame: what earlier frames wanted but is not loading yet is forgotten unless wanted again. */
  beginFrame(isLoading: boolean): void {
    this.#frame += 1;
    if (!isLoading) return;
    this.#queue.clear();
    this.#inOrder = undefined;
  }

  endFrame(): void {
    this.#pump();
    this.#evict();
  }

  /**
   * The best pixels at hand for a picture whose longest side covers `neededPx` device pixels, and whether they are
   * enough. Asks for better ones with the given urgency (larger is sooner; 0 asks for nothing).
   */
  pixelsFor(
    id: string,
    neededPx: number,
    urgency: number,
  ): { pixels: DrawnPixels | undefined; isEnough: boolean } {
    const source = this.#sources.get(id);
    if (source === undefined) return { pixels: undefined, isEnough: false };
    const cell = neededPx <= 32 ? 32 : neededPx <= 64 ? 64 : undefined;
    if (cell !== undefined && source.atlas) {
      const pixels = this.#atlasPixels(source, cell, urgency);
      if (pixels) return { pixels, isEnough: true };
    }
    const { sides } = this.#facts(source);
    const side = sufficientSide(sides, neededPx);
    if (side !== undefined) {
      const exact = this.#use(`${id}:${side}`) ?? this.#largerOfFile(source, sides, side);
      if (exact) return { pixels: whole(exact), isEnough: true };
      // The atlas, once there, is enough.
      if (urgency > 0 && (cell === undefined || !source.atlas)) this.#wantSide(source, side, urgency);
    }
    const isHopeless = side === undefined && source.failure !== null;
    return { pixels: this.#bestHeld(source, sides, cell === undefined, urgency), isEnough: isHopeless };
  }

  /** Whether a picture is larger on the screen than its largest level, and has tiles for that. */
  needsTilesFor(id: string, neededPx: number): boolean {
    const source = this.#sources.get(id);
    return source?.hasTiles === true && source.levels.every(({ side }) => side < neededPx);
  }

  /**
   * The tiles that show a part (fractions 0..1) of a very large picture whose longest side covers `neededPx` device
   * pixels: those held, and whether that is all of them. Asks for the others.
   */
  tilesFor(
    id: string,
    neededPx: number,
    part: Rectangle,
    urgency: number,
  ): { tiles: Tile[]; isEnough: boolean } {
    const levels = this.#tileIndex.levelsOf(id);
    if (levels === undefined) return { tiles: [], isEnough: false };
    // The coarsest level that still has a pixel for every device pixel, else the finest.
    const level = levels.findLast(({ width, height }) => Math.max(width, height) >= neededPx) ?? levels[0];
    if (level === undefined) return { tiles: [], isEnough: true };
    const tiles: Tile[] = [];
    let isEnough = true;
    for (const { column, row } of tilesWithin(level, part)) {
      const hash = level.hashes[row * level.columns + column]!;
      const key = `tile:${hash}`;
      const image = this.#use(key);
      if (image) tiles.push({ pixels: whole(image), part: tilePart(level, column, row) });
      else {
        isEnough = false;
        if (urgency > 0)
          this.#want(key, urgency, () => this.#pixels.ask('copy', { path: `/api/levels/${hash}` }));
      }
    }
    return { tiles, isEnough };
  }

  report(): WorkerReport {
    return { bytes: this.#bytes, bitmaps: this.#held.size, loading: this.#loading.size + this.#queue.size };
  }

  tellNews(): void {
    this.#tellTimer ??= setTimeout(() => {
      this.#tellTimer = undefined;
      this.#onNews(this.report());
    }, TELL_MS);
  }

  #use(key: string): ImageBitmap | OffscreenCanvas | undefined {
    const held = this.#held.get(key);
    if (held === undefined) return undefined;
    held.usedInFrame = this.#frame;
    return held.bitmap;
  }

  /** Every size of a file that is not sent yet is decoded from all of it: a larger one that is held is as good. */
  #largerOfFile(source: SceneSource, sides: readonly number[], side: number) {
    if (source.levels.length > 0) return undefined;
    const larger = sides.find((one) => one > side && this.#held.has(`${source.id}:${one}`));
    return larger === undefined ? undefined : this.#use(`${source.id}:${larger}`);
  }

  /** Something to show meanwhile: the largest level held, the cell of an atlas, the thumbhash. */
  #bestHeld(
    source: SceneSource,
    sides: readonly number[],
    isLarge: boolean,
    urgency: number,
  ): DrawnPixels | undefined {
    for (const side of [...sides].sort((a, b) => b - a)) {
      const bitmap = this.#use(`${source.id}:${side}`);
      if (bitmap) return whole(bitmap);
    }
    if (source.atlas) {
      const cell = this.#atlasPixels(source, 64, 0) ?? this.#atlasPixels(source, 32, urgency);
      if (cell) return cell;
    }
    // A small picture is in an atlas that is on its way: unpacking hundreds of thumbhashes would only hold it up.
    if (source.thumbhash === null || !isLarge) return undefined;
    const key = `${source.id}:thumbhash`;
    const bitmap = this.#use(key);
    if (bitmap) return whole(bitmap);
    const { w, h, rgba } = thumbHashToRGBA(Uint8Array.from(atob(source.thumbhash), (c) => c.charCodeAt(0)));
    const canvas = new OffscreenCanvas(w, h);
    canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(rgba), w, h), 0, 0);
    this.#hold(key, canvas, w, h);
    return whole(canvas);
  }

  #atlasPixels(source: SceneSource, cell: 32 | 64, urgency: number): DrawnPixels | undefined {
    const { slot, hash32, hash64 } = source.atlas!;
    const hash = cell === 32 ? hash32 : hash64;
    const facts = this.#facts(source);
    const image = this.#use(cell === 32 ? facts.atlas32 : facts.atlas64);
    if (image === undefined) {
      // An atlas shows a whole board by one request: before everything else.
      if (urgency > 0) this.#wantAtlas(hash);
      return undefined;
    }
    const known = facts.cells.get(cell);
    if (known?.image === image) return known;
    const pixels = {
      image,
      ...atlasCellOrigin(slot, cell),
      ...sizeAtSide(source.width, source.height, cell),
    };
    facts.cells.set(cell, pixels);
    return pixels;
  }

  #facts(source: SceneSource): SourceFacts {
    let facts = this.#factsOf.get(source);
    if (!facts) {
      const { atlas } = source;
      facts = {
        ...{ sides: sidesOf(source), cells: new Map() },
        ...{ atlas32: `atlas:${atlas?.hash32}`, atlas64: `atlas:${atlas?.hash64}` },
      };
      this.#factsOf.set(source, facts);
    }
    return facts;
  }

  #wantAtlas(hash: string): void {
    const key = `atlas:${hash}`;
    if (this.#held.has(key)) return;
    this.#want(key, Number.MAX_VALUE, () => this.#pixels.ask('copy', { path: `/api/atlases/${hash}` }));
  }

  #wantSide(source: SceneSource, side: number, urgency: number): void {
    const { id, width, height, levels, file, wholePath, hasTiles, exact, space } = source;
    const asked = { id, width, height, levels, file, wholePath, hasTiles, exact, space };
    this.#want(`${id}:${side}`, urgency, () => this.#pixels.ask('level', { source: asked, side }));
  }

  #want(key: string, urgency: number, load: () => Promise<ImageBitmap>): void {
    if (this.#loading.has(key)) return;
    const failedAt = this.#failedAt.get(key);
    if (failedAt !== undefined && performance.now() - failedAt < FAILED_MS) return;
    const queued = this.#queue.get(key);
    if (queued && queued.urgency >= urgency) return;
    this.#queue.set(key, { key, urgency, load });
    this.#inOrder = undefined;
  }

  #pump(): void {
    if (this.#loading.size >= LOADS_AT_ONCE || this.#queue.size === 0) return;
    this.#inOrder ??= [...this.#queue.values()].sort((a, b) => a.urgency - b.urgency);
    while (this.#loading.size < LOADS_AT_ONCE && this.#inOrder.length > 0) {
      const { key, load } = this.#inOrder.pop()!;
      this.#queue.delete(key);
      this.#loading.add(key);
      void this.#load(key, load);
    }
  }

  async #load(key: string, load: () => Promise<ImageBitmap>): Promise<void> {
    try {
      const bitmap = await load();
      this.#failedAt.delete(key);
      this.#hold(key, bitmap, bitmap.width, bitmap.height);
      if (key.startsWith('atlas:')) this.#dropOldAtlases();
    } catch {
      // The level is not there yet, or the server is away: asked for again by a later frame.
      this.#failedAt.set(key, performance.now());
      setTimeout(() => this.tellNews(), FAILED_MS + 10);
    }
    this.#loading.delete(key);
    this.#evict();
    this.tellNews();
    this.#pump();
  }

  /** An atlas that was drawn anew has a new name; the old one serves nobody any more. */
  #dropOldAtlases(): void {
    const current = new Set(
      [...this.#sources.values()].flatMap(({ atlas }) =>
        atlas ? [`atlas:${atlas.hash32}`, `atlas:${atlas.hash64}`] : [],
      ),
    );
    for (const key of this.#held.keys()) if (key.startsWith('atlas:') && !current.has(key)) this.#drop(key);
  }

  #hold(key: string, bitmap: ImageBitmap | OffscreenCanvas, width: number, height: number): void {
    this.#drop(key);
    const bytes = width * height * 4;
    this.#held.set(key, { bitmap, bytes, usedInFrame: this.#frame });
    this.#bytes += bytes;
  }

  #drop(key: string): void {
    const held = this.#held.get(key);
    if (held === undefined) return;
    this.#held.delete(key);
    this.#bytes -= held.bytes;
    if (held.bitmap instanceof ImageBitmap) held.bitmap.close();
  }

  /** Frees what was used longest ago; atlases and what the last frame used stay as long as anything else can go. */
  #evict(): void {
    if (this.#bytes <= this.#budget) return;
    const rank = ([key, held]: [string, Held]) => held.usedInFrame + (key.startsWith('atlas:') ? 1e9 : 0);
    const oldest = [...this.#held].sort((a, b) => rank(a) - rank(b));
    for (const [key] of oldest) {
      if (this.#bytes <= this.#budget * 0.9) break;
      this.#drop(key);
    }
  }
}

const whole = (image: ImageBitmap | OffscreenCanvas): DrawnPixels => ({
  image,
  x: 0,
  y: 0,
  width: image.width,
  height: image.height,
});
