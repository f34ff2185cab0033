import { applyOperation, type Done, Replica, recordDone, takeBack } from '@miradero/core/board';
import type { Board, BoardSnapshot, Change, Item, LoggedChange, Operation } from '@miradero/core/schema';
import { withStorableText } from '@miradero/core/text';
import type { WindowMessage } from './channel.ts';
import { askServer, RefusedError } from './http.ts';
import type { Sync } from './sync.ts';

/** One gesture on the undo stack: its changes, oldest first. */
type Step = Done[];
type Listener = (touched: ReadonlySet<string>) => void;

const AGAIN_MS = 1_000;

/**
 * A board as one window has it open: what is shown, what is being previewed, undo and redo. Every alteration goes
 * through `commit`.
 */
export class BoardSession {
  readonly id: string;
  readonly #sync: Sync;
  #replica: Replica;
  #board: Board;
  readonly #undo: Step[] = [];
  readonly #redo: Step[] = [];
  /** What a hand is doing right now, by item. */
  readonly #previewOf = new Map<string, Operation[]>();
  #previewed: readonly string[] = [];
  readonly #listeners = new Set<Listener>();
  readonly #boardListeners = new Set<() => void>();
  #unsubscribe: () => void = () => {};
  #isFetching = false;
  #isNewer = false;
  #standing: readonly Item[] | undefined;
  #isClosed = false;
  #timer: ReturnType<typeof setTimeout> | undefined;

  private constructor(sync: Sync, snapshot: BoardSnapshot, pending: readonly Change[]) {
    this.id = snapshot.board.id;
    this.#sync = sync;
    this.#board = snapshot.board;
    this.#replica = new Replica(snapshot.revision, snapshot.items);
    for (const change of pending) this.#replica.add(change);
  }

  /** Listens before it reads, so that nothing told meanwhile is missed. @throws RefusedError when there is no such board */
  static async open(sync: Sync, id: string): Promise<BoardSession> {
    const early: WindowMessage[] = [];
    let session: BoardSession | undefined;
    const unsubscribe = sync.channel.subscribe((message) => {
      if (session) session.#hear(message);
      else early.push(message);
    });
    try {
      const pending = await sync.outbox.changesOf(id);
      const snapshot = await askServer<BoardSnapshot>(`/api/boards/${id}`);
      session = new BoardSession(sync, snapshot, pending);
    } catch (error) {
      unsubscribe();
      throw error;
    }
    session.#unsubscribe = unsubscribe;
    for (const message of early) session.#hear(message);
    // The page's own preload may have been answered before this window listened.
    void session.#fetchLog();
    return session;
  }

  close(): void {
    this.#isClosed = true;
    clearTimeout(this.#timer);
    this.#unsubscribe();
    this.#listeners.clear();
    this.#boardListeners.clear();
  }

  get board(): Board {
    return this.#board;
  }

  /** Every item as it is without the preview, removed ones included. */
  get items(): ReadonlyMap<string, Item> {
    return this.#replica.shown;
  }

  /** Everything that stands, in no order; the same array until something alters. */
  get standing(): readonly Item[] {
    this.#standing ??= [...this.#replica.shown.values()].filter((item) => !item.removed);
    return this.#standing;
  }

  /** An item as the screen shows it: with what a hand is doing right now. */
  shown(id: string): Item | undefined {
    const item = this.#replica.shown.get(id);
    const operations = this.#previewOf.get(id);
    if (operations === undefined) return item;
    return operations.reduce(applyOperation, item);
  }

  /** Ids of the items under a hand right now. */
  get previewed(): readonly string[] {
    return this.#previewed;
  }

  get canUndo(): boolean {
    return this.#undo.length > 0;
  }
  get canRedo(): boolean {
    return this.#redo.length > 0;
  }

  /** Called with the ids of items whose shown state may have altered. @returns a function that ends it */
  subscribe(listener: Listener): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /** Called when name, surround or the undo stacks alter. */
  subscribeBoard = (listener: () => void): (() => void) => {
    this.#boardListeners.add(listener);
    return () => this.#boardListeners.delete(listener);
  };

  /** Shows operations without making them, here and in the other windows of this browser; none ends the preview. */
  preview(operations: readonly Operation[]): void {
    this.#setPreview(operations);
    this.#sync.channel.post({ kind: 'preview', board: this.id, operations });
  }

  /**
   * Makes one change: at once on screen, then on this computer's disk, then at the server.
   *
   * @param isContinuation - it belongs to the gesture before it: one undo takes both back
   */
  commit(operations: readonly Operation[], isContinuation = false): void {
    if (this.#previewed.length > 0) this.preview([]);
    if (operations.length === 0) return;
    const done = this.#make(operations);
    const last = this.#undo[this.#undo.length - 1];
    if (isContinuation && last) last.push(done);
    else this.#undo.push([done]);
    this.#redo.length = 0;
    this.#tellBoard();
  }

  /** Sets something right that is no gesture: kept and sent like one, but not on the undo stack. */
  correct(operations: readonly Operation[]): void {
    if (operations.length > 0) this.#make(operations);
  }

  /** Takes the last gesture back. @returns how many properties were left as another window set them; undefined: nothing to undo */
  undo(): number | undefined {
    return this.#turnBack(this.#undo, this.#redo);
  }

  redo(): number | undefined {
    return this.#turnBack(this.#redo, this.#undo);
  }

  /** Alters the board itself (name, surround); kept and sent like everything else. */
  patchBoard(patch: Partial<Pick<Board, 'name' | 'surround' | 'putAway'>>): void {
    this.#board = { ...this.#board, ...patch };
    this.#tellBoard();
    void this.#sync.outbox.put({ kind: 'patch', path: `/api/boards/${this.id}`, body: patch });
  }

  renamePicture(picture: string, name: string): void {
    this.#sync.shelf.showName(picture, name);
    void this.#sync.outbox.put({
      kind: 'patch',
      path: `/api/pictures/${picture}`,
      body: { name },
      awaits: picture,
    });
  }

