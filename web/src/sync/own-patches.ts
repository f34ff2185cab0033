import { createNanoEvents } from 'nanoevents';
import type { BrowserDatabase } from './browser-database.ts';
import type { Channel } from './channel.ts';

interface OwnPatch {
  readonly id: string;
  readonly body: object;
}

/** A patch that is on its way no more: taken by the server, or refused. */
export interface SettledPatch {
  readonly body: object;
  readonly isTaken: boolean;
}

/** An answer, and what was on its way at any moment while it was waited for, by path, oldest first. */
interface Meanwhile<T> {
  readonly answer: T;
  readonly bodies: ReadonlyMap<string, readonly object[]>;
}

type Listener = (path: string, settled: SettledPatch | undefined) => void;

/**
 * What this browser said of boards, pictures and settings that the server did not acknowledge yet, by path. What is shown
 * of anything is always `confirmed, with these on top, in their order`, as it is with the items of a board.
 */
export class OwnPatches {
  readonly #byPath = new Map<string, OwnPatch[]>();
  /** Settled before the store was read: what is read of them is out of date. */
  readonly #settledEarly = new Set<string>();
  readonly #events = createNanoEvents<{ altered: Listener }>();
  #isRead = false;
  /** Settles when what an earlier visit left is known. */
  readonly isReady: Promise<void>;

  constructor(database: BrowserDatabase, channel: Channel) {
    channel.subscribe((message) => {
      if (message.kind === 'patch-queued') this.#add(message.path, message);
      if (message.kind === 'patch-settled') this.#settle(message.path, message.id, message.isTaken);
    });
    this.isReady = this.#read(database);
  }

  /** Bodies that are on their way to `path`, oldest first. */
  bodiesOf(path: string): readonly object[] {
    return this.#byPath.get(path)?.map(({ body }) => body) ?? [];
  }

  /** What is on its way to anything below a path, oldest first. */
  under(prefix: string): ReadonlyMap<string, readonly object[]> {
    return new Map(
      [...this.#byPath]
        .filter(([path]) => path.startsWith(prefix))
        .map(([path, patches]) => [path, patches.map(({ body }) => body)]),
    );
  }

  /**
   * Asks for something, and tells what was on its way to `path` at any moment meanwhile, also what came and went: whether
   * the answer holds it already, nobody knows; putting it on top once more alters nothing.
   */
  async during<T>(path: string, ask: () => Promise<T>): Promise<{ answer: T; bodies: readonly object[] }> {
    const { answer, bodies } = await this.#meanwhile((one) => one === path, ask);
    return { answer, bodies: bodies.get(path) ?? [] };
  }

  /** The same for everything below a path. */
  duringUnder<T>(prefix: string, ask: () => Promise<T>): Promise<Meanwhile<T>> {
    return this.#meanwhile((path) => path.startsWith(prefix), ask);
  }

  /** Called with a path whose patches altered. @returns a function that ends it */
  subscribe(listener: Listener): () => void {
    return this.#events.on('altered', listener);
  }

  async #meanwhile<T>(isMeant: (path: string) => boolean, ask: () => Promise<T>): Promise<Meanwhile<T>> {
    await this.isReady;
    const bodies = new Map<string, Set<object>>();
    const meet = (path: string) => {
      if (!isMeant(path)) return;
      const met = bodies.get(path) ?? new Set();
      for (const { body } of this.#byPath.get(path) ?? []) met.add(body);
      if (met.size > 0) bodies.set(path, met);
    };
    for (const path of this.#byPath.keys()) meet(path);
    const end = this.subscribe((path, settled) => {
      meet(path);
      if (settled && !settled.isTaken) bodies.get(path)?.delete(settled.body);
    });
    try {
      const answer = await ask();
      return { answer, bodies: new Map([...bodies].map(([path, met]) => [path, [...met]])) };
    } finally {
      end();
    }
  }

  async #read(database: BrowserDatabase): Promise<void> {
    // A store that was taken over has nothing to tell.
    const entries = await database.getAll('outbox').catch(() => []);
    const queued = new Map(this.#byPath);
    this.#byPath.clear();
    for (const entry of entries) {
      if (entry.kind !== 'patch' || !entry.id || this.#settledEarly.has(entry.id)) continue;
      this.#put(entry.path, { id: entry.id, body: entry.body });
    }
    for (const [path, patches] of queued) for (const patch of patches) this.#put(path, patch);
    this.#isRead = true;
    this.#settledEarly.clear();
    for (const path of this.#byPath.keys()) this.#tell(path, undefined);
  }

  #put(path: string, patch: OwnPatch): void {
    const known = this.#byPath.get(path) ?? [];
    if (!known.some(({ id }) => id === patch.id)) this.#byPath.set(path, [...known, patch]);
  }

  #add(path: string, { id, body }: OwnPatch): void {
    this.#put(path, { id, body });
    this.#tell(path, undefined);
  }

  #settle(path: string, id: string, isTaken: boolean): void {
    if (!this.#isRead) this.#settledEarly.add(id);
    const known = this.#byPath.get(path) ?? [];
    const settled = known.find((patch) => patch.id === id);
    if (!settled) return;
    const left = known.filter((patch) => patch !== settled);
    if (left.length > 0) this.#byPath.set(path, left);
    else this.#byPath.delete(path);
    this.#tell(path, { body: settled.body, isTaken });
  }

  #tell(path: string, settled: SettledPatch | undefined): void {
    this.#events.emit('altered', path, settled);
  }
}
