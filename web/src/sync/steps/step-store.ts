import type { BrowserDatabase } from '../browser-database.ts';
import type { Step } from './act.ts';
import type { KeptStep, Side } from './kept-step.ts';

/** A window that was closed for so long comes back no more. */
const FORGOTTEN_MS = 7 * 24 * 3_600_000;

const WINDOW = 'miradero-window';
const TRIES = 4;
const TRY_MS = 60;

/**
 * Names this window as long as it lives, over reloads; a duplicated tab, which has the same store of its session, gets
 * another name: only one holds the lock.
 */
export async function nameOfWindow(): Promise<string> {
  const hold = (name: string) =>
    new Promise<boolean>((resolve) => {
      void navigator.locks.request(`${WINDOW}-${name}`, { ifAvailable: true }, (lock) => {
        resolve(lock !== null);
        return lock ? new Promise(() => {}) : undefined;
      });
    });
  const known = sessionStorage.getItem(WINDOW);
  // After a reload the page before may not have let go of it yet.
  for (let patience = 0; known && patience < TRIES; patience += 1) {
    if (await hold(known)) return known;
    await new Promise((resolve) => setTimeout(resolve, TRY_MS));
  }
  const fresh = crypto.randomUUID();
  sessionStorage.setItem(WINDOW, fresh);
  await hold(fresh);
  return fresh;
}

/** Steps of one window on this computer's disk. Writes one after the other; what fails costs only the reload. */
export class StepStore {
  readonly #database: BrowserDatabase;
  readonly #window: string;
  #last: Promise<unknown> = Promise.resolve();

  constructor(database: BrowserDatabase, window: string) {
    this.#database = database;
    this.#window = window;
  }

  /** Steps of earlier loads of this window, in the order in which they were kept. */
  async read(): Promise<KeptStep[]> {
    const range = IDBKeyRange.bound([this.#window, 0], [this.#window, Number.MAX_SAFE_INTEGER]);
    const kept = await this.#database.getAll('steps', range).catch(() => []);
    void this.#forgetOld();
    return kept;
  }

  keep(number: number, side: Side, step: Step): void {
    const kept = { window: this.#window, number, side, step, keptAt: Date.now() };
    this.#inTurn(() => this.#database.put('steps', kept));
  }

  drop(number: number): void {
    this.#inTurn(() => this.#database.delete('steps', [this.#window, number]));
  }

  #inTurn(write: () => Promise<unknown>): void {
    this.#last = this.#last.then(write).catch(() => {
      // No room, or the store was taken over: undo goes on in memory.
    });
  }

  async #forgetOld(): Promise<void> {
    try {
      const { store, done } = this.#database.transaction('steps', 'readwrite');
      const before = Date.now() - FORGOTTEN_MS;
      for (let cursor = await store.openCursor(); cursor; cursor = await cursor.continue())
        if (cursor.value.keptAt < before) await cursor.delete();
      await done;
    } catch {
      // Tried again by the next window.
    }
  }
}
