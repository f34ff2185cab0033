import { factsBefore } from '@miradero/core/board';
import type { Board, PatchBoard } from '@miradero/core/schema';
import { ask } from './http.ts';
import type { SettledPatch } from './own-patches.ts';
import { boardAt } from './steps/index.ts';
import type { Sync } from './sync.ts';

export const pathOfBoard = (id: string): string => `/api/boards/${id}`;

/**
 * What a window shows of a board itself (name, surround, put away): what the server told, with own patches on top that it
 * does not know yet.
 */
export class BoardFacts {
  readonly #sync: Sync;
  readonly #onAltered: (shown: Board) => void;
  readonly #forget: () => void;
  #confirmed: Board;
  #shown: Board;
  #isAsking = false;
  #isNewer = false;
  #isClosed = false;

  constructor(sync: Sync, confirmed: Board, onAltered: (shown: Board) => void) {
    this.#sync = sync;
    this.#onAltered = onAltered;
    this.#confirmed = confirmed;
    this.#shown = this.#withOwn();
    this.#forget = sync.patches.subscribe((path, settled) => {
      if (path === this.#path) this.#hear(settled);
    });
  }

  get shown(): Board {
    return this.#shown;
  }

  patch(patch: PatchBoard): void {
    const before = factsBefore({ ...this.#shown }, patch);
    const at = boardAt(this.#confirmed.id);
    this.#sync.steps.record({ kind: 'facts', path: this.#path, before, after: patch }, { at });
    void this.#sync.outbox.put({ kind: 'patch', path: this.#path, body: patch });
  }

  /** Takes the server's word, whatever was known before. */
  reset(confirmed: Board): void {
    this.#confirmed = confirmed;
    this.#show();
  }

  /** Asks for them, one question at a time, so that no answer overtakes a later one. */
  async ask(): Promise<void> {
    this.#isNewer = true;
    if (this.#isAsking) return;
    this.#isAsking = true;
    try {
      while (this.#isNewer && !this.#isClosed) {
        this.#isNewer = false;
        const { boards } = await ask('GET /api/boards');
        const board = boards.find(({ id }) => id === this.#confirmed.id);
        if (board && !this.#isNewer) this.reset(board);
      }
    } catch {
      // The server is away; its next hello asks again.
    } finally {
      this.#isAsking = false;
    }
  }

  close(): void {
    this.#isClosed = true;
    this.#forget();
  }

  get #path(): string {
    return pathOfBoard(this.#confirmed.id);
  }

  /** A patch of this browser was made, or is on its way no more. */
  #hear(settled: SettledPatch | undefined): void {
    if (settled?.isTaken) {
      this.#confirmed = { ...this.#confirmed, ...settled.body };
      // An answer that is on its way may not know it yet.
      if (this.#isAsking) this.#isNewer = true;
    }
    this.#show();
  }

  #withOwn(): Board {
    return Object.assign({}, this.#confirmed, ...this.#sync.patches.bodiesOf(this.#path)) as Board;
  }

  #show(): void {
    this.#shown = this.#withOwn();
    this.#onAltered(this.#shown);
  }
}
