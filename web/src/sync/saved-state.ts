import { createStore, type Readable } from '../state/index.ts';
import { type BrowserDatabase, DURABLE, type OutboxEntry } from './browser-database.ts';
import type { Channel } from './channel.ts';
import type { ReachTrouble } from './http.ts';
import type { KeepingTrouble, Outbox } from './outbox.ts';
import type { UploadProgress } from './upload-progress.ts';
import { wordsOfEntry } from './words-of-entry.ts';

/**
 * Where the work is: `saved` when the server acknowledged all of it; `kept` when the rest is on this computer's disk;
 * `keeping` for the moment in which something is in memory alone; `unkept` when the disk does not take it.
 */
export interface SavedReport {
  readonly state: 'saved' | 'kept' | 'keeping' | 'unkept';
  readonly changes: number;
  readonly files: number;
  readonly refused: number;
  /** Why nothing reaches the server; undefined while it does. */
  readonly reach: ReachTrouble | undefined;
  /** Why nothing is kept on this computer; undefined while it is. */
  readonly keeping: KeepingTrouble | undefined;
  /** The server serves another version of the interface than this page is. */
  readonly isOutdated: boolean;
  readonly uploads: UploadProgress | undefined;
  /** Changes and pictures that are kept here for another database than the one that is served. */
  readonly elsewhere: number;
}

/** Watches the outbox and says, truly and at any moment, whether the work is saved. */
export class SavedState {
  readonly #database: BrowserDatabase;
  readonly #outbox: Outbox;
  readonly #channel: Channel;
  readonly #store = createStore<SavedReport>(() => ({
    state: 'keeping',
    changes: 0,
    files: 0,
    refused: 0,
    reach: undefined,
    keeping: undefined,
    isOutdated: false,
    uploads: undefined,
    elsewhere: 0,
  }));
  #counting: Promise<void> | undefined;
  #isStale = false;
  #isTurning = false;

  /** @param build - names the interface of this page */
  constructor(database: BrowserDatabase, outbox: Outbox, channel: Channel, build?: string) {
    this.#database = database;
    this.#outbox = outbox;
    this.#channel = channel;
    outbox.store.subscribe(() => this.#recount());
    channel.subscribe((message) => {
      if (message.kind === 'reach') this.#store.setState({ reach: message.trouble });
      else if (message.kind === 'uploads') {
        const { files, filesDone } = message.progress;
        this.#store.setState({ uploads: files > filesDone ? message.progress : undefined });
      }
      if (message.kind === 'event' && message.event.kind === 'hello') {
        this.#store.setState({ isOutdated: build !== undefined && message.event.build !== build });
      }
      if (['outbox', 'outcomes', 'file-kept', 'file-settled', 'patch-settled'].includes(message.kind))
        this.#recount();
    });
    this.#recount();
  }

  get report(): SavedReport {
    return this.#store.getState();
  }

  get store(): Readable<SavedReport> {
    return this.#store;
  }

  /** Says how much is kept here for other databases. */
  setElsewhere(elsewhere: number): void {
    this.#store.setState({ elsewhere });
  }

  /** An undo or a redo was asked for and is not done: what it will change is not saved yet. */
  setTurning(isTurning: boolean): void {
    if (isTurning === this.#isTurning) return;
    this.#isTurning = isTurning;
    if (isTurning && this.report.state === 'saved') this.#store.setState({ state: 'keeping' });
    this.#recount();
  }

  /** The person has read the list of refusals, and throws away what it holds. */
  async forgetRefusals(): Promise<void> {
    const transaction = this.#database.transaction(['refused', 'files'], 'readwrite');
    await transaction.objectStore('refused').clear();
    for (const file of await transaction.objectStore('files').getAll()) {
      if (file.refusal !== undefined) await transaction.objectStore('files').delete(file.id);
    }
    await transaction.done;
    this.#recount();
  }

  /** Sends everything that was refused once more, in its order; changes as new ones, since the old are settled. */
  async tryAgain(): Promise<void> {
    const transaction = this.#database.transaction(['files', 'refused', 'outbox'], 'readwrite', DURABLE);
    const files = transaction.objectStore('files');
    for (const { refusal, ...file } of await files.getAll()) if (refusal !== undefined) await files.put(file);
    const refused = (await transaction.objectStore('refused').getAll()).filter(({ entry }) => entry);
    const again = refused
      .map(({ id, entry }) => ({ id, entry: entry! }))
      .sort((one, other) => (one.entry.seq ?? 0) - (other.entry.seq ?? 0))
      .map(({ id, entry: { seq, ...entry } }) => {
        void transaction.objectStore('refused').delete(id);
        const fresh: OutboxEntry =
          entry.kind === 'change'
            ? { ...entry, change: { ...entry.change, id: crypto.randomUUID() } }
            : { ...entry, id: crypto.randomUUID() };
        void transaction.objectStore('outbox').add(fresh);
        return fresh;
      });
    await transaction.done;
    for (const entry of again) {
      if (entry.kind === 'change')
        this.#channel.post({ kind: 'queued', board: entry.board, change: entry.change });
      else this.#channel.post({ kind: 'patch-queued', id: entry.id!, path: entry.path, body: entry.body });
    }
    this.#channel.post({ kind: 'outbox' });
    this.#channel.post({ kind: 'file-kept', picture: '' });
    this.#recount();
  }

  /** Everything that was refused, in words. */
  async refusals(): Promise<{ id: string; title: string; about: string }[]> {
    const changes = await this.#database.getAll('refused');
    const files = (await this.#database.getAll('files')).filter((file) => file.refusal !== undefined);
    return [
      ...changes.map(({ id, title, at, entry }) => ({
        id,
        title,
        about: entry ? wordsOfEntry(entry) : `A change at ${new Date(at).toLocaleTimeString()}`,
      })),
      ...files.map((file) => ({ id: file.id, title: file.refusal!, about: file.fileName })),
    ];
  }

  #recount(): void {
    const { unwritten, trouble } = this.#outbox.store.getState();
    if (unwritten > 0) this.#store.setState({ state: trouble ? 'unkept' : 'keeping' });
    this.#store.setState({ keeping: trouble });
    this.#isStale = true;
    this.#counting ??= this.#count()
      // A store that was taken over counts nothing; the outbox says so.
      .catch(() => {})
      .finally(() => {
        this.#counting = undefined;
      });
  }

  async #count(): Promise<void> {
    while (this.#isStale) {
      this.#isStale = false;
      const transaction = this.#database.transaction(['outbox', 'files', 'refused']);
      const [changes, refusedChanges, kept, refusedFiles] = await Promise.all([
        transaction.objectStore('outbox').count(),
        transaction.objectStore('refused').count(),
        transaction.objectStore('files').count(),
        transaction.objectStore('files').index('refusal').count(),
      ]);
      const files = kept - refusedFiles;
      const { unwritten, trouble } = this.#outbox.store.getState();
      const settled = changes + files > 0 ? 'kept' : this.#isTurning ? 'keeping' : 'saved';
      const state = unwritten === 0 ? settled : trouble ? 'unkept' : 'keeping';
      this.#store.setState({ state, changes, files, refused: refusedChanges + refusedFiles });
    }
  }
}
