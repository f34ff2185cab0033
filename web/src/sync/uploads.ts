import { cleanFileName } from '@miradero/core/picture';
import type { IntakeAnswer, Problem } from '@miradero/core/schema';
import { withStorableText } from '@miradero/core/text';
import { type BrowserDatabase, DURABLE, type WaitingFile } from './browser-database.ts';
import type { Channel } from './channel.ts';
import { databaseHeaders, type ReachTrouble, reachTroubleOf } from './http.ts';
import { WaitingFiles } from './waiting-files.ts';

const AT_ONCE = 2;
const RETRY_MS = [500, 1_000, 2_000, 4_000];
const PROGRESS_MS = 100;

type Outcome =
  /** `wasKnown`: the same bytes were at the server before. */
  | { kind: 'taken'; wasKnown: boolean }
  | { kind: 'refused'; title: string }
  /** The server is there, and failed at this very file. */
  | { kind: 'failed'; title: string }
  | { kind: 'unreachable'; trouble: ReachTrouble };

/** A file at which the server failed so often, or with which it went away, is set aside: the others go on. */
const MOST_FAILURES = 3;
const MOST_BREAKS = 6;

/** Sends one file. XMLHttpRequest, because fetch says nothing about the progress of a request's body. */
function sendFile(
  file: WaitingFile,
  signal: AbortSignal,
  onProgress: (bytes: number) => void,
): Promise<Outcome> {
  return new Promise((resolve) => {
    const request = new XMLHttpRequest();
    request.open('POST', '/api/pictures');
    for (const [name, value] of Object.entries(databaseHeaders())) request.setRequestHeader(name, value);
    request.responseType = 'json';
    request.upload.onprogress = (event) => onProgress(Math.min(event.loaded, file.bytes.size));
    request.onerror = () => resolve({ kind: 'unreachable', trouble: 'server-gone' });
    request.onabort = () => resolve({ kind: 'unreachable', trouble: 'server-gone' });
    request.onload = () => {
      const answer = request.response as (IntakeAnswer & Problem) | null;
      if (request.status === 201)
        resolve({ kind: 'taken', wasKnown: answer?.known?.includes(file.id) ?? false });
      else if (answer?.code === 'foreign-database')
        resolve({ kind: 'unreachable', trouble: 'other-database' });
      else if (request.status === 500 && answer !== null) resolve({ kind: 'failed', title: answer.title });
      else if (request.status >= 500 || request.status === 429 || answer === null)
        resolve({ kind: 'unreachable', trouble: reachTroubleOf(answer?.code) });
      else resolve({ kind: 'refused', title: answer.refused?.[0]?.title ?? answer.title });
    };
    signal.addEventListener('abort', () => request.abort(), { once: true });
    const form = new FormData();
    const { name, source, paperMm, taken, drawing } = file;
    form.append('about', JSON.stringify(withStorableText({ name, source, paperMm, taken, drawing })));
    form.append('file', file.bytes, cleanFileName(file.fileName));
    if (file.poster) form.append('poster', file.poster, 'poster.webp');
    request.send(form);
  });
}

/** Sends waiting files beside the changes, two at a time, so that a slow upload never holds up a change. */
export class Uploads {
  readonly #database: BrowserDatabase;
  readonly #channel: Channel;
  readonly #waiting: WaitingFiles;
  readonly #sending = new Map<string, number>();
  readonly #sizes = new Map<string, number>();
  readonly #done = new Set<string>();
  #failures = 0;
  /** How often the server failed at a file. */
  readonly #failuresAt = new Map<string, number>();
  /** How often the connection broke while a file was sent, and whether the server was back since. */
  readonly #breaksAt = new Map<string, { count: number; isBack: boolean }>();
  #lastToldMs = 0;
  #isStirred = false;
  #isStopped = false;
  #ending = new AbortController();
  #wake: (() => void) | undefined;

  constructor(database: BrowserDatabase, channel: Channel) {
    this.#database = database;
    this.#channel = channel;
    this.#waiting = new WaitingFiles(database);
  }

