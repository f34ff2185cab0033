import {
  applyChange,
  boundsOfItems,
  compareStacking,
  type Done,
  fadeBy,
  isOnItem,
  isSeen,
  mirror,
  moveBy,
  recordDone,
  restackByStep,
  restore,
  sizeAbout,
  takeBack,
  turnAbout,
} from '@miradero/core/board';
import { centreOf, type Point, type Rectangle } from '@miradero/core/geometry';
import { type Lasso, trimTo } from '@miradero/core/items';
import type { Item, Operation } from '@miradero/core/schema';

type Step = Done[];

/** What a board and its selection must be after each action, computed by core alone. */
export class BoardModel {
  items = new Map<string, Item>();
  selection = new Set<string>();
  #undo: Step[] = [];
  #redo: Step[] = [];
  #number = 0;

  constructor(items: readonly Item[]) {
    this.items = new Map(items.map((item) => [item.id, item]));
  }

  get standing(): Item[] {
    return [...this.items.values()].filter((item) => isSeen(this.items, item)).sort(compareStacking);
  }

  get selected(): Item[] {
    return [...this.selection].flatMap((id) => this.items.get(id) ?? []).sort(compareStacking);
  }

  /** The topmost item under a point, board units. */
  itemAt(point: Point): Item | undefined {
    return this.standing.reverse().find((item) => isOnItem(item, point));
  }

  commit(operations: readonly Operation[]): void {
    if (operations.length === 0) return;
    this.#undo.push([this.#make(operations)]);
    this.#redo = [];
    this.#dropGone();
  }

  undo(): void {
    this.#turnBack(this.#undo, this.#redo);
  }
  redo(): void {
    this.#turnBack(this.#redo, this.#undo);
  }
  /** A reload ends the selection; what can be taken back and made again stays so. */
  reload(): void {
    this.selection.clear();
  }

  // What the keys do with the selection

  nudge(by: Point): void {
    this.commit(moveBy(this.selected, by));
  }
  mirror(axis: 'flipX' | 'flipY'): void {
    this.commit(mirror(this.selected, axis));
  }
  turn(angleDeg: number): void {
    this.commit(turnAbout(this.selected, this.middle(), angleDeg));
  }
  size(factor: number): void {
    this.commit(sizeAbout(this.selected, this.middle(), factor));
  }
  fade(delta: number): void {
    this.commit(fadeBy(this.selected, delta));
  }
  restore(): void {
    this.commit(restore(this.selected));
  }
  restack(direction: 'raise' | 'lower'): void {
    this.commit(restackByStep(this.items.values(), this.selection, direction));
  }
  remove(): void {
    this.commit(this.selected.map((item) => ({ item: item.id, set: { removed: true } })));
  }
  trim(id: string, to: Rectangle, outline: Lasso | null = null): void {
    const item = this.items.get(id);
    if (item?.kind === 'placement') this.commit([trimTo(item, to, outline)]);
  }

  middle(): Point {
    return centreOf(boundsOfItems(this.selected));
  }

  #make(operations: readonly Operation[]): Done {
    this.#number += 1;
    const change = { id: String(this.#number), operations };
    const done = recordDone(this.items, change);
    applyChange(this.items, change);
    return done;
  }

  #turnBack(from: Step[], to: Step[]): void {
    const step = from.pop();
    if (!step) return;
    const reverse: Step = [];
    for (const done of [...step].reverse()) {
      const { operations } = takeBack(this.items, done);
      if (operations.length > 0) reverse.push(this.#make(operations));
    }
    if (reverse.length > 0) to.push(reverse);
    this.#dropGone();
  }

  #dropGone(): void {
    for (const id of this.selection) if (this.items.get(id)?.removed !== false) this.selection.delete(id);
  }
}
