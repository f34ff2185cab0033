import { applyOperation, isSeen, itemIdOf } from '@miradero/core/board';
import type { Board, Item, Operation } from '@miradero/core/schema';
import { createNanoEvents } from 'nanoevents';
import { createStore, type Readable, type StoreApi } from '../state/index.ts';
import type { BoardContent, OpenBoard } from './board-session.ts';

/** A board that this window alone holds: what is done to it is for looking, and is kept nowhere. */
export class HeldBoard implements OpenBoard {
  readonly id: string;
  readonly isReadOnly: boolean = false;
  readonly #store: StoreApi<BoardContent>;
  readonly #events = createNanoEvents<{
    altered: (touched: ReadonlySet<string>) => void;
    preview: () => void;
  }>();
  #items: ReadonlyMap<string, Item>;
  #version = 0;
  #standing: readonly Item[] | undefined;
  #preview: readonly Operation[] = [];

  constructor(board: Board, items: ReadonlyMap<string, Item>) {
    this.id = board.id;
    this.#items = items;
    this.#store = createStore<BoardContent>(() => ({ board, items, version: 0 }));
  }

  get store(): Readable<BoardContent> {
    return this.#store;
  }
  get board(): Board {
    return this.#store.getState().board;
  }
  get revision(): number {
    return this.board.revision;
  }
  get items(): ReadonlyMap<string, Item> {
    return this.#items;
  }
  get version(): number {
    return this.#version;
  }
  get standing(): readonly Item[] {
    const { items } = this;
    this.#standing ??= [...items.values()].filter((item) => isSeen(items, item));
    return this.#standing;
  }
  shown(id: string): Item | undefined {
    return this.#preview
      .filter((operation) => itemIdOf(operation) === id)
      .reduce<Item | undefined>(applyOperation, this.items.get(id));
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
    this.#preview = operations.filter((operation) => this.items.has(itemIdOf(operation)));
    this.#events.emit('preview');
  }
  commit(operations: readonly Operation[]): void {
    if (this.#preview.length > 0) this.preview([]);
    const items = new Map(this.items);
    const touched = new Set<string>();
    for (const operation of operations) {
      // It is taken away by closing what shows it.
      const isRemoval = 'set' in operation && operation.set.removed === true;
      const next = isRemoval ? undefined : applyOperation(items.get(itemIdOf(operation)), operation);
      if (!next || !items.has(next.id)) continue;
      items.set(next.id, next);
      touched.add(next.id);
    }
    this.put(items, touched);
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
  renamePicture(_picture: string, _name: string): void {}
  close(): void {
    this.#events.events = {};
  }

  /** Shows other items from now on. @param touched - ids of those that differ */
  protected put(items: ReadonlyMap<string, Item>, touched: ReadonlySet<string>): void {
    if (touched.size === 0) return;
    this.#standing = undefined;
    this.#items = items;
    this.#version += 1;
    // Those who keep something of the items go first: what is rendered asks them.
    this.#events.emit('altered', touched);
    this.#store.setState({ items, version: this.#version });
  }
}
