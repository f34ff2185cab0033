import { containsRectangle, inflate, intersectionOf, type Rectangle } from '@miradero/core/geometry';
import { zoomedLens } from '@miradero/core/lens';
import type { Item } from '@miradero/core/schema';
import {
  type Buffer,
  discard,
  drawBuffer,
  type FrameReport,
  isNear,
  isOfPixels,
  NO_LENSES,
  partOf,
  type ViewNow,
} from './buffer.ts';
import { Glide } from './glide.ts';
import { drawLifted, inflate2, type Lift, type Lifted, lookOf, MARGIN, paintLift, sameIds } from './lift.ts';
import { LiftAhead } from './lift-ahead.ts';
import type { PaintedFrame, PaintTask } from './messages.ts';
import { PainterLostError } from './painter-link.ts';
import type { SceneFeed } from './scene-feed.ts';

/** Device pixels of a buffer painted while the camera moves. */
const MOVING_MAX_PX = 2_000_000;
const OVERVIEW_MAX_PX = 700_000;
const OVERVIEW_EVERY_MS = 700;
/** While moving a buffer is painted anew so long after the last one: with 200 ms of painting it is never older than 500 ms. */
const RENEW_MS = 280;
/** After this time without a move the camera counts as resting. */
const REST_MS = 90;
/** An alteration that touches less than this share of the front buffer is painted as a patch of it. */
const PATCH_SHARE = 0.35;
const MAX_PATCHES = 120;
/** Patches are painted into a whole frame when nothing altered for so long. */
const FLATTEN_AFTER_MS = 400;
/** While moving, a buffer whose scale is off by more than this factor is renewed early. */
const COARSE = 1.6;
/** At rest a frame is no larger than it need be by more than this factor. */
const SPARE = 1.3;
/** A view that lacks pixels which are on their way is painted no larger before they are there, or so long has passed. */
const LOADING_MS = 300;

const sizeOf = (r: Rectangle): number => r.width * r.height;

/**
 * The frames that a view keeps and when they are painted anew: `front` somewhat larger than the view, `overview` of the
 * whole board below it, `lifted` above. Painting happens in the worker, one frame at a time; blitting never waits for it.
 */
export class Buffers {
  readonly #feed: SceneFeed;
  readonly #onFrame: () => void;
  readonly #ahead: LiftAhead;
  readonly #glide: Glide;
  #front: Buffer | undefined;
  #overview: Buffer | undefined;
  #lifted: Lifted | undefined;
  #wanted: ViewNow | undefined;
  #staleness = 0;
  #isPainting = false;
  #isClosed = false;
  #movedAtMs = Number.NEGATIVE_INFINITY;
  #paintedAtMs = Number.NEGATIVE_INFINITY;
  #overviewAtMs = Number.NEGATIVE_INFINITY;
  #patchedAtMs = Number.NEGATIVE_INFINITY;
  #timer: ReturnType<typeof setTimeout> | undefined;
  readonly #unsubscribe: () => void;