  #turnBack(from: Step[], to: Step[]): number | undefined {
    const step = from.pop();
    if (step === undefined) return undefined;
    let skipped = 0;
    const reverse: Step = [];
    for (const done of [...step].reverse()) {
      const back = takeBack(this.#replica.shown, done);
      skipped += back.skipped;
      if (back.operations.length > 0) reverse.push(this.#make(back.operations));
    }
    if (reverse.length > 0) to.push(reverse);
    this.#tellBoard();
    return skipped;
  }

  #make(given: readonly Operation[]): Done {
    const change: Change = { id: crypto.randomUUID(), operations: withStorableText(given) };
    const done = recordDone(this.#replica.shown, change);
    const touched = this.#replica.add(change);
    this.#tell(touched);
    void this.#sync.outbox.put({ kind: 'change', board: this.id, change });
    this.#sync.channel.post({ kind: 'queued', board: this.id, change });
    return done;
  }

  #hear(message: WindowMessage): void {
    if ('board' in message && message.board !== this.id) return;
    switch (message.kind) {
      case 'queued':
        this.#tell(this.#replica.add(message.change));
        break;
      case 'preview':
        this.#setPreview(message.operations);
        break;
      case 'outcomes':
        for (const outcome of message.outcomes) {
          if ('refused' in outcome) this.#drop(outcome.id);
          else this.#tell(this.#replica.acknowledge(outcome.id, outcome.revision));
        }
        this.#catchUp();
        break;
      case 'event':
        this.#hearServer(message.event);
        break;
    }
  }

  #hearServer(event: Extract<WindowMessage, { kind: 'event' }>['event']): void {
    if (event.kind === 'hello' || event.kind === 'compare') void this.#fetchLog();
    if (event.kind === 'board' && event.board === this.id && event.revision > this.#replica.revision) {
      void this.#fetchLog();
    }
    if (event.kind === 'board-facts' && event.board === this.id) void this.#fetchFacts();
  }

  /** A refused change goes from the screen and from the undo stacks: there is nothing left of it to take back. */
  #drop(changeId: string): void {
    for (const stack of [this.#undo, this.#redo]) {
      for (const [index, step] of stack.entries()) {
        stack[index] = step.filter((done) => done.change.id !== changeId);
      }
      stack.splice(0, stack.length, ...stack.filter((step) => step.length > 0));
    }
    this.#tell(this.#replica.refuse(changeId));
    this.#tellBoard();
  }

  #catchUp(): void {
    if (this.#replica.isBehind) void this.#fetchLog();
  }

  async #fetchLog(): Promise<void> {
    // What is told while the log is on its way may be newer than the answer: ask once more.
    this.#isNewer = true;
    if (this.#isFetching) return;
    this.#isFetching = true;
    try {
      while (this.#isNewer) {
        this.#isNewer = false;
        const since = this.#replica.revision;
        const answer = await askServer<{ changes: LoggedChange[]; revision: number }>(
          `/api/boards/${this.id}/changes?since=${since}`,
        );
        const touched = this.#replica.receive(answer.changes);
        this.#tell(touched);
        this.#sync.shelf.want(this.#unknownPictures(touched));
        if (this.#replica.revision < answer.revision && this.#replica.revision > since) this.#isNewer = true;
      }
    } catch (error) {
      if (error instanceof RefusedError && error.problem.code === 'ahead') await this.#reload();
      else if (!this.#isClosed) this.#timer = setTimeout(() => void this.#fetchLog(), AGAIN_MS);
    } finally {
      this.#isFetching = false;
    }
  }

  /** The server knows less than this window (a restored backup): take its word, and put what is unsent on top. */
  async #reload(): Promise<void> {
    const snapshot = await askServer<BoardSnapshot>(`/api/boards/${this.id}`);
    this.#board = snapshot.board;
    this.#undo.length = 0;
    this.#redo.length = 0;
    this.#tell(this.#replica.reset(snapshot.revision, snapshot.items));
    this.#tellBoard();
  }

  async #fetchFacts(): Promise<void> {
    const snapshot = await askServer<{ boards: Board[] }>('/api/boards').catch(() => undefined);
    const board = snapshot?.boards.find(({ id }) => id === this.id);
    if (!board) return;
    this.#board = board;
    this.#tellBoard();
  }

  #unknownPictures(touched: ReadonlySet<string>): string[] {
    return [...touched].flatMap((id) => {
      const item = this.#replica.shown.get(id);
      return item?.kind === 'placement' && !this.#sync.shelf.get(item.picture) ? [item.picture] : [];
    });
  }

  #setPreview(operations: readonly Operation[]): void {
    const before = this.#previewed;
    this.#previewOf.clear();
    for (const operation of operations) {
      if (!('item' in operation)) continue;
      const known = this.#previewOf.get(operation.item);
      if (known) known.push(operation);
      else this.#previewOf.set(operation.item, [operation]);
    }
    this.#previewed = [...this.#previewOf.keys()];
    this.#tell(new Set([...before, ...this.#previewed]));
  }

  #tell(touched: ReadonlySet<string>): void {
    if (touched.size === 0) return;
    this.#standing = undefined;
    for (const listener of this.#listeners) listener(touched);
  }

  #tellBoard(): void {
    for (const listener of this.#boardListeners) listener();
  }
}
