import { compareStacking } from '@miradero/core/board';
import type { Item } from '@miradero/core/schema';
import { type Buffer, discard, type ViewNow } from './buffer.ts';
import type { Paint } from './lift.ts';
import { sceneItemOf } from './scene.ts';
import type { SceneFeed } from './scene-feed.ts';

const GLIDE_MS = 170;
/** Of more in view nobody could follow where each went; they are where they are at once. */
const MOST_GLIDING = 400;

const eased = (progress: number): number => 1 - (1 - progress) ** 3;

/** An item on its way from where it was to where it is. */
function itemBetween(from: Item, to: Item, share: number): Item {
  const between = (a: number, b: number) => a + (b - a) * share;
  return {
    ...to,
    centre: { x: between(from.centre.x, to.centre.x), y: between(from.centre.y, to.centre.y) },
    width: between(from.width, to.width),
    ...('height' in from && 'height' in to && { height: between(from.height, to.height) }),
  };
}

/** Shows where things went that were laid out anew: for a moment they are painted on their way. */
export class Glide {
  readonly #feed: SceneFeed;
  readonly #paint: Paint;
  readonly #onFrame: () => void;
  #from: ReadonlyMap<string, Item> | undefined;
  #startedAtMs = 0;
  #buffer: Buffer | undefined;

  constructor(feed: SceneFeed, paint: Paint, onFrame: () => void) {
    this.#feed = feed;
    this.#paint = paint;
    this.#onFrame = onFrame;
  }

  /** What is to be shown in place of everything else; undefined while nothing is on its way. */
  get buffer(): Buffer | undefined {
    return this.#buffer;
  }

  /** @param from - items as they stood before */
  start(from: ReadonlyMap<string, Item>, now: () => ViewNow): void {
    const isUnderWay = this.#from !== undefined;
    this.#from = from;
    this.#startedAtMs = performance.now();
    if (!isUnderWay) void this.#run(now);
  }

  close(): void {
    this.#from = undefined;
    discard(this.#buffer);
    this.#buffer = undefined;
  }

  async #run(now: () => ViewNow): Promise<void> {
    try {
      while (this.#from) {
        const progress = (performance.now() - this.#startedAtMs) / GLIDE_MS;
        const items = this.#itemsAt(this.#from, now(), eased(Math.min(1, progress)));
        if (progress >= 1 || items.length > MOST_GLIDING) break;
        const buffer = await this.#paint({
          ...now(),
          instead: items.sort(compareStacking).map(sceneItemOf),
          isLoading: false,
        });
        discard(this.#buffer);
        this.#buffer = buffer;
        if (!this.#from) break;
        this.#onFrame();
      }
    } catch {
      // The painter is started anew: what stands where is shown without the way there.
    } finally {
      this.close();
      this.#onFrame();
    }
  }

  /** Everything in view, and what comes into it or leaves it. */
  #itemsAt(from: ReadonlyMap<string, Item>, { view }: ViewNow, share: number): Item[] {
    const items = new Map(this.#feed.itemsWithin(view).map((item) => [item.id, item]));
    for (const [id, before] of from) {
      const after = this.#feed.board.items.get(id);
      if (after && this.#feed.isSeen(id)) items.set(id, itemBetween(before, after, share));
    }
    return [...items.values()];
  }
}
