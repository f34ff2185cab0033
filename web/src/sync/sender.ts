import { CHANGE_LIMITS, type Change, type ChangeOutcome } from '@miradero/core/schema';
import { type BrowserDatabase, DURABLE, type OutboxEntry } from './browser-database.ts';
import { browserId } from './browser-id.ts';
import type { Channel } from './channel.ts';
import { ask, askServer, FailedError, RefusedError, UnreachableError } from './http.ts';

const RETRY_MS = [250, 500, 1_000, 2_000, 4_000];
/** Changes of one request: few enough to be answered quickly, enough to drain a day of work in seconds. */
const BATCH = 200;
/** Bytes of one request, with room for the envelope. */
const BATCH_BYTES = CHANGE_LIMITS.bytes / 2;
/** Entries that are read at once while looking for some that can go. */
const PAGE = 400;
/** Something at which the server failed so often is set aside, so that what was made after it goes on. */
const MOST_FAILURES = 3;

type Kept<K extends OutboxEntry['kind']> = Extract<OutboxEntry, { kind: K }> & { seq: number };

/** What became of something that was sent. */
interface Refusal {
  readonly title: string;
  readonly isSetAside: boolean;
}

/**
 * The entries that can go together: changes of one board in a row, within the limits of a request.
 *
 * @param isSuspect - one at which the server failed goes alone
 */
