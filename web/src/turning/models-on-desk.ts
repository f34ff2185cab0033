import type { Placement } from '@miradero/core/items';
import {
  FIRST_VIEW,
  isModelType,
  type ModelView,
  type Stance,
  standingPoints,
  usualStance,
  wholeInView,
} from '@miradero/core/model';
import type { Picture } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import { givePoster } from '../gather/index.ts';
import { type DrawnLive, drawOver, type LiveSource, liveIn, liveOn } from '../live/index.ts';
import { type Model, openModel, type ReadModel } from '../models/index.ts';
import type { ViewOfMoving } from '../stage/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { pathOfPicture } from '../sync/index.ts';

/** While a hand turns it, it is drawn no larger: pixels along its longer side. */
const HELD_PX = 900;
const MOST_PX = 2_400;
const LEAST_PX = 64;

/** A model that was opened, and what came of that. */
interface OpenModel {
  readonly model: Model;
  read: ReadModel | undefined;
  /** Why it cannot be shown, in words. */
  why: string | undefined;
}

/** What was drawn of a placement last. */
interface Drawn {
  image: ImageBitmap | undefined;
  /** What it was drawn for. */
  key: string;
  /** Pixels along its longer side. */
  side: number;
  isDrawing: boolean;
  /** How large each view needs it. */
  readonly needed: Map<ViewOfMoving, { readonly side: number; readonly atMs: number }>;
}

const newlyDrawn = (): Drawn => ({ image: undefined, key: '', side: 0, isDrawing: false, needed: new Map() });

/** A view that has not drawn it for so long needs it no more. */
const FORGOTTEN_MS = 3_000;

interface State {
  /** By placement. */
  readonly views: ReadonlyMap<string, ModelView>;
  /** Grows with everything that comes to be known. */
  readonly news: number;
}

/** The models of a board that were turned. As they were turned they are seen until the board is closed. */
export class ModelsOnDesk implements LiveSource {
  readonly #desk: Desk;
  readonly #store = createStore<State>(() => ({ views: new Map(), news: 0 }));
  /** By picture. */
  readonly #open = new Map<string, OpenModel>();
  /** By placement. */
  readonly #drawn = new Map<string, Drawn>();
  /** By placement: how it was looked at when it was begun with. */
  readonly #first = new Map<string, ModelView>();
  readonly #unsubscribe: () => void;
  #held: string | undefined;

  constructor(desk: Desk) {
    this.#desk = desk;
    liveOn(desk).add(this);
    // Which way a model stands may be said elsewhere.
    this.#unsubscribe = desk.sync.shelf.subscribe((pictures) => {
      if ([...this.#open.keys()].some((id) => pictures.has(id))) this.#tell();
    });
  }

  get store(): Readable<State> {
    return this.#store;
  }

  pictureOf({ picture }: Placement): Picture | undefined {
    const known = this.#desk.sync.shelf.get(picture)?.picture;
    return known?.kind === 'model' ? known : undefined;
  }

  isModel = (placement: Placement): boolean => this.pictureOf(placement) !== undefined;

  /** Which way a model stands. */
  stanceOf(placement: Placement): Stance {
    const picture = this.pictureOf(placement);
    return picture?.facts.stance ?? usualStance(picture?.type ?? '');
  }

