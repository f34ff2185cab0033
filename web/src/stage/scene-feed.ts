import { distanceToItem, isDrawn, isOnItem, sameValue, withMembers } from '@miradero/core/board';
import { type Camera, type Point, type Rectangle, unionOf } from '@miradero/core/geometry';
import { isCluster, isMark, isOutOfHand, isPictureMark, isPlacement, picturesOf } from '@miradero/core/items';
import type { LaidLens } from '@miradero/core/lens';
import type { Item } from '@miradero/core/schema';
import { createNanoEvents } from 'nanoevents';
import type { PaintedFrame, PaintTask, SceneItem, SceneSource } from './messages.ts';
import { type PaintedScene, PainterLink } from './painter-link.ts';
import { Scene } from './scene.ts';

/** What the stage needs to know of a board; the room that owns the board provides it. */
export interface BoardOnStage {
  /** Every item without the preview, removed ones included. */
  readonly items: ReadonlyMap<string, Item>;
  /** An item with what a hand is doing right now. */
  shown(id: string): Item | undefined;
  /** Ids under preview right now, none when nothing is. */
  readonly previewed: readonly string[];
  /** Called with the items that altered. @returns a function that ends it */
  onAltered(listener: (touched: ReadonlySet<string>) => void): () => void;
  /** Called when another preview is shown, or none. @returns a function that ends it */
  onPreview(listener: () => void): () => void;
}

export interface SourcesOnStage {
  source(picture: string): SceneSource | undefined;
  subscribe(listener: (pictures: ReadonlySet<string>) => void): () => void;
}

/** What those who draw what moves need to know of a view. */
export interface ViewOfMoving {
  readonly feed: SceneFeed;
  readonly camera: Camera;
  /** The part of the board in view. */
  readonly view: Rectangle;
  readonly lensesNow: readonly LaidLens[];
  /** CSS colour. */
  readonly ground: string;
  /** @param part - what of it alters, board units; by default all */
  requestDraw(part?: Rectangle): void;
}

/** Draws what moves, above what was painted and below what a hand does. CSS pixels of the view. */
export interface MovingLayer {
  /** A part of a view of which it hides all that was painted; CSS pixels of the view. */
  covers(view: ViewOfMoving): Rectangle | undefined;
  draw(context: CanvasRenderingContext2D, view: ViewOfMoving): void;
  close(): void;
}

/** Whether something is a picture to draw from, and not a drawing that is followed. */
const isReference = (item: Item): boolean => isPlacement(item) && !item.drawing;

/** How many versions back it is known what part of the board altered. */
const DIRTY_KEPT = 100;
/** A preview of more items than this shows no other pictures than theirs: it is a hand that moves them. */
const MOST_SHOWN_INSTEAD = 50;

/** Keeps the painting worker's scene, and an index of it here, in step with a board. Shared by every view of it. */
export class SceneFeed {
  readonly painter: PainterLink;
  readonly board: BoardOnStage;
  /** What moves on this board; none as long as nothing did. */
  moving: MovingLayer | undefined;
  readonly #sources: SourcesOnStage;
  readonly #painted: PaintedScene;
  readonly #scene = new Scene();
  readonly #events = createNanoEvents<{ shown: () => void; moved: (part: Rectangle) => void }>();
  readonly #known = new Set<string>();
  readonly #unsubscribe: (() => void)[];
  #areMarksHidden = false;
  #areReferencesHidden = false;
  #version = 0;
  readonly #dirty: { readonly version: number; readonly area: Rectangle }[] = [];
  #extent: Rectangle | undefined | null = null;

