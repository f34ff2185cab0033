import type { Bulk } from '@miradero/core/schema';
import { whyOf } from '@miradero/core/text';
import { createStore, type Readable } from '../../state/index.ts';
import { type Sync, tellMany } from '../../sync/index.ts';

/** Tells many pictures the same, in the order in which it was asked for, and says what came of it. */
export class BulkTeller {
  /** What is said of it. */
  readonly #notice = createStore<string>(() => '');
  #last: Promise<void> = Promise.resolve();

  get notice(): Readable<string> {
    return this.#notice;
  }

  /** @param words - what was done, as it will be said when it is taken back */
  tell(sync: Sync, bulk: Bulk, words: string): Promise<void> {
    this.#last = this.#last.then(async () => {
      try {
        const count = await tellMany(sync, bulk, words);
        this.say(`${words}: ${count === 1 ? 'one picture' : `${count} pictures`}.`);
      } catch (error) {
        this.say(`Nothing was altered: ${whyOf(error)}`);
      }
    });
    return this.#last;
  }

  say(notice: string): void {
    this.#notice.setState(notice, true);
  }
}

/** One for the window: leaving the library and coming back forgets nothing. */
export const bulkTeller = new BulkTeller();
