import type { Before, Bulk, BulkAnswer } from '@miradero/core/schema';
import { askServer } from '../sync/index.ts';

interface Step {
  readonly words: string;
  readonly before: readonly Before[];
}

/** What was told to many at once in this window, so that each can be taken back. */
export class BulkHistory {
  #steps: Step[] = [];
  #notice = '';
  readonly #listeners = new Set<() => void>();

  get notice(): string {
    return this.#notice;
  }

  /** Words for what can be taken back next. */
  get last(): string | undefined {
    return this.#steps.at(-1)?.words;
  }

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** For `useSyncExternalStore`: one text that differs whenever something does. */
  snapshot = (): string => `${this.#steps.length} ${this.#notice}`;

  /** @param words - what was done, as it will be offered to be taken back */
  async tell(bulk: Bulk, words: string): Promise<void> {
    try {
      const { before } = await askServer<BulkAnswer>('/api/library/bulk', 'POST', bulk);
      this.#steps.push({ words, before });
      this.say(`${words}: ${before.length === 1 ? 'one picture' : `${before.length} pictures`}.`);
    } catch (error) {
      this.say(`Nothing was altered: ${error instanceof Error ? error.message : String(error)}`);
    }
  }

  async undo(): Promise<void> {
    const step = this.#steps.at(-1);
    if (!step) {
      this.say('There is nothing to take back.');
      return;
    }
    try {
      await askServer('/api/library/restore', 'POST', { before: step.before });
      this.#steps = this.#steps.filter((one) => one !== step);
      this.say(`Taken back: ${step.words}.`);
    } catch (error) {
      this.say(`It could not be taken back: ${error instanceof Error ? error.message : String(error)}`);
    }
  }

  say(notice: string): void {
    this.#notice = notice;
    for (const listener of this.#listeners) listener();
  }
}

/** One for the window: leaving the library and coming back forgets nothing. */
export const bulkHistory = new BulkHistory();
