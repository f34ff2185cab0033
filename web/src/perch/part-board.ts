import { applyOperation, isSeen, sameValue } from '@miradero/core/board';
import type { Viewport } from '@miradero/core/geometry';
import { isOutOfHand, kindOf } from '@miradero/core/items';
import { arrangeAlone, createdOnBoard, keptPlace, toBoard } from '@miradero/core/perch';
import type { Item, Operation } from '@miradero/core/schema';
import { createNanoEvents } from 'nanoevents';
import { createStore, type StoreApi } from '../state/index.ts';
import type { BoardContent, OpenBoard } from '../sync/index.ts';

/** Space between pictures that are shown alone, CSS pixels of the window they fill. */
const GAP_PX = 6;
/** Space around what comes to the board from here, board units. */
const BOARD_GAP = 12;

interface Events {
  altered: (touched: ReadonlySet<string>) => void;
  preview: () => void;
}

/**
 * A few items of an open board, shown alone: they stand side by side as large as the window lets them. What is done to them
 * here is done to them on their board, but for where they stand; what is made here comes to stand there, too.
 */
export class PartBoard implements OpenBoard {
  readonly #base: OpenBoard;
  readonly #choose: () => readonly string[];
  readonly #events = createNanoEvents<Events>();
  readonly #ends: readonly (() => void)[];
  readonly #store: StoreApi<BoardContent>;
  #window: Viewport = { width: 400, height: 300 };
  #items: ReadonlyMap<string, Item> = new Map();
  #order: readonly string[] = [];
  #standing: readonly Item[] | undefined;
  #version = 0;
  #own: readonly Operation[] = [];
  /** Called with what is made here; what it returns is part of the same change. */
  onCreated: ((ids: readonly string[]) => readonly Operation[]) | undefined;

  /** @param choose - ids of what is shown, in their order; asked again whenever the board alters */
  constructor(base: OpenBoard, choose: () => readonly string[]) {
    this.#base = base;
    this.#choose = choose;
    this.#store = createStore<BoardContent>(() => ({ board: base.board, items: this.#items, version: 0 }));
    this.#ends = [
      base.onAltered(() => this.#arrange()),
      base.onPreview(() => this.#events.emit('preview')),
      base.store.subscribe(({ board }) => this.#store.setState({ board })),
    ];
    this.#arrange();
  }

  get id(): string {
    return this.#base.id;
  }
  get isReadOnly(): boolean {
    return this.#base.isReadOnly;
  }
  get revision(): number {
    return this.#base.revision;
  }
  get board() {
    return this.#base.board;
  }
  get store() {
    return this.#store;
  }
  get items(): ReadonlyMap<string, Item> {
    return this.#items;
  }
  get version(): number {
    return this.#version;
  }
  get standing(): readonly Item[] {
    this.#standing ??= this.#order.map((id) => this.#items.get(id)!);
    return this.#standing;
  }
  /** What is shown, in its order. */
  get order(): readonly string[] {
    return this.#order;
  }

  /** The shape of the window that it fills, CSS pixels. */
  fill(window: Viewport): void {
    if (sameValue(window, this.#window)) return;
    this.#window = window;
    this.#arrange();
  }

  /** What is shown may be others now. */
  chooseAgain(): void {
    this.#arrange();
  }

  shown(id: string): Item | undefined {
    const here = this.#items.get(id);
    if (!here) return undefined;
    const own = this.#own.filter((operation) => 'item' in operation && operation.item === id);
    if (own.length > 0) return own.reduce<Item | undefined>(applyOperation, here);
    // What a hand does to it on the board is seen here, but for where it goes.
    if (!this.#base.previewed.includes(id)) return here;
    const there = this.#base.shown(id);
    return there ? keptPlace(there, here) : here;
  }

  get previewed(): readonly string[] {
    const own = this.#own.flatMap((operation) => ('item' in operation ? [operation.item] : []));
    return own.length > 0 ? [...new Set(own)] : this.#base.previewed.filter((id) => this.#items.has(id));
  }

  onAltered(listener: Events['altered']): () => void {
    return this.#events.on('altered', listener);
  }
  onPreview(listener: Events['preview']): () => void {
    return this.#events.on('preview', listener);
  }

  preview(operations: readonly Operation[]): void {
    this.#own = operations;
    this.#base.preview(this.#toBoard(operations));
    this.#events.emit('preview');
  }

  commit(operations: readonly Operation[], gesture?: string, isBurst?: boolean): void {
    const isAny = this.#own.length > 0;
    this.#own = [];
    const there = this.#toBoard(operations);
    const created = there.flatMap((operation) => ('create' in operation ? [operation.create.id] : []));
    const also = created.length > 0 ? (this.onCreated?.(created) ?? []) : [];
    this.#base.commit([...there, ...also], gesture, isBurst);
    if (isAny || there.length < operations.length) this.#events.emit('preview');
  }

  /** The desk that has the whole board sees to it. */
  correct(): void {}

  takeBack: OpenBoard['takeBack'] = (done) => this.#base.takeBack(done);
  patchBoard: OpenBoard['patchBoard'] = (patch) => this.#base.patchBoard(patch);
  renamePicture: OpenBoard['renamePicture'] = (...given) => this.#base.renamePicture(...given);

  close(): void {
    for (const end of this.#ends) end();
    this.#events.events = {};
  }

  #toBoard(operations: readonly Operation[]): Operation[] {
    const created = operations.flatMap((operation) => ('create' in operation ? [operation.create] : []));
    const shown = this.#order.flatMap((id) => {
      const onBoard = this.#base.items.get(id);
      const here = this.#items.get(id);
      return onBoard && here ? [{ onBoard, here }] : [];
    });
    const unseen = created.filter(isOutOfHand);
    const seen = created.filter((item) => !isOutOfHand(item));
    const made = createdOnBoard(seen, shown, this.#base.standing, BOARD_GAP);
    const altered = operations.flatMap((operation): Operation[] => {
      if ('create' in operation) return [];
      const onBoard = this.#base.items.get(operation.item);
      const here = this.#items.get(operation.item);
      if (!onBoard || !here || isOutOfHand(onBoard)) return [operation];
      const there = toBoard(operation, onBoard, here);
      return there ? [there] : [];
    });
    return [...[...unseen, ...made].map((create): Operation => ({ create })), ...altered];
  }

  #arrange(): void {
    const { items } = this.#base;
    const chosen = this.#choose().flatMap((id) => {
      const item = items.get(id);
      // What is folded away on the board is not here.
      return item && !item.removed && !isOutOfHand(item) ? [item] : [];
    });
    const unseen = [...items.values()].filter((item) => kindOf(item).isUnseen && !item.removed);
    const arranged = arrangeAlone(chosen, this.#window, GAP_PX);
    const next = new Map([...unseen, ...arranged].map((item) => [item.id, item]));
    const before = this.#items;
    const touched = new Set<string>();
    for (const [id, item] of next) if (!sameValue(before.get(id), item)) touched.add(id);
    for (const id of before.keys()) if (!next.has(id)) touched.add(id);
    this.#items = next;
    this.#order = arranged.filter((item) => isSeen(next, item)).map(({ id }) => id);
    if (touched.size === 0) return;
    this.#standing = undefined;
    this.#version += 1;
    this.#events.emit('altered', touched);
    this.#store.setState({ items: next, version: this.#version });
  }
}
