import { boundsOf, keysOnTop } from '@miradero/core/board';
import { hexOfRgb } from '@miradero/core/colour';
import { applyAffine, boardToScreen, type Point } from '@miradero/core/geometry';
import {
  BALL_CARD,
  createLitBall,
  heightOf,
  isLitBall,
  isPlacement,
  type LitBall,
  type Placement,
  pictureToBoard,
} from '@miradero/core/items';
import {
  LIGHT_PARTS,
  type LightDirection,
  type LightPart,
  NO_COLOURS,
  wordsOfDirection,
} from '@miradero/core/light';
import { DrawingAround, NotRead, readPart, standingBelow } from '../colour/index.ts';
import { type Desk, type Seat, sourcesOf, type Tool } from '../desk/index.ts';
import { ORIGINAL, pixelPool } from '../pixels/index.ts';
import type { Press } from '../stage/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { LightCard } from './light-card.tsx';
import type { LightShown, Marking } from './light-shown.ts';

/** Side of the square that is read where a part is marked, pixels of the original. */
const MARK_PX = 11;
const RING_PX = 6;
const WIDTH = { least: 140, most: 420, of: 0.36 } as const;
const ASPECT = BALL_CARD.width / (BALL_CARD.ball + BALL_CARD.patches + BALL_CARD.title);
/** Where nothing was estimated or said, light falls as it does in most studios. */
const USUAL: LightDirection = { azimuthDeg: 315, elevationDeg: 35 };

const clamped = ({ x, y }: Point): Point => ({
  x: Math.min(1, Math.max(0, x)),
  y: Math.min(1, Math.max(0, y)),
});

/** Marks what light makes of a form on a picture, part by part, or lets all of it be suggested from what is drawn around. */
class LightMarking implements Tool, Marking {
  readonly id = 'light-and-shadow';
  readonly #desk: Desk;
  readonly #store;
  /** The ball that is altered; undefined for a new one. */
  readonly #ball: string | undefined;
  #placement: string | undefined;
  readonly #drawing = new DrawingAround(
    (placement, outline, at) =>
      void (outline ? this.#suggest(placement, outline) : this.#mark(placement, at)),
  );
  #asking = new AbortController();

