import { compareStacking } from '@miradero/core/board';
import { overlaps, type Rectangle } from '@miradero/core/geometry';
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

/** What stands on the board, found by place. */
export class Scene {
  readonly #tree = new RBush<Entry>();
  readonly #entries = new Map<string, Entry>();

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
    const isRebuilt = set.length + removed.length > REBUILD_ABOVE;
    for (const id of [...removed, ...set.map((item) => item.item.id)]) {
      const entry = this.#entries.get(id);
      if (entry === undefined) continue;
      this.#entries.delete(id);
      if (!isRebuilt) this.#tree.remove(entry);
    }
    for (const item of set) {
      const entry = entryOf(item);
      this.#entries.set(item.item.id, entry);
      if (!isRebuilt) this.#tree.insert(entry);
    }
    if (isRebuilt) this.#tree.clear().load([...this.#entries.values()]);
  }

  /** Items that meet `view`, lowest first. */
  within(view: Rectangle): SceneItem[] {
    return this.#tree
      .search({ minX: view.x, minY: view.y, maxX: view.x + view.width, maxY: view.y + view.height })
      .map((entry) => entry.item)
      .filter((item) => overlaps(item.bounds, view))
      .sort((a, b) => compareStacking(a.item, b.item));
  }
}
