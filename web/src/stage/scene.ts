import { boundsOf, compareStacking } from '@miradero/core/board';
import { overlaps, type Rectangle } from '@miradero/core/geometry';
import { isPictureMark, type PictureMark } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import RBush from 'rbush';
import type { SceneItem } from './messages.ts';

interface Entry {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
  readonly item: SceneItem;
}

const entryOf = (item: SceneItem): Entry => ({
  minX: item.bounds.x,
  minY: item.bounds.y,
  maxX: item.bounds.x + item.bounds.width,
  maxY: item.bounds.y + item.bounds.height,
  item,
});

/** Changes in one go above which building the index anew is cheaper than altering it. */
const REBUILD_ABOVE = 500;

/** An item as a scene keeps it. */
export const sceneItemOf = (item: Item): SceneItem => ({ item, bounds: boundsOf(item) });

const byStacking = (a: SceneItem, b: SceneItem) => compareStacking(a.item, b.item);

/** What stands on the board, found by place. */
export class Scene {
  /** Made when something is looked for: a board that is only painted needs no index on the main thread. */
  #tree: RBush<Entry> | undefined;
  readonly #entries = new Map<string, Entry>();
  /** Everything, lowest first. */
  #inOrder: readonly SceneItem[] | undefined;
  /** What hands drew on pictures, and on each of them, by the placement. */
  readonly #marks = new Map<string, PictureMark>();
  readonly #marksOn = new Map<string, Set<string>>();

  get size(): number {
    return this.#entries.size;
  }

  get(id: string): SceneItem | undefined {
    return this.#entries.get(id)?.item;
  }

  /** What it was given by an id, be it drawn by itself or on a picture. */
  known(id: string): Item | undefined {
    return this.get(id)?.item ?? this.#marks.get(id);
  }

  *all(): Generator<SceneItem> {
    for (const { item } of this.#entries.values()) yield item;
  }

  /** Everything that it was given. */
  given(): Item[] {
    return [...[...this.all()].map(({ item }) => item), ...this.#marks.values()];
  }

  /** An item that is painted in place of what stands here, with what hands drew on it. */
  withMarks(item: SceneItem): SceneItem {
    const marks = this.#marksOf(item.item.id);
    return marks ? { ...item, marks } : item;
  }

  /** @returns what looks otherwise: as it was, and as it is */
  put(set: readonly Item[], removed: readonly string[]): SceneItem[] {
    this.#inOrder = undefined;
    if (set.length + removed.length > REBUILD_ABOVE) this.#tree = undefined;
    const pictures = this.#putMarks(set, removed);
    const standing = set.filter((item) => !isPictureMark(item));
    const gone = new Set([...removed, ...standing.map(({ id }) => id)]);
    const drawnOn = [...pictures].flatMap((id) => (gone.has(id) ? [] : (this.get(id)?.item ?? [])));
    const altered: SceneItem[] = [];
    for (const id of [...gone, ...drawnOn.map((item) => item.id)]) {
      const entry = this.#entries.get(id);
      if (entry === undefined) continue;
      altered.push(entry.item);
      this.#entries.delete(id);
      this.#tree?.remove(entry);
    }
    for (const item of [...standing, ...drawnOn]) {
      const entry = entryOf(this.withMarks(sceneItemOf(item)));
      altered.push(entry.item);
      this.#entries.set(item.id, entry);
      this.#tree?.insert(entry);
    }
    return altered;
  }

  /** @returns the placements on which something alters */
  #putMarks(set: readonly Item[], removed: readonly string[]): Set<string> {
    const pictures = new Set<string>();
    for (const id of removed) {
      const mark = this.#marks.get(id);
      if (!mark) continue;
      this.#marks.delete(id);
      this.#marksOn.get(mark.on)?.delete(id);
      pictures.add(mark.on);
    }
    for (const mark of set) {
      if (!isPictureMark(mark)) continue;
      this.#marks.set(mark.id, mark);
      const on = this.#marksOn.get(mark.on) ?? new Set();
      this.#marksOn.set(mark.on, on.add(mark.id));
      pictures.add(mark.on);
    }
    return pictures;
  }

  #marksOf(id: string): PictureMark[] | undefined {
    const on = this.#marksOn.get(id);
    if (!on || on.size === 0) return undefined;
    return [...on].flatMap((mark) => this.#marks.get(mark) ?? []).sort(compareStacking);
  }

  /** Items that meet `view`, lowest first. */
  within(view: Rectangle): SceneItem[] {
    this.#tree ??= new RBush<Entry>().load([...this.#entries.values()]);
    const found = this.#tree
      .search({ minX: view.x, minY: view.y, maxX: view.x + view.width, maxY: view.y + view.height })
      .map((entry) => entry.item)
      .filter((item) => overlaps(item.bounds, view));
    return found.length === this.size ? [...this.#everything()] : found.sort(byStacking);
  }

  /** A view of the whole board is painted again and again: its order is found once. */
  #everything(): readonly SceneItem[] {
    this.#inOrder ??= [...this.all()].sort(byStacking);
    return this.#inOrder;
  }
}
