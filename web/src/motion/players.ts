import type { Placement } from '@miradero/core/items';
import { frameAfter, framesAhead, type Playing, runTo, untilNextFrame, wholeOf } from '@miradero/core/motion';
import type { Desk } from '../desk/index.ts';
import { type DrawnImage, type DrawnLive, drawOver, type LiveSource, liveIn, liveOn } from '../live/index.ts';
import type { ViewOfMoving } from '../stage/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { MovingPicture } from './moving-picture.ts';

/** So many frames are read before they are shown. */
const AHEAD = 6;
/** How strong the neighbours of a frame are seen over it, the nearest first. */
const FADED = [0.34, 0.2, 0.12] as const;
export const MOST_NEIGHBOURS = FADED.length;
/** No view is drawn more often for what moves. */
const LEAST_MS = 4;

/** How something on a board moves, or stands. */
export interface Moving {
  /** What was said of it; the rest is as it was made. */
  readonly playing: Partial<Playing>;
  readonly isRunning: boolean;
  /** So many frames before and after the present one are seen over it while it stands. */
  readonly neighbours: number;
}

interface State {
  /** By placement. */
  readonly moving: ReadonlyMap<string, Moving>;
  /** Grows with everything that is read. */
  readonly news: number;
}

/** How far something had run at a moment: µs of its own time. */
interface Run {
  readonly us: number;
  readonly atMs: number;
}

/** The frames that are seen over another while it stands: nearer ones stronger. */
const neighboursOf = (frame: number, count: number, neighbours: number) =>
  FADED.slice(0, neighbours).flatMap((opacity, at) =>
    [frame - at - 1, frame + at + 1]
      .filter((one) => one >= 0 && one < count)
      .map((one) => ({ frame: one, opacity })),
  );

/** What of a board is played, all of it by one clock. What is not in view is neither read nor drawn. */
export class Players implements LiveSource {
  readonly #desk: Desk;
  readonly #store = createStore<State>(() => ({ moving: new Map(), news: 0 }));
  /** By placement. */
  readonly #runs = new Map<string, Run>();
  /** The frame of each placement that was drawn last. */
  readonly #drawnLast = new Map<string, number>();
  /** By picture. */
  readonly #pictures = new Map<string, MovingPicture>();

  constructor(desk: Desk) {
    this.#desk = desk;
    liveOn(desk).add(this);
  }

  get store(): Readable<State> {
    return this.#store;
  }

  /** Whether a picture is one that moves. */
  isMoving({ picture }: Placement): boolean {
    const kind = this.#desk.sync.shelf.get(picture)?.picture?.kind;
    return kind === 'animated' || kind === 'clip';
  }

