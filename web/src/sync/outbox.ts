import type { Change } from '@miradero/core/schema';
import { withStorableText } from '@miradero/core/text';
import { createStore, type Readable } from '../state/index.ts';
import { type BrowserDatabase, type ChangeEntry, DURABLE, type OutboxEntry } from './browser-database.ts';
import type { Channel } from './channel.ts';
import { joinEntries } from './join-entries.ts';

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

/** A change that is now a part of another one. */
interface Joined {
  readonly board: string;
  readonly into: Change;
  readonly gone: string;
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
        const joined = await this.#keep(batch.map(({ entry }) => entry));
        this.#waiting = this.#waiting.slice(batch.length);
        for (const { board, into, gone } of joined) this.#channel.post({ kind: 'joined', board, into, gone });
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

  /** Writes entries behind those that are there. @returns which of them were joined into the one before */
  async #keep(entries: readonly OutboxEntry[]): Promise<Joined[]> {
    const { store, done } = this.#database.transaction('outbox', 'readwrite', DURABLE);
    const joined: Joined[] = [];
    // Only the last one can take up what follows it.
    const isBurst = entries[0]?.kind === 'change' && entries[0].burst !== undefined;
    const last = isBurst ? (await store.openCursor(null, 'prev'))?.value : undefined;
    const kept: OutboxEntry[] = last ? [last] : [];
    for (const entry of entries) {
      const both = joinEntries(kept.at(-1), entry);
      if (both) {
        kept[kept.length - 1] = both;
        joined.push({ board: both.board, into: both.change, gone: (entry as ChangeEntry).change.id });
      } else kept.push(entry);
    }
    if (kept[0] === last) kept.shift();
    await Promise.all([...kept.map((entry) => store.put(entry)), done]);
    return joined;
  }

  #tell(trouble: KeepingTrouble | undefined): void {
    this.#store.setState({ unwritten: this.#waiting.length, trouble });
  }
}