  constructor(desk: Desk, ball: LitBall | undefined, placement: string | undefined) {
    this.#desk = desk;
    this.#ball = ball?.id;
    this.#placement = ball?.of ?? placement;
    this.#store = createStore<LightShown>(() => ({
      colours: ball?.colours ?? NO_COLOURS,
      direction: ball?.direction ?? USUAL,
      fit: ball?.fit ?? null,
      marks: ball?.marks ?? [],
      ...{ next: 'highlight', words: undefined, isReading: false },
    }));
  }

  get store(): Readable<LightShown> {
    return this.#store;
  }
  Surface: NonNullable<Tool['Surface']> = LightCard;
  offer = (): ReturnType<Tool['offer']> => ({
    title: 'Light and shadow',
    ids: ['escape'],
    hint: 'Draw around a form: all of it is suggested. Or press where each part is seen.',
  });
  leave(): void {
    this.#asking.abort();
  }
  hover = (): string => 'crosshair';

  choose(next: LightPart): void {
    this.#store.setState({ next });
  }

  clear(part: LightPart): void {
    const { colours, marks } = this.#store.getState();
    this.#store.setState({
      colours: { ...colours, [part]: null },
      marks: marks.filter((mark) => mark.part !== part),
      next: part,
    });
    this.#desk.view?.requestDraw();
  }

  turn(direction: LightDirection): void {
    this.#store.setState({ direction, fit: null });
  }

  press(seat: Seat, press: Press): ReturnType<Tool['press']> {
    return this.#drawing.press(this, seat, press);
  }

  /** Marks of another picture are of no use here. */
  #marksOn(placement: Placement): LightShown['marks'] {
    return this.#placement === placement.id ? this.#store.getState().marks : [];
  }

  async #read<T>(of: (signal: AbortSignal) => Promise<T>): Promise<T | undefined> {
    this.#asking.abort();
    this.#asking = new AbortController();
    const { signal } = this.#asking;
    this.#store.setState({ isReading: true, words: undefined });
    try {
      return await of(signal);
    } catch (error) {
      if (signal.aborted) return undefined;
      const words = error instanceof NotRead ? error.message : 'The pixels of this picture cannot be read.';
      this.#store.setState({ words });
      return undefined;
    } finally {
      if (!signal.aborted) this.#store.setState({ isReading: false });
      this.#desk.view?.requestDraw();
    }
  }

  /** A part is seen there: its colour is read, and the next one is asked for. */
  async #mark(placement: Placement, at: Point): Promise<void> {
    const part = this.#store.getState().next;
    const read = await this.#read((signal) =>
      readPart(this.#desk, placement, { at, sizePx: MARK_PX }, { signal }),
    );
    if (!read) return;
    const marks = this.#marksOn(placement).filter((mark) => mark.part !== part);
    this.#placement = placement.id;
    const colours = { ...this.#store.getState().colours, [part]: hexOfRgb(read.colour) };
    this.#store.setState({
      colours,
      marks: [...marks, { part, ...clamped(at) }],
      next: LIGHT_PARTS.find((one) => colours[one] === null) ?? part,
    });
  }

  /** All that light makes of what was drawn around; what is not found of it is left as it is. */
  async #suggest(placement: Placement, outline: readonly Point[]): Promise<void> {
    const read = await this.#read((signal) => {
      const source = sourcesOf(this.#desk.sync.shelf).source(placement.picture);
      if (!source) throw new NotRead('This picture is not here yet.');
      return pixelPool().ask('light', { source, outline, side: ORIGINAL }, { signal });
    });
    if (!read) return;
    const { suggestion } = read;
    if (!suggestion) {
      this.#store.setState({ words: 'There is too little of it to tell light from shadow.' });
      return;
    }
    const { colours, estimate } = suggestion;
    this.#placement = placement.id;
    this.#store.setState({
      ...{ colours, marks: [], fit: estimate?.fit ?? null },
      ...(estimate && {
        direction: { azimuthDeg: estimate.azimuthDeg, elevationDeg: estimate.elevationDeg },
      }),
      next: LIGHT_PARTS.find((one) => colours[one] === null) ?? 'light',
      words: estimate
        ? `One light ${wordsOfDirection(estimate)} explains ${Math.round(estimate.fit * 100)} % of it.`
        : 'No one light explains it: where it comes from is not claimed, and its parts go by lightness.',
    });
  }

  confirm(desk: Desk): void {
    const { colours, direction, fit, marks } = this.#store.getState();
    if (LIGHT_PARTS.every((part) => colours[part] === null)) {
      desk.say('Nothing is marked yet.', ['Draw around a form, or press where its light is seen.']);
      return;
    }
    const of = this.#placement ?? null;
    const known = this.#ball === undefined ? undefined : desk.session.items.get(this.#ball);
    desk.leaveTool();
    if (known && isLitBall(known) && !known.removed) {
      desk.session.commit([{ item: known.id, set: { colours, direction, fit, of, marks: [...marks] } }]);
      desk.select([known.id]);
      return;
    }
    const item = of === null ? undefined : desk.session.items.get(of);
    const placed = item && isPlacement(item) ? item : undefined;
    const name = placed && desk.sync.shelf.get(placed.picture)?.name;
    const width = (wide: number) => Math.min(WIDTH.most, Math.max(WIDTH.least, wide * WIDTH.of));
    const create = createLitBall({
      ...{ id: crypto.randomUUID(), stack: keysOnTop(desk.session.items.values(), 1)[0]! },
      ...standingBelow(desk, placed ? [placed] : desk.session.standing, width, ASPECT),
      ...{ colours, direction, fit, of, marks: [...marks] },
      title: (name ? `Light of ${name}` : '').slice(0, 200),
    });
    desk.session.commit([{ create }]);
    desk.select([create.id]);
    if (!desk.now.isLabelOpen) desk.toggleLabel();
    desk.view?.reveal({ ...boundsOf(create), height: heightOf(create) });
  }

  overlay({ desk, view }: Seat, context: CanvasRenderingContext2D): void {
    const item = this.#placement === undefined ? undefined : desk.session.shown(this.#placement);
    const { marks, colours, next } = this.#store.getState();
    if (item && isPlacement(item) && !item.removed)
      for (const { part, x, y } of marks) {
        const at = boardToScreen(view.camera, view.viewport, applyAffine(pictureToBoard(item), { x, y }));
        context.beginPath();
        context.arc(at.x, at.y, RING_PX, 0, 2 * Math.PI);
        context.fillStyle = colours[part] ?? '#797979';
        context.fill();
        for (const [width, colour] of [
          [4, 'rgba(20, 20, 20, 0.9)'],
          [2, part === next ? '#2f7d6d' : '#fafaf9'],
        ] as const) {
          context.lineWidth = width;
          context.strokeStyle = colour;
          context.stroke();
        }
      }
    this.#drawing.draw(context);
  }
}

/** Marks light and shadow on what is selected: a picture, or a lit ball that is to be marked anew. */
export function markLight(desk: Desk): void {
  const ball = desk.targets.find(isLitBall);
  const placed = desk.targets.find(isPlacement);
  desk.take(new LightMarking(desk, ball, placed?.id));
}
