import { sameValue } from '@miradero/core/board';
import { stateAt } from '@miradero/core/history';
import { picturesOf } from '@miradero/core/items';
import type { Board, Item, PastChange, PastSegment } from '@miradero/core/schema';
import { ask, HeldBoard, RefusedError, type Sync } from '../sync/index.ts';

/** Pieces of the past that are kept at hand: each is about as large as a board. */
const MOST_SEGMENTS = 8;

/** What differs between two states, as ids. */
function differing(before: ReadonlyMap<string, Item>, next: ReadonlyMap<string, Item>): Set<string> {
  const touched = new Set<string>();
  for (const [id, item] of next) {
    const was = before.get(id);
    // Within one piece of the past what did not alter is the same object.
    if (was !== item && !sameValue(was, item)) touched.add(id);
  }
  for (const id of before.keys()) if (!next.has(id)) touched.add(id);
  return touched;
}

/** A board as it was at a revision. Nothing can be done to it; what it shows is brought back on the board itself. */
export class PastBoard extends HeldBoard {
  override readonly isReadOnly = true;
  readonly #sync: Sync;
  /** Those used last come last. */
  #segments: PastSegment[] = [];
  #wanted: AbortController | undefined;
  #shown = 0;
  /** Its pictures, all in one question. */
  readonly #pictures: Promise<void>;
  /** Called when somebody tries to alter what is past. */
  onRefused: () => void = () => {};

  constructor(sync: Sync, board: Board) {
    super(board, new Map());
    this.#sync = sync;
    // Without them each is asked for as it is shown.
    this.#pictures = sync.shelf.loadBoard(board.id).catch(() => {});
  }

  /** The revision that is shown. */
  override get revision(): number {
    return this.#shown;
  }

  /** The change that led to what is shown, as far as the piece of the past at hand tells it. */
  get lastChange(): PastChange | undefined {
    return this.#segments.at(-1)?.changes.find(({ revision }) => revision === this.#shown);
  }

  /**
   * Shows the board as it was; without a revision, as it is. What was asked for last is shown, in whatever order answers come.
   *
   * @returns whether it is shown: another state may have been asked for meanwhile
   * @throws what asking throws
   */
  async show(revision: number | undefined): Promise<boolean> {
    this.#wanted?.abort();
    const wanted = new AbortController();
    this.#wanted = wanted;
    try {
      const known = revision === undefined ? undefined : this.#known(revision);
      const segment = known ?? (await this.#ask(revision, wanted.signal));
      await this.#pictures;
      if (wanted.signal.aborted) return false;
      this.#segments = [...this.#segments.filter((one) => one !== segment), segment].slice(-MOST_SEGMENTS);
      this.#shown = revision ?? segment.until;
      this.#take(stateAt(segment, this.#shown));
      return true;
    } catch (error) {
      if (wanted.signal.aborted) return false;
      // An address from before the database was put back to an earlier state.
      if (revision !== undefined && error instanceof RefusedError && error.problem.code === 'ahead')
        return this.show(undefined);
      throw error;
    }
  }

  override preview(): void {}
  override commit(): void {
    this.onRefused();
  }
  override correct(): void {}
  override close(): void {
    this.#wanted?.abort();
    super.close();
  }

  #known(revision: number): PastSegment | undefined {
    return this.#segments.find(({ base, until }) => base <= revision && revision <= until);
  }

  #ask(revision: number | undefined, signal: AbortSignal): Promise<PastSegment> {
    return ask(
      'GET /api/boards/:id/history/segment',
      { parameters: { id: this.id }, query: revision === undefined ? {} : { revision } },
      signal,
    );
  }

  #take(items: ReadonlyMap<string, Item>): void {
    const unknown = [...items.values()]
      .filter(({ removed }) => !removed)
      .flatMap(picturesOf)
      .filter((picture) => !this.#sync.shelf.get(picture));
    if (unknown.length > 0) this.#sync.shelf.want(unknown);
    this.put(items, differing(this.items, items));
  }
}