  constructor(feed: SceneFeed, onFrame: () => void) {
    this.#feed = feed;
    this.#onFrame = onFrame;
    this.#ahead = new LiftAhead(feed, (request) => this.#paint(request));
    this.#glide = new Glide(feed, (request) => this.#paint(request), onFrame);
    this.#unsubscribe = feed.painter.onStale(() => {
      this.#staleness += 1;
      this.#pump();
    });
  }

  close(): void {
    this.#isClosed = true;
    clearTimeout(this.#timer);
    this.#unsubscribe();
    discard(this.#front);
    for (const buffer of [this.#overview, this.#lifted]) buffer?.bitmap.close();
    this.#ahead.close();
    this.#glide.close();
  }

  /** Own count of the pixels held here, bytes. */
  get bytes(): number {
    const patches = this.#front?.patches ?? [];
    return [this.#front, this.#overview, this.#lifted, this.#glide.buffer, ...patches]
      .flatMap((held) => held?.bitmap ?? [])
      .concat(this.#ahead.bitmaps)
      .reduce((sum, { width, height }) => sum + width * height * 4, 0);
  }

  /** The whole board, as it was painted last. */
  get overview(): Buffer | undefined {
    return this.#overview;
  }

  /** Whether the present view is shown by a frame that is up to date, and with all the pixels it should have. */
  get status(): { isCurrent: boolean; isSharp: boolean; isComplete: boolean } {
    const front = this.#front;
    const now = this.#wanted;
    const isCurrent =
      front !== undefined &&
      now !== undefined &&
      front.version === this.#feed.version &&
      front.lenses === now.lenses &&
      containsRectangle(inflate(front.view, 1e-6), now.view);
    const isExact = isCurrent && isNear(front.scale, now.scale);
    return { isCurrent, isSharp: isExact && front.isSharp, isComplete: isCurrent && front.isComplete };
  }

  /** Says what is in view now. `isMove`: the camera moved, as opposed to the ground or the content. */
  look(now: ViewNow, isMove: boolean): void {
    if (isMove) this.#movedAtMs = performance.now();
    if (this.#wanted && (this.#wanted.ground !== now.ground || this.#wanted.lenses !== now.lenses))
      this.#staleness += 1;
    this.#wanted = now;
    this.#pump();
  }

  /** Says what the hand will most likely take next. */
  expect(ids: readonly string[]): void {
    this.#ahead.expect(ids);
    this.#pump();
  }

  /** Shows for a moment how things go from where they stood to where they stand. */
  glide(from: ReadonlyMap<string, Item>): void {
    if (this.#wanted) this.#glide.start(from, () => this.#wanted!);
  }

  /** Content or preview altered. */
  refresh(): void {
    this.#ahead.refresh();
    this.#pump();
  }

  /** Draws what there is: ground, overview where the front buffer does not reach, front, what is lifted. */
  blit(context: CanvasRenderingContext2D, now: ViewNow): FrameReport {
    const { width, height } = context.canvas;
    context.setTransform(1, 0, 0, 1, 0, 0);
    const front = this.#front;
    const isCovered = front !== undefined && containsRectangle(inflate(front.view, 1e-6), now.view);
    if (!isCovered) {
      context.fillStyle = now.ground;
      context.fillRect(0, 0, width, height);
      if (this.#overview) drawBuffer(context, this.#overview, now);
    }
    if (front) drawBuffer(context, front, now);
    if (this.#glide.buffer) drawBuffer(context, this.#glide.buffer, now);
    if (this.#lifted) drawLifted(context, this.#feed.board, this.#lifted, now);
    return {
      unpaintedShare: isCovered ? 0 : this.#unpaintedShare(now),
      bufferAgeMs: performance.now() - this.#paintedAtMs,
    };
  }

  /** Share of the view, 0..1, that holds something of the board and is shown by no buffer at all. */
  #unpaintedShare(now: ViewNow): number {
    const extent = this.#feed.extent;
    if (extent === undefined) return 0;
    const due = intersectionOf(now.view, extent);
    const shown = Math.max(
      this.#overview ? sizeOf(intersectionOf(due, this.#overview.view)) : 0,
      this.#front ? sizeOf(intersectionOf(due, this.#front.view)) : 0,
    );
    return Math.max(0, sizeOf(due) - shown) / sizeOf(now.view);
  }

  #pump(): void {
    if (this.#isClosed || this.#isPainting || this.#wanted === undefined) return;
    clearTimeout(this.#timer);
    const work = this.#nextWork(this.#wanted);
    if (typeof work === 'number') {
      if (Number.isFinite(work)) this.#timer = setTimeout(() => this.#pump(), work);
      return;
    }
    this.#isPainting = true;
    void work().then(
      () => {
        this.#isPainting = false;
        this.#pump();
      },
      (error) => {
        this.#isPainting = false;
        // A lost worker tells when it is back; anything else is tried again by the next move or alteration.
        if (!(error instanceof PainterLostError)) console.error(error);
      },
    );
  }

  /** What to paint next, or in how many milliseconds to look again (Infinity: nothing to do). */
  #nextWork(now: ViewNow): (() => Promise<void>) | number {
    const nowMs = performance.now();
    const held = this.#feed.board.previewed;
    if (held.length > 0 && !this.#isLifted(held)) {
      const ahead = this.#ahead.take(now, held, this.#staleness);
      if (!ahead) return () => this.#lift(now, held);
      this.#showLift(ahead);
    }

    const front = this.#front;
    const except = this.#lifted && held.length > 0 ? held : [];
    const isOutdated =
      front === undefined || front.version !== this.#feed.version || !sameIds(front.except, except);
    if (isOutdated) {
      const part = front && sameIds(front.except, except) ? this.#partToPatch(front) : undefined;
      return part
        ? () => this.#patch(front!, part, now)
        : () => this.#paintFront(now, front === undefined ? 0 : MARGIN / 2, except);
    }

    const restsInMs = this.#movedAtMs + REST_MS - nowMs;
    const isCovering = containsRectangle(inflate(front.view, 1e-6), now.view);
    if (restsInMs > 0) {
      const ratio = front.scale / now.scale;
      const isPoor = !isCovering || ratio > COARSE || ratio < 1 / COARSE;
      const waitMs = this.#paintedAtMs + (isPoor ? RENEW_MS / 4 : RENEW_MS) - nowMs;
      if (waitMs <= 0) return () => this.#paintFront(now, MARGIN, except);
      return Math.min(restsInMs, waitMs);
    }
    const isStale = front.staleness !== this.#staleness;
    const isExact = isNear(front.scale, now.scale) && isCovering;
    // Through another lens what is in view is wanted first.
    const isSeenAnew = front.lenses !== now.lenses;
    const isWhole = front.patches.length === 0 && except.length === 0;
    if (isExact && isSeenAnew && isWhole && isOfPixels(front.lenses, now.lenses))
      return () => this.#seeFront(now, front);
    if (!isExact || isStale) return () => this.#paintFront(now, isExact && !isSeenAnew ? MARGIN : 0, except);
    const waitMs = this.#paintedAtMs + LOADING_MS - nowMs;
    if (front.isAwaiting && waitMs > 0) return waitMs;
    if (
      !containsRectangle(
        inflate(front.view, 1e-6),
        inflate(now.view, (Math.min(now.view.width, now.view.height) * MARGIN) / 2),
      )
    ) {
      return () => this.#paintFront(now, MARGIN, except);
    }
    // A view that became smaller, as a window parted in panes, gives back what it no longer needs.
    if (sizeOf(front.view) > sizeOf(inflate2(now.view, MARGIN)) * SPARE) {
      return () => this.#paintFront(now, MARGIN, except);
    }
    if (front.patches.length > 0) {
      const waitMs = this.#patchedAtMs + FLATTEN_AFTER_MS - nowMs;
      return waitMs > 0 ? waitMs : () => this.#paintFront(now, MARGIN, except);
    }
    const overviewWork = this.#overviewWork(now, nowMs);
    if (typeof overviewWork !== 'number') return overviewWork;
    if (held.length > 0) return overviewWork;
    const aheadWork = this.#ahead.work(now, nowMs, this.#staleness);
    return typeof aheadWork === 'number' ? Math.min(overviewWork, aheadWork) : aheadWork;
  }

  /** The pixels of the front buffer that altered, whole ones; undefined when the whole is better painted anew. */
  #partToPatch(front: Buffer): Rectangle | undefined {
    // A lens looks beyond the edges of what altered.
    if (front.lenses.length > 0) return undefined;
    const dirty = this.#feed.dirtySince(front.version);
    if (dirty === undefined || front.patches.length >= MAX_PATCHES) return undefined;
    const seen = intersectionOf(inflate(dirty, 2 / front.scale), front.view);
    const x = Math.floor((seen.x - front.view.x) * front.scale);
    const y = Math.floor((seen.y - front.view.y) * front.scale);
    const width = Math.min(Math.ceil(seen.width * front.scale) + 1, front.bitmap.width - x);
    const height = Math.min(Math.ceil(seen.height * front.scale) + 1, front.bitmap.height - y);
    const isSmall = width * height < PATCH_SHARE * front.bitmap.width * front.bitmap.height;
    return isSmall ? { x, y, width: Math.max(0, width), height: Math.max(0, height) } : undefined;
  }

  async #patch(front: Buffer, part: Rectangle, now: ViewNow): Promise<void> {
    this.#patchedAtMs = performance.now();
    if (part.width === 0 || part.height === 0) {
      this.#front = { ...front, version: this.#feed.version };
      this.#onFrame();
      return;
    }
    const view = {
      x: front.view.x + part.x / front.scale,
      y: front.view.y + part.y / front.scale,
      width: part.width / front.scale,
      height: part.height / front.scale,
    };
    const { except } = front;
    const painted = await this.#paint({
      view,
      scale: front.scale,
      ground: now.ground,
      except,
      isLoading: false,
    });
    if (this.#isClosed || this.#front !== front) return;
    this.#front = {
      ...front,
      version: painted.version,
      isSharp: front.isSharp && painted.isSharp,
      isComplete: front.isComplete && painted.isComplete,
      // What the patch lacks is asked for by the next whole frame.
      staleness: painted.isSharp ? front.staleness : -1,
      patches: [...front.patches, { bitmap: painted.bitmap, x: part.x, y: part.y }],
    };
    this.#onFrame();
  }

  #overviewWork(now: ViewNow, nowMs: number): (() => Promise<void>) | number {
    const overview = this.#overview;
    const isFresh = overview?.version === this.#feed.version && overview.staleness === this.#staleness;
    if (isFresh || this.#feed.extent === undefined) return Number.POSITIVE_INFINITY;
    const waitMs = this.#overviewAtMs + OVERVIEW_EVERY_MS - nowMs;
    return waitMs > 0 ? waitMs : () => this.#paintOverview(now);
  }

  async #paintFront(now: ViewNow, margin: number, except: readonly string[]): Promise<void> {
    const view = inflate2(now.view, margin);
    const isMoving = performance.now() - this.#movedAtMs < REST_MS;
    const pixels = view.width * view.height * now.scale ** 2;
    const scale =
      isMoving && pixels > MOVING_MAX_PX ? now.scale * Math.sqrt(MOVING_MAX_PX / pixels) : now.scale;
    const buffer = await this.#paint({ view, scale, ground: now.ground, except, isLoading: true });
    this.#paintedAtMs = performance.now();
    if (this.#isClosed) return;
    discard(this.#front);
    this.#front = buffer;
    // The frame shows what was put down: what was lifted is no longer needed.
    if (except.length === 0 && this.#feed.board.previewed.length === 0) {
      this.#lifted?.bitmap.close();
      this.#lifted = undefined;
    }
    this.#onFrame();
  }

  /** Lays lenses over what is painted of the view already: thousands are not painted again before something is seen through them. */
  async #seeFront({ view, ground, lenses }: ViewNow, front: Buffer): Promise<void> {
    const { scale, except, bitmap } = front;
    const instead = { bitmap, part: partOf(front, view) };
    const seen = await this.#paint({ view, scale, ground, except, isLoading: false, instead });
    if (this.#isClosed || this.#front !== front) {
      seen.bitmap.close();
      return;
    }
    discard(front);
    const { isSharp, isComplete, isAwaiting, version, staleness } = front;
    // Of what altered since it was painted it knows nothing; that it is seen through a lens is one of these.
    this.#front = { ...seen, lenses, isSharp, isComplete, isAwaiting, version, staleness: staleness + 1 };
    this.#onFrame();
  }

  async #paintOverview(now: ViewNow): Promise<void> {
    this.#overviewAtMs = performance.now();
    const view = inflate(this.#feed.extent!, 4);
    const scale = Math.min(now.scale, Math.sqrt(OVERVIEW_MAX_PX / (view.width * view.height)));
    const buffer = await this.#paint({ view, scale, ground: now.ground, isLoading: false });
    if (this.#isClosed) return;
    this.#overview?.bitmap.close();
    this.#overview = buffer;
    this.#onFrame();
  }

  #isLifted(ids: readonly string[]): boolean {
    const lifted = this.#lifted;
    if (!lifted || !sameIds(lifted.ids, ids) || lifted.look !== lookOf(this.#feed.board, ids)) return false;
    return lifted.lacksAt === undefined || lifted.lacksAt === this.#staleness;
  }

  /** Paints what a hand took, on nothing, and the rest without it; shown together. */
  async #lift(now: ViewNow, ids: readonly string[]): Promise<void> {
    const withBelow = !sameIds(this.#lifted?.ids, ids);
    const lift = await paintLift((request) => this.#paint(request), this.#feed.board, now, ids, {
      withBelow,
      isLoading: true,
    });
    if (lift) this.#showLift(lift);
  }

  #showLift({ lifted, below }: Lift): void {
    if (this.#isClosed) return;
    this.#lifted?.bitmap.close();
    this.#lifted = lifted;
    if (below) {
      discard(this.#front);
      this.#front = below;
    }
    this.#onFrame();
  }

  async #paint(request: PaintTask): Promise<Buffer> {
    const version = this.#feed.version;
    const staleness = this.#staleness;
    const { lenses = NO_LENSES, ratio = 1 } = this.#wanted ?? {};
    // While moving it is painted smaller, or larger: what is a length on the screen goes with it.
    const zoom = (request.scale / (this.#wanted?.scale ?? request.scale)) * ratio;
    const seen = lenses.map((one) => zoomedLens(one, zoom));
    const frame: PaintedFrame = await this.#feed.paint(
      seen.length > 0 ? { ...request, lenses: seen } : request,
    );
    const { bitmap, isSharp, isComplete, isAwaiting } = frame;
    // The worker rounds to whole pixels; the scale that came of it is what blitting must use.
    const { view, scale, except = [] } = request;
    return {
      ...{ bitmap, view, scale, version, staleness, isSharp, isComplete, isAwaiting },
      ...{ except, lenses, patches: [] },
    };
  }
}
