import { applyOperation, type Done, isSeen, Replica, recordDone, takeBack } from '@miradero/core/board';
import { picturesOf } from '@miradero/core/items';
import type { Board, BoardSnapshot, Change, Item, Operation, PatchBoard } from '@miradero/core/schema';
import { withStorableText } from '@miradero/core/text';
import { createNanoEvents } from 'nanoevents';
import { createStore, type Readable, type StoreApi } from '../state/index.ts';
import { BoardFacts } from './board-facts.ts';
import type { WindowMessage } from './channel.ts';
import { ask, RefusedError } from './http.ts';
import { patchPicture } from './patch-picture.ts';
import { boardAt, type Gesture, newGesture, withoutChange } from './steps/index.ts';
import type { Sync } from './sync.ts';

/** What stands on a board and what is said of it, for those who render it. */
export interface BoardContent {
  readonly board: Board;
  /** Every item as it is without the preview, removed ones included; the same map, altered. */
  readonly items: ReadonlyMap<string, Item>;
  /** Grows with every alteration of them. */
  readonly version: number;
}

/** A board as those use it who work on it: one of the server's, or a few of its pictures, or a picture alone. */
export type OpenBoard = Pick<BoardSession, keyof BoardSession>;

const AGAIN_MS = 1_000;
/** The answer to a change of one's own comes within so long after the news of it. */
const OWN_MS = 250;
/** Other windows hear of a preview the less often the more is in it: telling costs this one time while a hand moves. */
const PREVIEW_MS_EACH = 0.05;

/**
 * A board as one window has it open: what is shown, what is being previewed, undo and redo. Every alteration goes
 * through `commit`.
 */
