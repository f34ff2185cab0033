import { applyOperation, itemIdOf } from '@miradero/core/board';
import { createPlacement } from '@miradero/core/items';
import type { Board, Item, Operation, Picture } from '@miradero/core/schema';
import { createNanoEvents } from 'nanoevents';
import { createStore, type StoreApi } from '../state/index.ts';
import type { BoardContent, OpenBoard } from '../sync/index.ts';

const SURROUND = 5;

/** Pictures that are on no board: what is done to them here is for looking, and is kept nowhere. */
export class LooseBoard implements OpenBoard {
  readonly id = 'loose';
  readonly #items: Map<string, Item>;
  readonly #store: StoreApi<BoardContent>;
  readonly #events = createNanoEvents<{
    altered: (touched: ReadonlySet<string>) => void;
    preview: () => void;
  }>();
  readonly #rename: (picture: string, name: string) => void;
  #version = 0;
  #preview: readonly Operation[] = [];

  constructor(pictures: readonly Picture[], rename: (picture: string, name: string) => void) {
    this.#rename = rename;
    const placed = pictures.map(({ id, width, height }, index) =>
      createPlacement({
        ...{ id, stack: `a${index}`, picture: id, pictureWidth: width, pictureHeight: height },
        ...{ centre: { x: 0, y: 0 }, width },
      }),
    );
    this.#items = new Map(placed.map((item) => [item.id, item]));
    const board: Board = {
      ...{ id: this.id, name: 'Pictures', surround: SURROUND, putAway: false, revision: 0 },
      ...{ pictures: pictures.length, preview: null, createdAt: '', changedAt: '' },
      ...{ forWhom: '', question: '', due: null },
    };
    this.#store = createStore<BoardContent>(() => ({ board, items: this.#items, version: 0 }));
  }

  get store() {
    return this.#store;
  }
  get board(): Board {
    return this.#store.getState().board;
  }
  get items(): ReadonlyMap<string, Item> {
    return this.#items;
  }
  get version(): number {
    return this.#version;
  }
  get standing(): readonly Item[] {
    return [...this.#items.values()].filter(({ removed }) => !removed);
  }
  shown(id: string): Item | undefined {
    return this.#preview
      .filter((operation) => itemIdOf(operation) === id)
      .reduce<Item | undefined>(applyOperation, this.#items.get(id));
  }
  get previewed(): readonly string[] {
    return [...new Set(this.#preview.map(itemIdOf))];
  }
  onAltered(listener: (touched: ReadonlySet<string>) => void): () => void {
    return this.#events.on('altered', listener);
  }
  onPreview(listener: () => void): () => void {
    return this.#events.on('preview', listener);
  }
  preview(operations: readonly Operation[]): void {
    this.#preview = operations.filter((operation) => this.#items.has(itemIdOf(operation)));
    this.#events.emit('preview');
  }
  commit(operations: readonly Operation[]): void {
    if (this.#preview.length > 0) this.preview([]);
    const touched = new Set<string>();
    for (const operation of operations) {
      // It is taken away by closing what shows it.
      const isRemoval = 'set' in operation && operation.set.removed === true;
      const next = isRemoval ? undefined : applyOperation(this.#items.get(itemIdOf(operation)), operation);
      if (!next || !this.#items.has(next.id)) continue;
      this.#items.set(next.id, next);
      touched.add(next.id);
    }
    if (touched.size === 0) return;
    this.#version += 1;
    this.#events.emit('altered', touched);
    this.#store.setState({ version: this.#version });
  }
  correct(operations: readonly Operation[]): void {
    this.commit(operations);
  }
  takeBack(): { skipped: number } {
    return { skipped: 0 };
  }
  patchBoard(patch: Partial<Board>): void {
    this.#store.setState(({ board }) => ({ board: { ...board, ...patch } }));
  }
  renamePicture(picture: string, name: string): void {
    this.#rename(picture, name);
  }
  close(): void {
    this.#events.events = {};
  }
}