  /** @param painter - one that paints another scene of the same pictures, too */
  constructor(board: BoardOnStage, sources: SourcesOnStage, painter = new PainterLink()) {
    this.board = board;
    this.#sources = sources;
    this.painter = painter;
    this.#painted = painter.openScene({
      items: () => ({ set: this.#scene.given(), removed: [] }),
      sources: () => [...this.#known].flatMap((id) => this.#sources.source(id) ?? []),
    });
    this.#unsubscribe = [
      board.onAltered((touched) => this.#feed(touched)),
      board.onPreview(() => {
        this.#feedPreviewed();
        this.#events.emit('shown');
      }),
      sources.subscribe((pictures) => this.#feedSources([...pictures].filter((id) => this.#known.has(id)))),
    ];
    this.#feed(board.items.keys());
  }

  get areMarksHidden(): boolean {
    return this.#areMarksHidden;
  }

  /** What hands drew is neither painted nor met while it is hidden. */
  set areMarksHidden(areHidden: boolean) {
    if (areHidden === this.#areMarksHidden) return;
    this.#areMarksHidden = areHidden;
    const { items } = this.board;
    this.#feed([...items.values()].filter((item) => isMark(item) || isPictureMark(item)).map(({ id }) => id));
  }

  get areReferencesHidden(): boolean {
    return this.#areReferencesHidden;
  }

  /** Pictures that are no drawing are neither painted nor met while they are hidden. */
  set areReferencesHidden(areHidden: boolean) {
    if (areHidden === this.#areReferencesHidden) return;
    this.#areReferencesHidden = areHidden;
    this.#feed([...this.board.items.values()].filter(isReference).map(({ id }) => id));
  }

  /** Grows with every alteration of what stands on the board; a frame asked for later shows it. */
  get version(): number {
    return this.#version;
  }

  get size(): number {
    return this.#scene.size;
  }

  /** What is known of where the pixels of a picture are. */
  source(picture: string): SceneSource | undefined {
    return this.#sources.source(picture);
  }

  /** The part of the board that altered after `version`; undefined when that is too long ago to be known. */
  dirtySince(version: number): Rectangle | undefined {
    const since = this.#dirty.filter((mark) => mark.version > version);
    return since.length === this.#version - version ? unionOf(since.map((mark) => mark.area)) : undefined;
  }

  /** @throws PainterLostError when the worker ended before it answered */
  paint(task: PaintTask): Promise<PaintedFrame> {
    return this.#painted.paint(task);
  }

  /** Called when what is shown may have altered, previews included. @returns a function that ends it */
  subscribe(listener: () => void): () => void {
    return this.#events.on('shown', listener);
  }

  /** Hears where something that moves looks otherwise, board units. */
  onMoved(listener: (part: Rectangle) => void): () => void {
    return this.#events.on('moved', listener);
  }

  /** Bounds of everything that stands; undefined for an empty board. */
  get extent(): Rectangle | undefined {
    if (this.#extent === null) {
      this.#extent = unionOf([...this.#scene.all()].map((item) => item.bounds));
    }
    return this.#extent;
  }

  /**
   * The topmost item under a point, board units. Where none is, the nearest one within `reach` that is itself smaller
   * than the hand can meet, so that what has become a dot can still be taken.
   */
  itemAt(point: Point, reach = 0): Item | undefined {
    const under = this.itemsWithin({ x: point.x, y: point.y, width: 0, height: 0 });
    const met = under.findLast((item) => isOnItem(item, point));
    if (met || reach === 0) return met;
    const around = { x: point.x - reach, y: point.y - reach, width: 2 * reach, height: 2 * reach };
    const small = this.itemsWithin(around).filter(({ width }) => width < 2 * reach);
    const [nearest] = small
      .map((item) => ({ item, away: distanceToItem(item, point) }))
      .filter(({ away }) => away <= reach)
      .sort((one, other) => one.away - other.away);
    return nearest?.item;
  }

  /** Whether something is drawn on a picture, and seen. */
  hasMarksOn(id: string): boolean {
    return (this.#scene.get(id)?.marks?.length ?? 0) > 0;
  }

  /** Whether an item stands and is not folded away. */
  isSeen(id: string): boolean {
    return this.#scene.get(id) !== undefined;
  }

  /** What stands within a part of the board, lowest first; what lies beneath it all is none of it. */
  itemsWithin(view: Rectangle): Item[] {
    return this.#scene.within(view).flatMap(({ item }) => {
      const known = this.board.items.get(item.id);
      return known && !isOutOfHand(known) ? [known] : [];
    });
  }

  /** Shows anew what every view of it shows. */
  redraw(): void {
    this.#events.emit('shown');
  }

  /** Something that moves looks otherwise within a part of the board; nothing of what is painted does. */
  redrawMoving(part: Rectangle): void {
    this.#events.emit('moved', part);
  }

  close(): void {
    for (const unsubscribe of this.#unsubscribe) unsubscribe();
    this.moving?.close();
    this.#painted.close();
  }

  #feed(touched: Iterable<string>): void {
    const set: Item[] = [];
    const removed: string[] = [];
    const unknown = new Set<string>();
    for (const id of this.#withHidden(touched)) {
      const item = this.board.items.get(id);
      if (item === undefined || !this.#isShown(item)) {
        if (this.#scene.known(id)) removed.push(id);
        continue;
      }
      for (const picture of picturesOf(item)) if (!this.#known.has(picture)) unknown.add(picture);
      if (!sameValue(this.#scene.known(id), item)) set.push(item);
    }
    this.#feedSources(unknown);
    if (set.length + removed.length > 0) {
      this.#markDirty(this.#scene.put(set, removed));
      this.#painted.put({ set, removed });
      this.#version += 1;
      this.#extent = null;
    }
    this.#events.emit('shown');
  }

  /** What is previewed may show another picture than it will: a version of a drawing. */
  #feedPreviewed(): void {
    const { previewed } = this.board;
    if (previewed.length > MOST_SHOWN_INSTEAD) return;
    const items = previewed.flatMap((id) => this.board.shown(id) ?? []);
    this.#feedSources(items.flatMap(picturesOf).filter((picture) => !this.#known.has(picture)));
  }

  /** Whether an item is drawn, by itself or on its picture. */
  #isShown(item: Item): boolean {
    if (this.#areReferencesHidden && isReference(item)) return false;
    if (this.#areMarksHidden && (isMark(item) || isPictureMark(item))) return false;
    return isPictureMark(item) ? !item.removed : isDrawn(this.board.items, item);
  }

  /** What altered, and what may be seen or hidden by it: what lies in clusters that altered. */
  #withHidden(touched: Iterable<string>): Iterable<string> {
    const ids = [...touched];
    const { items } = this.board;
    const clusters = ids.flatMap((id) => {
      const item = items.get(id);
      return item && isCluster(item) ? [item] : [];
    });
    if (clusters.length === 0) return ids;
    // Also those of a cluster that is gone: they name it still.
    const gone = new Set(clusters.filter(({ removed }) => removed).map(({ id }) => id));
    const freed =
      gone.size === 0 ? [] : [...items.values()].filter(({ cluster }) => cluster && gone.has(cluster));
    return new Set([...ids, ...withMembers(items, [...clusters, ...freed]).map(({ id }) => id)]);
  }

  #markDirty(items: readonly SceneItem[]): void {
    // Marks on a picture that stands nowhere alter nothing.
    const area = unionOf(items.map((item) => item.bounds)) ?? { x: 0, y: 0, width: 0, height: 0 };
    this.#dirty.push({ version: this.#version + 1, area });
    if (this.#dirty.length > DIRTY_KEPT) this.#dirty.shift();
  }

  #feedSources(pictures: Iterable<string>): void {
    const sources: SceneSource[] = [];
    for (const id of pictures) {
      this.#known.add(id);
      const source = this.#sources.source(id);
      if (source) sources.push(source);
    }
    if (sources.length > 0) this.painter.post({ kind: 'sources', sources });
  }
}