  /** What moves in a placement, its file being read if it was not; undefined for what does not, or is not at the server yet. */
  pictureOf({ picture: id }: Placement): MovingPicture | undefined {
    const known = this.#pictures.get(id);
    if (known) return known;
    const picture = this.#desk.sync.shelf.get(id)?.picture;
    // A clip without a poster is no picture that could be painted, and can be played all the same.
    if (picture?.kind !== 'animated' && picture?.kind !== 'clip') return undefined;
    const { href: address } = new URL(`/api/pictures/${id}/original`, window.location.href);
    const made = new MovingPicture(id, { address, type: picture.type, kind: picture.kind });
    this.#pictures.set(id, made);
    made.onNews(() => this.#tell());
    return made;
  }

  movingOf(id: string): Moving | undefined {
    return this.#store.getState().moving.get(id);
  }

  /** How it moves; undefined as long as its file is read. */
  playingOf(placement: Placement): Playing | undefined {
    const times = this.#pictures.get(placement.picture)?.times;
    return times && { ...wholeOf(times), ...this.movingOf(placement.id)?.playing };
  }

  /** The frame of a placement that is shown now; undefined as long as its file is read. */
  frameOf(placement: Placement): number | undefined {
    const times = this.#pictures.get(placement.picture)?.times;
    const playing = this.playingOf(placement);
    return times && playing && frameAfter(times, playing, this.#runNow(placement.id));
  }

  /** µs of its own time. */
  #runNow(id: string): number {
    const run = this.#runs.get(id);
    if (!run) return 0;
    const moving = this.movingOf(id);
    if (!moving?.isRunning) return run.us;
    return run.us + (performance.now() - run.atMs) * 1_000 * (moving.playing.speed ?? 1);
  }

  /** From where it is now it goes on otherwise, or stands. */
  set(placement: Placement, part: Partial<Moving>): void {
    const { id } = placement;
    const times = this.#pictures.get(placement.picture)?.times;
    const before = this.movingOf(id);
    const playing = { ...before?.playing, ...part.playing };
    const frame = this.frameOf(placement);
    // Where something else is repeated, or in another way, it goes on from the frame at which it is.
    const isOtherwise = part.playing !== undefined && part.playing.speed === undefined;
    const us =
      times && frame !== undefined && isOtherwise
        ? runTo(times, { ...wholeOf(times), ...playing }, frame)
        : this.#runNow(id);
    this.#runs.set(id, { us, atMs: performance.now() });
    const { isRunning = false, neighbours = 0 } = { ...before, ...part };
    const moving = new Map(this.#store.getState().moving);
    moving.set(id, { playing, isRunning, neighbours });
    this.#store.setState({ moving });
    this.#tell();
  }

  /** All of them play from the same moment, or all stand. */
  toggle(placements: readonly Placement[]): void {
    const isAny = placements.some(({ id }) => this.movingOf(id)?.isRunning);
    for (const placement of placements) this.set(placement, { isRunning: !isAny });
  }

  /** It stands at a frame. */
  show(placement: Placement, frame: number): void {
    const times = this.pictureOf(placement)?.times;
    this.set(placement, { isRunning: false });
    const playing = this.playingOf(placement);
    if (!times || !playing) return;
    const us = runTo(times, playing, Math.min(playing.to, Math.max(playing.from, frame)));
    this.#runs.set(placement.id, { us, atMs: performance.now() });
    this.#tell();
  }

  /** It stands so many frames further on, going around at the ends of what is repeated. */
  step(placement: Placement, by: number): void {
    const frame = this.frameOf(placement);
    const playing = this.playingOf(placement);
    if (frame === undefined || !playing) return;
    const count = playing.to - playing.from + 1;
    this.show(placement, playing.from + ((((frame - playing.from + by) % count) + count) % count));
  }

  #tell(): void {
    this.#store.setState(({ news }) => ({ news: news + 1 }));
    this.#desk.feed.redraw();
  }

  draw(context: CanvasRenderingContext2D, view: ViewOfMoving): DrawnLive {
    let nextMs = Number.POSITIVE_INFINITY;
    const drawn: Placement[] = [];
    for (const [id, moving] of this.#store.getState().moving) {
      const item = liveIn(view, id);
      if (!item) continue;
      nextMs = Math.min(nextMs, this.#drawOne(context, view, item, moving));
      drawn.push(item);
    }
    return { drawn, nextMs };
  }

  /** @returns in how many ms another frame of it is to be shown */
  #drawOne(
    context: CanvasRenderingContext2D,
    view: ViewOfMoving,
    item: Placement,
    { playing: said, isRunning, neighbours }: Moving,
  ): number {
    const picture = this.pictureOf(item);
    const times = picture?.times;
    if (!picture || !times) return Number.POSITIVE_INFINITY;
    const playing = { ...wholeOf(times), ...said };
    const run = this.#runNow(item.id);
    const frame = frameAfter(times, playing, run);
    const around = isRunning ? [] : neighboursOf(frame, times.startsUs.length, neighbours);
    const { width, trim, pictureWidth, pictureHeight } = item;
    const longest = (width / trim.width) * Math.max(1, pictureHeight / pictureWidth);
    picture.want(
      isRunning ? framesAhead(times, playing, run, AHEAD) : [frame, ...around.map((one) => one.frame)],
      longest * view.camera.scale * window.devicePixelRatio,
    );
    const now = picture.frame(frame);
    if (now) this.#drawnLast.set(item.id, frame);
    // What is not read yet leaves what was shown before.
    const image = now ?? picture.frame(this.#drawnLast.get(item.id) ?? frame);
    if (image) {
      const faded = around.flatMap((one): DrawnImage[] => {
        const neighbour = picture.frame(one.frame);
        return neighbour ? [{ image: neighbour, opacity: one.opacity }] : [];
      });
      drawOver(context, view, item, [{ image, opacity: 1 }, ...faded]);
    }
    if (!isRunning) return Number.POSITIVE_INFINITY;
    return Math.max(LEAST_MS, untilNextFrame(times, playing, run) / (1_000 * playing.speed));
  }

  close(): void {
    for (const picture of this.#pictures.values()) picture.close();
  }
}

const ofDesk = new WeakMap<Desk, Players>();

/** What of a desk's board is played. */
export function playersOf(desk: Desk): Players {
  const players = ofDesk.get(desk) ?? new Players(desk);
  ofDesk.set(desk, players);
  return players;
}
