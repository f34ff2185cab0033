import type { StrokeStart } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';
import { markFrom } from './mark-from.ts';

/** A stroke is written down so often while it is drawn. */
const EVERY_MS = 150;

const lockOf = (id: string): string => `miradero-stroke-${id}`;

/** Keeps what is drawn of a stroke as long as it is not done: a browser that ends in the middle loses only its last moment. */
export class Unfinished {
  readonly #desk: Desk;
  readonly #id: string;
  readonly #timer: ReturnType<typeof setInterval>;
  #letGo = () => {};
  #isOver = false;
  #writing: Promise<unknown> = Promise.resolve();

  /** @param drawn - what there is of it now */
  constructor(desk: Desk, id: string, isOnPictures: boolean, drawn: () => StrokeStart) {
    this.#desk = desk;
    this.#id = id;
    // Whoever finds the stroke and can have its lock knows that nobody draws it any more.
    void navigator.locks.request(
      lockOf(id),
      () =>
        new Promise<void>((letGo) => {
          this.#letGo = letGo;
          if (this.#isOver) letGo();
        }),
    );
    const { session, sync } = desk;
    this.#timer = setInterval(() => {
      const kept = { id, board: session.id, drawn: drawn(), isOnPictures };
      this.#writing = sync.database.put('strokes', kept).catch(() => {});
    }, EVERY_MS);
  }

  /** It is done, or given up. */
  end(): void {
    this.#isOver = true;
    clearInterval(this.#timer);
    const { database } = this.#desk.sync;
    void this.#writing
      .then(() => database.delete('strokes', this.#id))
      .catch(() => {})
      .then(() => this.#letGo());
  }
}

/** Strokes of this board that were cut off: they come onto it as far as they were kept. */
export async function takeUpUnfinished(desk: Desk): Promise<void> {
  const { database } = desk.sync;
  const known = await database.getAll('strokes');
  let count = 0;
  for (const { id, board, drawn, isOnPictures } of known.filter((one) => one.board === desk.session.id)) {
    await navigator.locks.request(lockOf(id), { ifAvailable: true }, async (lock) => {
      // It may be done by now, or another window took it up.
      if (!lock || !(await database.get('strokes', id))) return;
      if (board === desk.session.id && !desk.session.items.has(id)) {
        desk.session.commit([{ create: markFrom(desk, id, drawn, isOnPictures) }]);
        count += 1;
      }
      await database.delete('strokes', id);
    });
  }
  if (count > 0)
    desk.say(
      count === 1
        ? 'A stroke was cut off: it is here as far as it came.'
        : `${count} strokes were cut off: they are here as far as they came.`,
      ['Undo takes it away.'],
    );
}