  /** Says which way it stands, for all pictures that are taken of it from now on. */
  stand(placement: Placement, stance: Stance): void {
    void this.#desk.sync.outbox.put({
      ...{ kind: 'patch', path: pathOfPicture(placement.picture), body: { stance } },
    });
    this.#tell();
  }

  /** A model, being read if it was not. */
  open(placement: Placement): OpenModel | undefined {
    const { picture: id } = placement;
    const known = this.#open.get(id);
    if (known) return known;
    const picture = this.pictureOf(placement);
    if (!picture || !isModelType(picture.type)) return undefined;
    const { href: address } = new URL(`/api/pictures/${id}/original`, window.location.href);
    const made: OpenModel = {
      ...{ model: openModel({ address, type: picture.type }), read: undefined, why: undefined },
    };
    this.#open.set(id, made);
    made.model.look().then(
      (read) => {
        made.read = read;
        this.#tell();
      },
      (error: Error) => {
        made.why = error.message;
        this.#tell();
      },
    );
    return made;
  }

  /** It is seen as it is looked at from now on, as soon as it was read. */
  begin(placement: Placement): void {
    const show = () => {
      const view = this.viewOf(placement);
      if (!view || this.isTurned(placement.id)) return;
      this.#first.set(placement.id, view);
      this.set(placement, view);
    };
    this.open(placement)
      ?.model.look()
      .then(
        () => {
          show();
          const picture = this.pictureOf(placement);
          if (picture?.state === 'failed') void givePoster(this.#desk.sync, picture);
        },
        () => {},
      );
  }

  /** It is left: where nothing of its view was altered it is its poster. */
  end(id: string): void {
    const first = this.#first.get(id);
    if (first && this.#store.getState().views.get(id) === first) this.putBack(id);
    this.#first.delete(id);
  }

  /** It is tried once more. */
  retry(placement: Placement): void {
    this.#open.get(placement.picture)?.model.close();
    this.#open.delete(placement.picture);
    this.begin(placement);
    this.#tell();
  }

  /** How it is looked at; as its poster was taken where it was not turned yet. Undefined as long as it is read. */
  viewOf(placement: Placement): ModelView | undefined {
    const view = this.#store.getState().views.get(placement.id);
    if (view) return view;
    return this.whole(placement, FIRST_VIEW);
  }

  /** A view with all of the model in it. */
  whole(placement: Placement, view: ModelView): ModelView | undefined {
    const { pictureWidth, pictureHeight } = placement;
    const points = this.open(placement)?.read?.points;
    return (
      points &&
      wholeInView(view, standingPoints(points, this.stanceOf(placement)), pictureWidth, pictureHeight)
    );
  }

  set({ id }: Placement, view: ModelView): void {
    const views = new Map(this.#store.getState().views);
    views.set(id, view);
    this.#store.setState({ views });
    this.#tell();
  }

  /** Whether it is seen otherwise than as its poster. */
  isTurned = (id: string): boolean => this.#store.getState().views.has(id);

  /** It is seen as its poster again. */
  putBack(id: string): void {
    const views = new Map(this.#store.getState().views);
    views.delete(id);
    this.#store.setState({ views });
    this.#drawn.get(id)?.image?.close();
    this.#drawn.delete(id);
    this.#tell();
  }

  /** A hand has it: it is drawn as fast as it can be. */
  hold(id: string | undefined): void {
    this.#held = id;
    this.#tell();
  }

  #tell(): void {
    this.#store.setState(({ news }) => ({ news: news + 1 }));
    this.#desk.feed.redraw();
  }

  draw(context: CanvasRenderingContext2D, seen: ViewOfMoving): DrawnLive {
    const drawn: Placement[] = [];
    for (const [id, view] of this.#store.getState().views) {
      const item = liveIn(seen, id);
      const open = item && this.open(item);
      if (!item || !open || open.why !== undefined) continue;
      this.#want(item, open.model, view, seen);
      const image = this.#drawn.get(id)?.image;
      if (!image) continue;
      drawOver(context, seen, item, [{ image, opacity: 1 }]);
      drawn.push(item);
    }
    return { drawn, nextMs: Number.POSITIVE_INFINITY };
  }

  /** Pixels along the longer side at which a placement is drawn. */
  #sideFor({ id, width, trim, pictureWidth, pictureHeight }: Placement, scale: number): number {
    const longest = (width / trim.width) * Math.max(1, pictureHeight / pictureWidth);
    const needed = longest * scale * window.devicePixelRatio;
    const most = this.#held === id ? HELD_PX : MOST_PX;
    // In few steps: a board that is zoomed does not draw everything anew at every step.
    return Math.min(most, 2 ** (Math.ceil(Math.log2(Math.max(LEAST_PX, needed)) * 2) / 2));
  }

  /**
   * Draws it where it is not drawn as it is looked at, as large as the largest of its views needs it; one drawing at a
   * time, the last wish counts.
   */
  #want(item: Placement, model: Model, view: ModelView, seen: ViewOfMoving): void {
    const known = this.#drawn.get(item.id) ?? newlyDrawn();
    this.#drawn.set(item.id, known);
    known.needed.set(seen, { side: this.#sideFor(item, seen.camera.scale), atMs: performance.now() });
    for (const [other, { atMs }] of known.needed)
      if (performance.now() - atMs > FORGOTTEN_MS) known.needed.delete(other);
    const side = Math.max(...[...known.needed.values()].map((one) => one.side));
    const { pictureWidth, pictureHeight } = item;
    const by = side / Math.max(pictureWidth, pictureHeight);
    const stance = this.stanceOf(item);
    const isHeld = this.#held === item.id;
    const key = JSON.stringify([view, stance, isHeld]);
    if (known.isDrawing || (known.key === key && known.side >= side)) return;
    known.isDrawing = true;
    const size = { width: Math.round(pictureWidth * by), height: Math.round(pictureHeight * by) };
    model.draw({ view, stance, isHeld, ...size }).then(
      (image) => {
        known.isDrawing = false;
        known.key = key;
        known.side = side;
        known.image?.close();
        known.image = image;
        if (this.#drawn.get(item.id) !== known) image.close();
        this.#desk.feed.redraw();
      },
      (error: Error) => {
        known.isDrawing = false;
        const open = this.#open.get(item.picture);
        if (open) open.why = error.message;
        this.#tell();
      },
    );
  }

  close(): void {
    this.#unsubscribe();
    for (const { model } of this.#open.values()) model.close();
    for (const { image } of this.#drawn.values()) image?.close();
    this.#drawn.clear();
  }
}

const ofDesk = new WeakMap<Desk, ModelsOnDesk>();

/** The models of a desk's board. */
export function modelsOn(desk: Desk): ModelsOnDesk {
  const models = ofDesk.get(desk) ?? new ModelsOnDesk(desk);
  ofDesk.set(desk, models);
  return models;
}
