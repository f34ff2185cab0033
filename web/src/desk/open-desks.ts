import { preparePainter } from '../stage/index.ts';
import { BoardSession, type Sync } from '../sync/index.ts';
import { Desk } from './desk.ts';

/** Decoded pixels that a board keeps while its tab is not in front, and while it is; bytes. */
const RESTING_BUDGET = 24 * 1024 * 1024;
const WORKING_BUDGET = 200 * 1024 * 1024;

/** The boards that this window has open, each with its undo and its pictures; one is in front, maybe with others beside it. */
export class OpenDesks {
  readonly #sync: Sync;
  readonly #desks = new Map<string, Promise<Desk>>();

  constructor(sync: Sync) {
    this.#sync = sync;
  }

  /** Brings a board to the front. @throws RefusedError when there is none, UnreachableError without the server */
  take(id: string): Promise<Desk> {
    const known = this.#desks.get(id);
    const desk = known ?? this.#open(id);
    if (!known) {
      this.#desks.set(id, desk);
      desk.catch(() => this.#desks.delete(id));
    }
    return desk;
  }

  /** Boards that are seen at once share the memory of one. */
  share(ids: readonly string[]): void {
    for (const id of ids) this.#give(id, WORKING_BUDGET / ids.length);
  }

  #give(id: string, bytes: number): void {
    void this.#desks.get(id)?.then(
      (desk) => desk.feed.painter.post({ kind: 'budget', bytes }),
      () => {},
    );
  }

  /** Puts a board to rest: it stays as it is, but gives most of its memory back. */
  rest(id: string): void {
    this.#give(id, RESTING_BUDGET);
  }

  close(id: string): void {
    const desk = this.#desks.get(id);
    this.#desks.delete(id);
    void desk?.then(
      (open) => open.close(),
      () => {},
    );
  }

  async #open(id: string): Promise<Desk> {
    preparePainter();
    const [session] = await Promise.all([BoardSession.open(this.#sync, id), this.#sync.shelf.loadBoard(id)]);
    return new Desk(this.#sync, session);
  }
}
