import { boundsOf, compareStacking } from '@miradero/core/board';
import { overlaps, type Rectangle } from '@miradero/core/geometry';
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

  get size(): number {
    return this.#entries.size;
  }

  get(id: string): SceneItem | undefined {
    return this.#entries.get(id)?.item;
  }

  *all(): Generator<SceneItem> {
    for (const { item } of this.#entries.values()) yield item;
  }

  put(set: readonly SceneItem[], removed: readonly string[]): void {
    this.#inOrder = undefined;
    if (set.length + removed.length > REBUILD_ABOVE) this.#tree = undefined;
    for (const id of [...removed, ...set.map((item) => item.item.id)]) {
      const entry = this.#entries.get(id);
      if (entry === undefined) continue;
      this.#entries.delete(id);
      this.#tree?.remove(entry);
    }
    for (const item of set) {
      const entry = entryOf(item);
      this.#entries.set(item.item.id, entry);
      this.#tree?.insert(entry);
    }
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
