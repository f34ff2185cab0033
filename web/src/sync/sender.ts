import { CHANGE_LIMITS, type Change, type ChangeOutcome } from '@miradero/core/schema';
import { type BrowserDatabase, DURABLE, type OutboxEntry } from './browser-database.ts';
import type { Channel } from './channel.ts';
import { askServer, RefusedError, UnreachableError } from './http.ts';

const RETRY_MS = [250, 500, 1_000, 2_000, 4_000];
/** Changes of one request: few enough to be answered quickly, enough to drain a day of work in seconds. */
const BATCH = 200;
/** Bytes of one request, with room for the envelope. */
const BATCH_BYTES = CHANGE_LIMITS.bytes / 2;

type Kept<K extends OutboxEntry['kind']> = Extract<OutboxEntry, { kind: K }> & { seq: number };

/** The entries that can go together: changes of one board in a row, within the limits of a request. */
export function nextBatch(entries: readonly OutboxEntry[]): Kept<'change'>[] {
  const first = entries[0];
  if (first?.kind !== 'change') return [];
  const batch: Kept<'change'>[] = [];
  let operations = 0;
  let bytes = 0;
  for (const entry of entries) {
    if (entry.kind !== 'change' || entry.board !== first.board || batch.length === BATCH) break;
    operations += entry.change.operations.length;
    bytes += JSON.stringify(entry.change).length;
    if (batch.length > 0 && (operations > CHANGE_LIMITS.operations || bytes > BATCH_BYTES)) break;
    batch.push(entry as Kept<'change'>);
  }
  return batch;
}

/** Sends what the outbox holds, in order. Runs in one window of the browser at a time: the holder of the lock. */
export class Sender {
  readonly #database: BrowserDatabase;
  readonly #channel: Channel;
  #failures = 0;
  #wake: (() => void) | undefined;

  constructor(database: BrowserDatabase, channel: Channel) {
    this.#database = database;
    this.#channel = channel;
  }

  /** Sends until `signal` ends it. */
  async run(signal: AbortSignal): Promise<void> {
    let hasNews = true;
    const unsubscribe = this.#channel.subscribe((message) => {
      const isBack = message.kind === 'event' && message.event.kind === 'hello';
      if (message.kind === 'outbox' || message.kind === 'file-settled' || isBack) {
        hasNews = true;
        if (isBack) this.#failures = 0;
        this.#wake?.();
      }
    });
    signal.addEventListener('abort', () => this.#wake?.());
    while (!signal.aborted) {
      hasNews = false;
      const isMore = await this.#sendNext();
      if (!isMore && !hasNews) await this.#sleep();
    }
    unsubscribe();
  }

  #sleep(): Promise<void> {
    const delayMs =
      this.#failures === 0 ? undefined : RETRY_MS[Math.min(this.#failures, RETRY_MS.length) - 1];
    return new Promise((resolve) => {
      const timer = delayMs === undefined ? undefined : setTimeout(resolve, delayMs);
      this.#wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }

  /** @returns true when there may be more to send at once */
  async #sendNext(): Promise<boolean> {
    try {
      const sendable = await this.#sendable();
      if (sendable.length === 0) return false;
      const batch = nextBatch(sendable);
      if (batch.length > 0) await this.#sendChanges(batch);
      else await this.#sendPatch(sendable[0] as Kept<'patch'>);
      this.#failures = 0;
      this.#channel.post({ kind: 'reach', trouble: undefined });
      return true;
    } catch (error) {
      // Whatever it was (no server, an answer that is none, a store that is just closing): nothing is lost, try later.
      this.#failures += 1;
      if (error instanceof UnreachableError) this.#channel.post({ kind: 'reach', trouble: error.trouble });
      return false;
    }
  }

  /** The oldest entries, without those that wait for a picture to arrive. */
  async #sendable(): Promise<OutboxEntry[]> {
    const entries = await this.#database.getAll('outbox', null, BATCH * 2);
    const waiting = new Set(await this.#database.getAllKeys('files'));
    return entries.filter((entry) => !(entry.kind === 'patch' && entry.awaits && waiting.has(entry.awaits)));
  }

  async #sendChanges(batch: Kept<'change'>[]): Promise<void> {
    const { board } = batch[0]!;
    const changes = batch.map((entry) => entry.change);
    const outcomes = await this.#outcomesOf(board, changes);
    await this.#settle(board, batch, outcomes);
  }

  /** Asks for all at once; when the request as a whole is refused, for each alone, so that one bad one stops no other. */
  async #outcomesOf(board: string, changes: readonly Change[]): Promise<readonly ChangeOutcome[]> {
    try {
      const answer = await askServer<{ outcomes: ChangeOutcome[] }>(`/api/boards/${board}/changes`, 'POST', {
        changes,
      });
      return answer.outcomes;
    } catch (error) {
      if (!(error instanceof RefusedError)) throw error;
      if (changes.length > 1) {
        const outcomes: ChangeOutcome[] = [];
        for (const change of changes) outcomes.push(...(await this.#outcomesOf(board, [change])));
        return outcomes;
      }
      const code = error.problem.code === 'board-missing' ? 'board-missing' : 'malformed';
      return [{ id: changes[0]!.id, refused: { code, title: error.message } }];
    }
  }

  async #settle(board: string, batch: Kept<'change'>[], outcomes: readonly ChangeOutcome[]): Promise<void> {
    const transaction = this.#database.transaction(['outbox', 'refused'], 'readwrite', DURABLE);
    for (const [index, entry] of batch.entries()) {
      const outcome = outcomes[index];
      // Without a word about a change it stays, and is sent again: the server knows it by its id.
      if (outcome === undefined) continue;
      void transaction.objectStore('outbox').delete(entry.seq);
      if ('refused' in outcome) {
        const { title } = outcome.refused;
        void transaction
          .objectStore('refused')
          .put({ id: entry.change.id, board, title, at: new Date().toISOString() });
      }
    }
    await transaction.done;
    this.#channel.post({ kind: 'outcomes', board, outcomes });
  }

  async #sendPatch(entry: Kept<'patch'>): Promise<void> {
    let refusal: string | undefined;
    try {
      await askServer(entry.path, 'PATCH', entry.body);
    } catch (error) {
      if (!(error instanceof RefusedError)) throw error;
      refusal = error.message;
    }
    const transaction = this.#database.transaction(['outbox', 'refused'], 'readwrite', DURABLE);
    void transaction.objectStore('outbox').delete(entry.seq);
    if (refusal !== undefined) {
      const id = crypto.randomUUID();
      void transaction
        .objectStore('refused')
        .put({ id, board: '', title: refusal, at: new Date().toISOString() });
    }
    await transaction.done;
    this.#channel.post({ kind: 'outbox' });
  }
}