  /** Sends until `signal` ends it. */
  async run(signal: AbortSignal): Promise<void> {
    const unsubscribe = this.#channel.subscribe((message) => {
      const isBack = message.kind === 'event' && message.event.kind === 'hello';
      if (isBack) {
        this.#failures = 0;
        for (const broken of this.#breaksAt.values()) broken.isBack = true;
      }
      if (message.kind === 'sending') {
        this.#isStopped = message.isStopped;
        if (message.isStopped) this.#ending.abort();
        this.#ending = new AbortController();
        this.#failures = 0;
        this.#stir();
      }
      if (message.kind === 'file-kept' && message.picture !== '') this.#waiting.add(message.picture);
      else if (message.kind === 'file-kept' || isBack) this.#waiting.forget();
      if (message.kind === 'file-kept' || isBack) this.#stir();
    });
    signal.addEventListener('abort', () => this.#stir());
    while (!signal.aborted) {
      this.#isStirred = false;
      // A store that was taken over has nothing to send for this window.
      for (const file of await this.#nextFiles().catch(() => [])) void this.#send(file, signal);
      if (!this.#isStirred) await this.#sleep(undefined);
      // After a failure not at once again, whatever stirs; a greeting of the server clears the failures.
      if (this.#failures > 0) await this.#sleep(RETRY_MS[Math.min(this.#failures, RETRY_MS.length) - 1]);
    }
    unsubscribe();
  }

  #stir(): void {
    this.#isStirred = true;
    this.#wake?.();
  }

  #sleep(delayMs: number | undefined): Promise<void> {
    return new Promise((resolve) => {
      const timer = delayMs === undefined ? undefined : setTimeout(resolve, delayMs);
      this.#wake = () => {
        // While waiting after a failure only a cleared failure wakes.
        if (delayMs !== undefined && this.#failures > 0) return;
        clearTimeout(timer);
        resolve();
      };
    });
  }

  async #nextFiles(): Promise<WaitingFile[]> {
    if (this.#isStopped) return [];
    const next = await this.#waiting.next(AT_ONCE - this.#sending.size, (id) => !this.#sending.has(id));
    for (const [id, bytes] of this.#waiting.sizes) this.#sizes.set(id, bytes);
    if (this.#waiting.sizes.size === 0) {
      this.#sizes.clear();
      this.#done.clear();
    }
    this.#tellProgress(true);
    return next;
  }

  async #send(file: WaitingFile, signal: AbortSignal): Promise<void> {
    this.#sending.set(file.id, 0);
    const stopping = this.#ending.signal;
    const outcome = await sendFile(file, AbortSignal.any([signal, stopping]), (bytes) => {
      this.#sending.set(file.id, bytes);
      this.#tellProgress(false);
    });
    this.#sending.delete(file.id);
    const refusal = this.#refusalOf(file.id, outcome, signal.aborted || stopping.aborted);
    if (outcome.kind === 'unreachable' && stopping.aborted) this.#failures = 0;
    else if (outcome.kind !== 'taken' && refusal === undefined) {
      this.#failures += 1;
      if (!signal.aborted && outcome.kind === 'unreachable')
        this.#channel.post({ kind: 'reach', trouble: outcome.trouble });
    } else {
      this.#failures = 0;
      this.#channel.post({ kind: 'reach', trouble: undefined });
      this.#done.add(file.id);
      await this.#settle(file, refusal, outcome.kind === 'taken' && outcome.wasKnown);
    }
    this.#stir();
  }

  /** Why a file is not to be sent again; undefined when it arrived, or is to be tried again. */
  #refusalOf(id: string, outcome: Outcome, isStopped: boolean): string | undefined {
    if (outcome.kind === 'refused') return outcome.title;
    if (outcome.kind === 'failed') {
      const count = (this.#failuresAt.get(id) ?? 0) + 1;
      this.#failuresAt.set(id, count);
      return count < MOST_FAILURES ? undefined : `The server failed at it ${count} times; it is kept here.`;
    }
    if (outcome.kind === 'taken' || isStopped || outcome.trouble !== 'server-gone') return undefined;
    // A server that is away is away for all; one that comes back and goes again with the same file goes because of it.
    const broken = this.#breaksAt.get(id) ?? { count: 0, isBack: true };
    const count = broken.count + (broken.isBack ? 1 : 0);
    this.#breaksAt.set(id, { count, isBack: false });
    return count < MOST_BREAKS
      ? undefined
      : `The connection broke off ${count} times while it was sent; it is kept here.`;
  }

  /** What arrived is forgotten here; what was refused stays, and what was said of it waits with it. */
  async #settle(file: WaitingFile, refusal: string | undefined, wasKnown: boolean): Promise<void> {
    this.#failuresAt.delete(file.id);
    this.#breaksAt.delete(file.id);
    const transaction = this.#database.transaction(['files', 'outbox', 'refused'], 'readwrite', DURABLE);
    const settled: { id: string; path: string }[] = [];
    if (refusal === undefined) {
      void transaction.objectStore('files').delete(file.id);
      for (const entry of wasKnown ? await transaction.objectStore('outbox').getAll() : []) {
        if (entry.kind !== 'patch' || entry.awaits !== file.id || !entry.onlyNew || !entry.id) continue;
        void transaction.objectStore('outbox').delete(entry.seq!);
        settled.push({ id: entry.id, path: entry.path });
      }
    } else {
      void transaction.objectStore('files').put({ ...file, refusal });
      for (const entry of await transaction.objectStore('outbox').getAll()) {
        if (entry.kind !== 'patch' || entry.awaits !== file.id || !entry.id) continue;
        void transaction.objectStore('outbox').delete(entry.seq!);
        const title = `“${file.name}”, which it is about, was not taken.`;
        void transaction
          .objectStore('refused')
          .put({ id: entry.id, board: '', title, at: new Date().toISOString(), entry });
        settled.push({ id: entry.id, path: entry.path });
      }
    }
    await transaction.done;
    this.#waiting.drop(file.id);
    for (const { id, path } of settled)
      this.#channel.post({ kind: 'patch-settled', id, path, isTaken: false });
    this.#channel.post({ kind: 'file-settled', picture: file.id });
  }

  #tellProgress(isCertain: boolean): void {
    const now = performance.now();
    if (!isCertain && now - this.#lastToldMs < PROGRESS_MS) return;
    this.#lastToldMs = now;
    let bytes = 0;
    let bytesDone = 0;
    for (const [id, size] of this.#sizes) {
      bytes += size;
      bytesDone += this.#done.has(id) ? size : (this.#sending.get(id) ?? 0);
    }
    this.#channel.post({
      kind: 'uploads',
      progress: { files: this.#sizes.size, filesDone: this.#done.size, bytes, bytesDone },
    });
  }
}
