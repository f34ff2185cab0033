import type { Change } from '@miradero/core/schema';
import { withStorableText } from '@miradero/core/text';
import { createStore, type Readable } from '../state/index.ts';
import { type BrowserDatabase, DURABLE, type OutboxEntry } from './browser-database.ts';
import type { Channel } from './channel.ts';

/** Why entries stay in memory alone: no room on the disk, or a newer window that took the store over. */
export type KeepingTrouble = 'no-room' | 'taken-over';

/** How far keeping is. */
export interface Keeping {
  /** Entries handed over here that are not on the disk yet. */
  readonly unwritten: number;
  /** Why they are not, when it takes longer than a moment. */
  readonly trouble: KeepingTrouble | undefined;
}

const AGAIN_MS = 2_000;

interface Waiting {
  readonly entry: OutboxEntry;
  readonly onKept: () => void;
}

const troubleOf = (error: unknown): KeepingTrouble =>
  error instanceof DOMException && error.name === 'InvalidStateError' ? 'taken-over' : 'no-room';

/** What this browser has to send, kept on its disk before anything leaves. */
export class Outbox {
  readonly #database: BrowserDatabase;
  readonly #channel: Channel;
  #waiting: Waiting[] = [];
  #isWriting = false;
  readonly #store = createStore<Keeping>(() => ({ unwritten: 0, trouble: undefined }));

  constructor(database: BrowserDatabase, channel: Channel) {
    this.#database = database;
    this.#channel = channel;
  }

  get store(): Readable<Keeping> {
    return this.#store;
  }

  /**
   * Keeps an entry. Where the disk takes nothing it stays in memory, in its order, and is tried again.
   * @returns settles when the entry is on the disk
   */
  put(given: OutboxEntry): Promise<void> {
    const plain = withStorableText(given);
    const entry = plain.kind === 'patch' ? { ...plain, id: plain.id ?? crypto.randomUUID() } : plain;
    if (entry.kind === 'patch')
      this.#channel.post({ kind: 'patch-queued', id: entry.id!, path: entry.path, body: entry.body });
    return new Promise((resolve) => {
      this.#waiting.push({ entry, onKept: resolve });
      this.#tell(this.#store.getState().trouble);
      void this.#write();
    });
  }

  /** Changes of a board that were not acknowledged yet, in their order. */
  async changesOf(board: string): Promise<Change[]> {
    const entries = await this.#database.getAll('outbox');
    return entries.flatMap((entry) =>
      entry.kind === 'change' && entry.board === board ? [entry.change] : [],
    );
  }

  /** Writes everything that waits, one transaction after the other. */
  async #write(): Promise<void> {
    if (this.#isWriting) return;
    this.#isWriting = true;
    try {
      while (this.#waiting.length > 0) {
        const batch = [...this.#waiting];
        const transaction = this.#database.transaction('outbox', 'readwrite', DURABLE);
        await Promise.all([...batch.map(({ entry }) => transaction.store.add(entry)), transaction.done]);
        this.#waiting = this.#waiting.slice(batch.length);
        this.#tell(undefined);
        for (const { onKept } of batch) onKept();
        this.#channel.post({ kind: 'outbox' });
      }
    } catch (error) {
      this.#tell(troubleOf(error));
      setTimeout(() => void this.#write(), AGAIN_MS);
    }
    this.#isWriting = false;
  }

  #tell(trouble: KeepingTrouble | undefined): void {
    this.#store.setState({ unwritten: this.#waiting.length, trouble });
  }
}
