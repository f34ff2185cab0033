import { containsRectangle, inflate } from '@miradero/core/geometry';
import { isNear, type ViewNow } from './buffer.ts';
import { discardLift, type Lift, lookOf, type Paint, paintLift, sameSet } from './lift.ts';
import type { SceneFeed } from './scene-feed.ts';

/** What was selected is lifted so long after it was: a marquee selects anew with every move, and handing over thousands takes a while itself, */
const EXPECT_MS = 40;
const EXPECT_MS_EACH = 0.1;
/** and so long after the board altered: keys may alter it again. */
const RESTED_MS = 1_000;

/** Lifts what the hand will most likely take before it does, so that the first move of it is seen at once. */
export class LiftAhead {
  readonly #feed: SceneFeed;
  readonly #paint: Paint;
  #ready: Lift | undefined;
  #expected: readonly string[] = [];
  #expectedAtMs = Number.NEGATIVE_INFINITY;
  #alteredAtMs = Number.NEGATIVE_INFINITY;
  #version = 0;

  constructor(feed: SceneFeed, paint: Paint) {
    this.#feed = feed;
    this.#paint = paint;
  }

  /** Whose pixels are held here. */
  get bitmaps(): readonly ImageBitmap[] {
    const { lifted, below } = this.#ready ?? {};
    return [lifted, below].flatMap((held) => held?.bitmap ?? []);
  }

  expect(ids: readonly string[]): void {
    this.#expected = ids;
    this.#expectedAtMs = performance.now();
    if (this.#ready && !sameSet(this.#ready.lifted.ids, ids)) this.forget();
  }

  /** The board may have altered. */
  refresh(): void {
    if (this.#feed.version === this.#version) return;
    this.#version = this.#feed.version;
    this.#alteredAtMs = performance.now();
    this.forget();
  }

  /** Hands over what was lifted, where it is what the hand took, as it is now. */
  take(now: ViewNow, ids: readonly string[], staleness: number): Lift | undefined {
    const ready = this.#ready;
    if (!ready || !sameSet(ready.lifted.ids, ids) || !this.#isFresh(ready, now, staleness)) return undefined;
    const { board } = this.#feed;
    if (ready.lifted.look !== lookOf(board, ready.lifted.ids)) return undefined;
    this.#ready = undefined;
    return {
      lifted: { ...ready.lifted, ids, look: lookOf(board, ids) },
      below: { ...ready.below!, except: ids },
    };
  }

  /** What to paint, or in how many milliseconds to look again (Infinity: nothing to do). */
  work(now: ViewNow, nowMs: number, staleness: number): (() => Promise<void>) | number {
    const isReady = this.#ready !== undefined && this.#isFresh(this.#ready, now, staleness);
    if (isReady || this.#expected.length === 0) return Number.POSITIVE_INFINITY;
    const waitMs = Math.max(EXPECT_MS, EXPECT_MS_EACH * this.#expected.length);
    const fromMs = Math.max(this.#expectedAtMs + waitMs, this.#alteredAtMs + RESTED_MS);
    return fromMs > nowMs ? fromMs - nowMs : () => this.#prepare(now, this.#expected);
  }

  /** Frees what is held; what is still being painted is freed when it comes. */
  forget(): void {
    discardLift(this.#ready);
    this.#ready = undefined;
  }

  close(): void {
    this.#expected = [];
    this.forget();
  }

  async #prepare(now: ViewNow, ids: readonly string[]): Promise<void> {
    const how = { withBelow: true, isLoading: false };
    const lift = await paintLift(this.#paint, this.#feed.board, now, ids, how);
    this.forget();
    if (!sameSet(this.#expected, ids)) {
      discardLift(lift);
      return;
    }
    this.#ready = lift;
    // What is not there cannot be lifted: it is not tried again.
    if (lift === undefined) this.#expected = [];
  }

  #isFresh({ below }: Lift, now: ViewNow, staleness: number): boolean {
    return (
      below?.version === this.#feed.version &&
      below.staleness === staleness &&
      isNear(below.scale, now.scale) &&
      containsRectangle(inflate(below.view, 1e-6), now.view)
    );
  }
}
