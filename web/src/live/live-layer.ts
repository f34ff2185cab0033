import { boundsOf } from '@miradero/core/board';
import { overlaps, type Rectangle } from '@miradero/core/geometry';
import { isPlacement, type Placement } from '@miradero/core/items';
import { lensOf } from '@miradero/core/lens';
import type { Desk } from '../desk/index.ts';
import type { MovingLayer, ViewOfMoving } from '../stage/index.ts';
import { Above } from './above.ts';

/** What of one source was drawn. */
export interface DrawnLive {
  readonly drawn: readonly Placement[];
  /** In how many ms something else is to be shown; infinite where nothing moves. */
  readonly nextMs: number;
}

/** Draws some pictures of a board otherwise than they were painted: as a frame of them, as a model that was turned. */
export interface LiveSource {
  /** A part of a view of which it hides all that was painted, CSS pixels; by default none. */
  covers?(view: ViewOfMoving): Rectangle | undefined;
  draw(context: CanvasRenderingContext2D, view: ViewOfMoving): DrawnLive;
  close(): void;
}

/** Whether a picture is seen through a lens that alters it: what is live is not. */
const isSeenOtherwise = ({ lensesNow }: ViewOfMoving, id: string): boolean =>
  lensesNow.some(
    ({ lens, on }) => (lensOf(lens).seesPixels || lensOf(lens).mirrors) && (on === null || on.includes(id)),
  );

/** A placement as it is seen on a view right now; undefined where it is out of it, or seen through a lens. */
export function liveIn(view: ViewOfMoving, id: string): Placement | undefined {
  const item = view.feed.board.shown(id);
  if (!item || !isPlacement(item) || item.removed || !view.feed.isSeen(id)) return undefined;
  return overlaps(boundsOf(item), view.view) && !isSeenOtherwise(view, id) ? item : undefined;
}

/** All that is live on a board, and over it what lies over it. */
export class LiveLayer implements MovingLayer {
  readonly #sources = new Set<LiveSource>();
  readonly #above = new WeakMap<ViewOfMoving, Above>();
  readonly #timers = new Map<ViewOfMoving, ReturnType<typeof setTimeout>>();

  /** @returns what takes it away again; whoever does so closes it */
  add(source: LiveSource): () => void {
    this.#sources.add(source);
    return () => this.#sources.delete(source);
  }

  /** The first that is found: it is asked for only to draw less. */
  covers(view: ViewOfMoving): Rectangle | undefined {
    for (const source of this.#sources) {
      const part = source.covers?.(view);
      if (part) return part;
    }
    return undefined;
  }

  draw(context: CanvasRenderingContext2D, view: ViewOfMoving): void {
    clearTimeout(this.#timers.get(view));
    const told = [...this.#sources].map((source) => source.draw(context, view));
    const drawn = told.flatMap((one) => one.drawn);
    if (drawn.length > 0) this.#aboveOn(view).draw(context, drawn);
    const nextMs = Math.min(...told.map((one) => one.nextMs));
    if (Number.isFinite(nextMs))
      this.#timers.set(
        view,
        setTimeout(() => view.requestDraw(), nextMs),
      );
  }

  #aboveOn(view: ViewOfMoving): Above {
    const known = this.#above.get(view) ?? new Above(view);
    this.#above.set(view, known);
    return known;
  }

  close(): void {
    for (const timer of this.#timers.values()) clearTimeout(timer);
    for (const source of this.#sources) source.close();
    this.#sources.clear();
  }
}

const ofDesk = new WeakMap<Desk, LiveLayer>();

/** What is live on a desk's board. */
export function liveOn(desk: Desk): LiveLayer {
  const layer = ofDesk.get(desk) ?? new LiveLayer();
  ofDesk.set(desk, layer);
  desk.feed.moving = layer;
  return layer;
}