export function nextBatch(
  entries: readonly OutboxEntry[],
  isSuspect: (change: Change) => boolean = () => false,
): Kept<'change'>[] {
  const first = entries[0];
  if (first?.kind !== 'change') return [];
  const batch: Kept<'change'>[] = [];
  let operations = 0;
  let bytes = 0;
  for (const entry of entries) {
    if (entry.kind !== 'change' || entry.board !== first.board || batch.length === BATCH) break;
    if (batch.length > 0 && (isSuspect(entry.change) || isSuspect(first.change))) break;
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
  /** Names of files that were refused, null for others; asked once for each look into the outbox. */
  readonly #refusalOf = new Map<string, Promise<string | null>>();
  /** How often the server failed at an entry, by its id. */
  readonly #failuresAt = new Map<string, number>();

  constructor(database: BrowserDatabase, channel: Channel) {
    this.#database = database;
    this.#channel = channel;
  }

  /** Sends until `signal` ends it. */
  async run(signal: AbortSignal): Promise<void> {
    let hasNews = true;
    const unsubscribe = this.#channel.subscribe((message) => {
      const isBack = message.kind === 'event' && message.event.kind === 'hello';
      if (isBack) this.#failures = 0;
      if (message.kind === 'outbox' || message.kind === 'file-settled' || isBack) {
        hasNews = true;
        // Without the server more to send is no reason to ask it sooner.
        if (this.#failures === 0) this.#wake?.();
      }
    });
    signal.addEventListener('abort', () => this.#wake?.());
    while (!signal.aborted) {
      hasNews = false;
      const isMore = await this.#sendNext();
      if (!isMore && (!hasNews || this.#failures > 0)) await this.#sleep();
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
      const batch = nextBatch(sendable, ({ id }) => this.#failuresAt.has(id));
      if (batch.length > 0) await this.#sendChanges(await this.#taken(batch));
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

  /** Takes the changes of a batch to be sent: the last of them takes up no others from now on. */
  async #taken(batch: Kept<'change'>[]): Promise<Kept<'change'>[]> {
    const last = batch.at(-1)!;
    if (last.burst === undefined || last.isTaken) return batch;
    const { store, done } = this.#database.transaction('outbox', 'readwrite');
    // It may have taken up others since it was read.
    const entry = { ...((await store.get(last.seq)) as Kept<'change'>), isTaken: true as const };
    await Promise.all([store.put(entry), done]);
    return [...batch.slice(0, -1), entry];
  }

  /** The oldest entries, without those that wait for a picture to arrive, nor later ones to the same path. */
  async #sendable(): Promise<OutboxEntry[]> {
    const waiting = new Set(await this.#database.getAllKeys('files'));
    this.#refusalOf.clear();
    const held = new Set<string>();
    const found: OutboxEntry[] = [];
    let last = 0;
    while (found.length < BATCH) {
      const range = IDBKeyRange.lowerBound(last, true);
      const entries = await this.#database.getAll('outbox', range, PAGE);
      for (const entry of entries) {
        const isWaiting = entry.kind === 'patch' && entry.awaits !== undefined && waiting.has(entry.awaits);
        if (isWaiting && (await this.#setAsideWithFile(entry as Kept<'patch'>))) continue;
        if (entry.kind === 'patch' && (held.has(entry.path) || isWaiting)) held.add(entry.path);
        else found.push(entry);
      }
      if (entries.length < PAGE) break;
      last = entries[entries.length - 1]!.seq!;
    }
    return found;
  }

  /** What is said of a file that was refused waits with it, out of the way. @returns whether that was so */
  async #setAsideWithFile(entry: Kept<'patch'>): Promise<boolean> {
    let refusal = this.#refusalOf.get(entry.awaits!);
    if (refusal === undefined) {
      refusal = this.#database.get('files', entry.awaits!).then((file) => (file?.refusal ? file.name : null));
      this.#refusalOf.set(entry.awaits!, refusal);
    }
    const name = await refusal;
    if (name === null) return false;
    const id = entry.id ?? `seq ${entry.seq}`;
    await this.#settlePatch(entry, id, {
      title: `“${name}”, which it is about, was not taken.`,
      isSetAside: true,
    });
    return true;
  }

  /** Asks for all at once; when the request as a whole is answered with no, for each alone, so that one stops no other. */
  async #sendChanges(batch: Kept<'change'>[]): Promise<void> {
    const { board } = batch[0]!;
    const changes = batch.map((entry) => ({ ...entry.change, browser: browserId() }));
    try {
      const answer = await ask('POST /api/boards/:id/changes', {
        parameters: { id: board },
        body: { changes },
      });
      await this.#settle(board, batch, answer.outcomes);
    } catch (error) {
      if (!(error instanceof RefusedError || error instanceof FailedError)) throw error;
      if (batch.length > 1) {
        for (const entry of batch) await this.#sendChanges([entry]);
        return;
      }
      const { id } = changes[0]!;
      const { title, isSetAside } = await this.#refusalFor(id, error);
      const isGone = error instanceof RefusedError && error.problem.code === 'board-missing';
      const code = isSetAside ? 'set-aside' : isGone ? 'board-missing' : 'malformed';
      await this.#settle(board, batch, [{ id, refused: { code, title } }]);
    }
  }

  /**
   * Words for why something does not go; where the server failed at it, after it did so several times and does well
   * otherwise. @throws FailedError, or what the probe throws, to be tried again
   */
  async #refusalFor(id: string, error: RefusedError | FailedError): Promise<Refusal> {
    if (error instanceof RefusedError) return { title: error.message, isSetAside: false };
    const failures = (this.#failuresAt.get(id) ?? 0) + 1;
    this.#failuresAt.set(id, failures);
    if (failures < MOST_FAILURES) throw error;
    await ask('GET /api/settings');
    this.#failuresAt.delete(id);
    return {
      title: `The server failed at this ${failures} times; it is set aside, so that the rest goes on.`,
      isSetAside: true,
    };
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
          .put({ id: entry.change.id, board, title, at: new Date().toISOString(), entry });
      }
    }
    await transaction.done;
    for (const { id } of outcomes) this.#failuresAt.delete(id);
    this.#channel.post({ kind: 'outcomes', board, outcomes });
  }

  async #sendPatch(entry: Kept<'patch'>): Promise<void> {
    // Entries of an earlier version have no id of their own.
    const id = entry.id ?? `seq ${entry.seq}`;
    let refusal: Refusal | undefined;
    try {
      await askServer(entry.path, 'PATCH', entry.body);
    } catch (error) {
      if (!(error instanceof RefusedError || error instanceof FailedError)) throw error;
      refusal = await this.#refusalFor(id, error);
    }
    await this.#settlePatch(entry, id, refusal);
  }

  async #settlePatch(entry: Kept<'patch'>, id: string, refusal: Refusal | undefined): Promise<void> {
    const transaction = this.#database.transaction(['outbox', 'refused'], 'readwrite', DURABLE);
    void transaction.objectStore('outbox').delete(entry.seq);
    if (refusal)
      void transaction
        .objectStore('refused')
        .put({ id, board: '', title: refusal.title, at: new Date().toISOString(), entry });
    await transaction.done;
    this.#failuresAt.delete(id);
    this.#channel.post({ kind: 'patch-settled', id, path: entry.path, isTaken: refusal === undefined });
    this.#channel.post({ kind: 'outbox' });
  }
}