export class BoardSession {
  readonly id: string;
  /** Whether nothing can be done to it. */
  readonly isReadOnly: boolean = false;
  readonly #sync: Sync;
  #replica: Replica;
  readonly #facts: BoardFacts;
  readonly #detach: () => void;
  /** What a hand is doing right now, by item. */
  readonly #previewOf = new Map<string, Operation[]>();
  #previewed: readonly string[] = [];
  #previewTimer: ReturnType<typeof setTimeout> | undefined;
  #previewToldAtMs = Number.NEGATIVE_INFINITY;
  readonly #shownOf = new Map<string, Item | undefined>();
  readonly #store: StoreApi<BoardContent>;
  #version = 0;
  readonly #events = createNanoEvents<{
    altered: (touched: ReadonlySet<string>) => void;
    preview: () => void;
  }>();
  #unsubscribe: () => void = () => {};
  #isFetching = false;
  #isNewer = false;
  /** Ids of changes that were joined into another one, by its id: what becomes of it becomes of them. */
  readonly #joined = new Map<string, string[]>();
  /** What is held as confirmed may be wrong. */
  #isAdrift = false;
  #standing: readonly Item[] | undefined;
  #isClosed = false;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #ownTimer: ReturnType<typeof setTimeout> | undefined;
  /** The newest revision that anybody spoke of. */
  #told = 0;

  private constructor(sync: Sync, snapshot: BoardSnapshot, pending: readonly Change[]) {
    this.id = snapshot.board.id;
    this.#sync = sync;
    this.#facts = new BoardFacts(sync, snapshot.board, (board) => this.#store.setState({ board }));
    this.#replica = new Replica(snapshot.revision, snapshot.items, snapshot.lastChange);
    for (const change of pending) this.#replica.add(change);
    this.#store = createStore<BoardContent>(() => ({
      board: this.#facts.shown,
      items: this.#replica.shown,
      version: 0,
    }));
    this.#detach = sync.steps.attach(this.id, this);
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
      await sync.patches.isReady;
      const pending = await sync.outbox.changesOf(id);
      const snapshot = await ask('GET /api/boards/:id', { parameters: { id } });
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
    clearTimeout(this.#ownTimer);
    clearTimeout(this.#previewTimer);
    this.#unsubscribe();
    this.#detach();
    this.#facts.close();
    this.#events.events = {};
  }

  get store(): Readable<BoardContent> {
    return this.#store;
  }

  get board(): Board {
    return this.#facts.shown;
  }

  /** Every item as it is without the preview, removed ones included. */
  get items(): ReadonlyMap<string, Item> {
    return this.#replica.shown;
  }

  /** Of what the server is known to have. */
  get revision(): number {
    return this.#replica.revision;
  }

  /** Grows with every alteration of the items. */
  get version(): number {
    return this.#version;
  }

  /** Everything that stands and is seen, in no order; the same array until something alters. */
  get standing(): readonly Item[] {
    const items = this.#replica.shown;
    this.#standing ??= [...items.values()].filter((item) => isSeen(items, item));
    return this.#standing;
  }

  /** An item as the screen shows it: with what a hand is doing right now. */
  shown(id: string): Item | undefined {
    const item = this.#replica.shown.get(id);
    const operations = this.#previewOf.get(id);
    if (operations === undefined) return item;
    if (!this.#shownOf.has(id)) this.#shownOf.set(id, operations.reduce(applyOperation, item));
    return this.#shownOf.get(id);
  }

  /** Ids of the items under a hand right now. */
  get previewed(): readonly string[] {
    return this.#previewed;
  }

  /** Called with the ids of items that may have altered. @returns a function that ends it */
  onAltered(listener: (touched: ReadonlySet<string>) => void): () => void {
    return this.#events.on('altered', listener);
  }

  /** Called when another preview is shown, or none. @returns a function that ends it */
  onPreview(listener: () => void): () => void {
    return this.#events.on('preview', listener);
  }

  /** Shows operations without making them, here and in the other windows of this browser; none ends the preview. */
  preview(operations: readonly Operation[]): void {
    this.#setPreview(operations);
    clearTimeout(this.#previewTimer);
    this.#previewTimer = undefined;
    const waitMs = this.#previewToldAtMs + PREVIEW_MS_EACH * operations.length - performance.now();
    if (waitMs <= 0 || operations.length === 0) this.#tellPreview(operations);
    else this.#previewTimer = setTimeout(() => this.#tellPreview(operations), waitMs);
  }

  #tellPreview(operations: readonly Operation[]): void {
    this.#previewToldAtMs = performance.now();
    this.#sync.channel.postToOthers({ kind: 'preview', board: this.id, operations });
  }

  /**
   * Makes one change: at once on screen, then on this computer's disk, then at the server.
   *
   * @param gesture - what it belongs to, where that is more than this change: its step may lie below others by now
   * @param isBurst - the gesture goes on: what follows is joined with this, as long as it is not sent
   */
  commit(operations: readonly Operation[], gesture = newGesture(), isBurst = false): void {
    if (this.#previewed.length > 0) this.preview([]);
    if (operations.length === 0) return;
    const done = this.#make(operations, isBurst ? gesture : undefined);
    this.#sync.steps.record({ kind: 'change', board: this.id, done }, { gesture, at: boardAt(this.id) });
  }

  /** Sets something right that is no gesture: kept and sent like one, but no step. */
  correct(operations: readonly Operation[]): void {
    if (operations.length > 0) this.#make(operations);
  }

  /** Takes a change back, but for what others set since. @returns what takes that back in turn */
  takeBack(done: Done): { done?: Done; skipped: number } {
    if (this.#previewed.length > 0) this.preview([]);
    const { operations, skipped } = takeBack(this.#replica.shown, done);
    return operations.length > 0 ? { done: this.#make(operations), skipped } : { skipped };
  }

  /** Alters the board itself (name, surround); kept and sent like everything else. */
  patchBoard(patch: PatchBoard): void {
    this.#facts.patch(patch);
  }

  /** @param more - `onlyNew`: a name for what just came: what was here before keeps its own */
  renamePicture(picture: string, name: string, more: { onlyNew?: boolean; gesture?: Gesture } = {}): void {
    void patchPicture(this.#sync, picture, { name }, { ...more, at: boardAt(this.id) });
  }

  #make(given: readonly Operation[], burst?: string): Done {
    const change: Change = { id: crypto.randomUUID(), operations: withStorableText(given) };
    const done = recordDone(this.#replica.shown, change);
    const touched = this.#replica.add(change);
    this.#tell(touched);
    void this.#sync.outbox.put({ kind: 'change', board: this.id, change, ...(burst && { burst }) });
    this.#sync.channel.post({ kind: 'queued', board: this.id, change });
    return done;
  }

  #hear(message: WindowMessage): void {
    if ('board' in message && message.board !== this.id) return;
    switch (message.kind) {
      case 'queued':
        this.#tell(this.#replica.add(message.change));
        break;
      case 'joined':
        this.#joined.set(message.into.id, [...(this.#joined.get(message.into.id) ?? []), message.gone]);
        // Told too late: it was sent by another window, and counted here as it was before.
        if (!this.#replica.join(message.into, message.gone)) {
          this.#isAdrift = true;
          void this.#fetchLog();
        }
        break;
      case 'preview':
        this.#setPreview(message.operations);
        break;
      case 'outcomes':
        for (const outcome of message.outcomes) {
          if ('refused' in outcome) this.#drop(outcome.id);
          else this.#tell(this.#replica.acknowledge(outcome.id, outcome.revision));
          this.#joined.delete(outcome.id);
        }
        this.#catchUp();
        break;
      case 'event':
        this.#hearServer(message.event);
        break;
    }
  }

  #hearServer(event: Extract<WindowMessage, { kind: 'event' }>['event']): void {
    if (event.kind === 'hello' || event.kind === 'compare') {
      void this.#fetchLog();
      void this.#facts.ask();
    }
    if (event.kind === 'board' && event.board === this.id) this.#hearOf(event.revision);
    if (event.kind === 'board-facts' && event.board === this.id) void this.#facts.ask();
  }

  /** While changes of this browser are on their way, news are most likely of those, and the answer to them tells all. */
  #hearOf(revision: number): void {
    this.#told = Math.max(this.#told, revision);
    if (this.#told <= this.#replica.revision) return;
    if (this.#replica.pending.length === 0) {
      void this.#fetchLog();
      return;
    }
    this.#ownTimer ??= setTimeout(() => {
      this.#ownTimer = undefined;
      if (!this.#isClosed && this.#told > this.#replica.revision) void this.#fetchLog();
    }, OWN_MS);
  }

  /** A refused change goes from the screen and from the steps: there is nothing left of it to take back. */
  #drop(changeId: string): void {
    for (const id of [changeId, ...(this.#joined.get(changeId) ?? [])])
      this.#sync.steps.forget((act) => withoutChange(act, id));
    this.#tell(this.#replica.refuse(changeId));
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
        if (this.#isAdrift) await this.#readAnew();
        if (this.#isClosed) return;
        const since = this.#replica.revision;
        const { lastChange } = this.#replica;
        const answer = await ask('GET /api/boards/:id/changes', {
          parameters: { id: this.id },
          query: { since, ...(lastChange === null ? {} : { last: lastChange }) },
        });
        if (this.#isClosed) return;
        const touched = this.#replica.receive(answer.changes);
        this.#tell(touched);
        this.#sync.shelf.want(this.#unknownPictures(touched));
        if (this.#replica.revision < answer.revision && this.#replica.revision > since) this.#isNewer = true;
      }
    } catch (error) {
      const isParted = error instanceof RefusedError && error.problem.code === 'ahead';
      // Once more in any case: the log may hold what came after the state that was read.
      this.#fetchLater(isParted && (await this.#rebase()) ? 0 : AGAIN_MS);
    } finally {
      this.#isFetching = false;
    }
  }

  #fetchLater(delayMs: number): void {
    if (this.#isClosed) return;
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.#fetchLog(), delayMs);
  }

  /**
   * The server's past is another one than this window's (a restored backup, which may have moved on): take its word, and
   * put what is unsent on top. @returns false when the server could not be asked
   */
  async #rebase(): Promise<boolean> {
    try {
      await this.#readAnew();
      this.#sync.steps.forget((act) => (act.kind === 'change' && act.board === this.id ? undefined : act));
      return true;
    } catch {
      return false;
    }
  }

  /** Takes the server's word for the whole board. @throws what asking throws */
  async #readAnew(): Promise<void> {
    const snapshot = await ask('GET /api/boards/:id', { parameters: { id: this.id } });
    if (this.#isClosed) return;
    this.#isAdrift = false;
    const touched = this.#replica.reset(snapshot.revision, snapshot.items, snapshot.lastChange);
    this.#tell(touched);
    this.#sync.shelf.want(this.#unknownPictures(touched));
    this.#facts.reset(snapshot.board);
  }

  #unknownPictures(touched: ReadonlySet<string>): string[] {
    return [...touched].flatMap((id) => {
      const item = this.#replica.shown.get(id);
      return item ? picturesOf(item).filter((picture) => !this.#sync.shelf.get(picture)) : [];
    });
  }

  #setPreview(operations: readonly Operation[]): void {
    const wasShown = this.#previewed.length > 0;
    this.#previewOf.clear();
    this.#shownOf.clear();
    for (const operation of operations) {
      if (!('item' in operation)) continue;
      const known = this.#previewOf.get(operation.item);
      if (known) known.push(operation);
      else this.#previewOf.set(operation.item, [operation]);
    }
    this.#previewed = [...this.#previewOf.keys()];
    this.#sync.shelf.want(
      operations.flatMap((operation) => {
        const picture = 'set' in operation && 'picture' in operation.set ? operation.set.picture : undefined;
        return typeof picture === 'string' && !this.#sync.shelf.get(picture) ? [picture] : [];
      }),
    );
    if (wasShown || this.#previewed.length > 0) this.#events.emit('preview');
  }

  #tell(touched: ReadonlySet<string>): void {
    if (touched.size === 0) return;
    this.#standing = undefined;
    this.#shownOf.clear();
    // Those who keep something of the items go first: what is rendered asks them.
    this.#version += 1;
    this.#events.emit('altered', touched);
    this.#store.setState({ version: this.#version });
  }
}
