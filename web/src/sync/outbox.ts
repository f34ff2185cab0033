import type { Change } from '@miradero/core/schema';
import { type BrowserDatabase, DURABLE, type OutboxEntry } from './browser-database.ts';
import type { Channel } from './channel.ts';

/** What this browser has to send, kept on its disk before anything leaves. */
export class Outbox {
  readonly #database: BrowserDatabase;
  readonly #channel: Channel;
  #unwritten = 0;
  readonly #listeners = new Set<() => void>();

  constructor(database: BrowserDatabase, channel: Channel) {
    this.#database = database;
    this.#channel = channel;
  }

  /** Entries handed over here that are not on the disk yet. */
  get unwritten(): number {
    return this.#unwritten;
  }

  /** Called when `unwritten` alters. @returns a function that ends it */
  subscribe(listener: () => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /** @throws what IndexedDB throws when it cannot keep the entry (no room left) */
  async put(entry: OutboxEntry): Promise<void> {
    this.#count(1);
    try {
      const transaction = this.#database.transaction('outbox', 'readwrite', DURABLE);
      await Promise.all([transaction.store.add(entry), transaction.done]);
    } finally {
      this.#count(-1);
    }
    this.#channel.post({ kind: 'outbox' });
  }

  /** Changes of a board that were not acknowledged yet, in their order. */
  async changesOf(board: string): Promise<Change[]> {
    const entries = await this.#database.getAll('outbox');
    return entries.flatMap((entry) =>
      entry.kind === 'change' && entry.board === board ? [entry.change] : [],
    );
  }

  /** Bodies of patches to `path` that were not acknowledged yet, in their order. */
  async patchesOf(path: string): Promise<object[]> {
    const entries = await this.#database.getAll('outbox');
    return entries.flatMap((entry) => (entry.kind === 'patch' && entry.path === path ? [entry.body] : []));
  }

  #count(by: number): void {
    this.#unwritten += by;
    for (const listener of this.#listeners) listener();
  }
}
