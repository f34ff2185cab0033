import type { BrowserDatabase } from '../browser-database.ts';
import type { Step } from './act.ts';
import type { KeptStep, Side } from './kept-step.ts';

/** A window that was closed for so long comes back no more. */
const FORGOTTEN_MS = 7 * 24 * 3_600_000;

const WINDOW = 'miradero-window';
/** So long a page that is being left may hold its name; then something is wrong, and the page goes on as a new window. */
const LEAVING_MS = 10_000;

/** Asks over a channel of this name whether a living page has it. */
const asking = (name: string) => new BroadcastChannel(`${WINDOW}-${name}`);

/**
 * Has the name as long as this page lives, and answers whoever asks for it.
 *
 * @param isWanted - whether the name is still wanted once it can be had. (A request that waits cannot be relied on to end
 *   by a signal: one that is aborted too soon after it was made stays in Chromium, and its promise never settles.)
 * @returns once it is held
 */
function hold(name: string, isWanted: () => boolean): Promise<void> {
  return new Promise((resolve) => {
    void navigator.locks.request(`${WINDOW}-${name}`, () => {
      if (!isWanted()) return undefined;
      resolve();
      const channel = asking(name);
      channel.onmessage = ({ data }) => {
        if (data === 'who') channel.postMessage('mine');
      };
      // A page that is being left answers no more.
      window.addEventListener('pagehide', () => channel.close());
      return new Promise(() => {});
    });
  });
}

/** Resolves when a living page says that the name is its own, or nobody gives it up for long. */
function isTaken(name: string, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const channel = asking(name);
    channel.onmessage = ({ data }) => {
      if (data === 'mine') resolve();
    };
    channel.postMessage('who');
    const timer = setTimeout(resolve, LEAVING_MS);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      channel.close();
    });
  });
}

function ofSession(): string | null {
  try {
    return sessionStorage.getItem(WINDOW);
  } catch {
    return null;
  }
}

/**
 * Names this window as long as it lives, over reloads; a duplicated tab, which has the same store of its session, gets
 * another name. After a reload the page before may not have let go of it yet: it is waited for, unless a living page
 * says that the name is its own.
 */
export async function nameOfWindow(): Promise<string> {
  const known = ofSession();
  if (known) {
    const done = new AbortController();
    const isHeld = await Promise.race([
      hold(known, () => !done.signal.aborted).then(() => true),
      isTaken(known, done.signal).then(() => false),
    ]);
    done.abort();
    if (isHeld) return known;
  }
  const fresh = crypto.randomUUID();
  try {
    sessionStorage.setItem(WINDOW, fresh);
  } catch {
    // Not over a reload, then.
  }
  await hold(fresh, () => true);
  return fresh;
}

/** Steps of one window on this computer's disk. Writes one after the other; what fails costs only the reload. */
export class StepStore {
  readonly #database: BrowserDatabase;
  /** The name of the window, once it is known. */
  readonly #window: Promise<string>;
  #last: Promise<unknown> = Promise.resolve();

  constructor(database: BrowserDatabase, window: Promise<string>) {
    this.#database = database;
    this.#window = window;
  }

  /** Steps of earlier loads of this window, in the order in which they were kept. */
  async read(): Promise<KeptStep[]> {
    try {
      const window = await this.#window;
      const range = IDBKeyRange.bound([window, 0], [window, Number.MAX_SAFE_INTEGER]);
      return await this.#database.getAll('steps', range);
    } catch {
      return [];
    } finally {
      void this.#forgetOld();
    }
  }

  keep(number: number, side: Side, step: Step): void {
    const kept = { number, side, step, keptAt: Date.now() };
    this.#inTurn(async () => this.#database.put('steps', { window: await this.#window, ...kept }));
  }

  drop(number: number): void {
    this.#inTurn(async () => this.#database.delete('steps', [await this.#window, number]));
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
