import { type FileSeen, SaveWatch } from '@miradero/core/easel';
import { createStore, type Readable, type StoreApi } from '../../state/index.ts';

/** What is known of a file that is followed. */
export type FollowState =
  /** Another window follows it. */
  | { readonly kind: 'elsewhere' }
  /** The browser asks for permission again after a restart, at a press. */
  | { readonly kind: 'asking' }
  | { readonly kind: 'watching'; readonly savedAt?: Date }
  /** It changes right now. */
  | { readonly kind: 'saving' }
  | { readonly kind: 'gone' }
  /** It stood still, and could not be taken. */
  | { readonly kind: 'unreadable'; readonly why: string };

/** A file as a browser hands it out. */
export interface FollowedHandle {
  getFile(): Promise<File>;
  queryPermission?(wish: { mode: 'read' }): Promise<PermissionState>;
  requestPermission?(wish: { mode: 'read' }): Promise<PermissionState>;
}

const NOT_WHOLE = 'It holds no whole picture. It is read again once it is saved anew.';

/** Asked for so often while nothing is news, ms. */
const REST_MS = 2_000;
/** And so often while it changes, or sooner, where it will have stood still by then. */
const WAIT_MS = 100;
const LEAST_MS = 4;

/** Tells at once when a file may have altered; browsers without it are asked now and then. */
interface FileObserver {
  observe(handle: FollowedHandle): Promise<void>;
  disconnect(): void;
}
declare global {
  var FileSystemObserver: (new (onChange: () => void) => FileObserver) | undefined;
}

const notAllowed = (error: unknown): boolean =>
  error instanceof DOMException && (error.name === 'NotAllowedError' || error.name === 'SecurityError');

/** Follows one file: reads it anew each time another program has saved it. */
export class Follower {
  readonly #handle: FollowedHandle;
  readonly #take: (file: File, seen: FileSeen) => Promise<boolean>;
  readonly #watch: SaveWatch;
  readonly #store: StoreApi<{ readonly state: FollowState }>;
  #timer: ReturnType<typeof setTimeout> | undefined;
  /** When the newest version was saved. */
  #savedAt: Date | undefined;
  #observer: FileObserver | undefined;
  #isLooking = false;
  #isStopped = false;

  /**
   * @param take - makes a version of a file; false where it is no whole picture yet. @throws with words for why it cannot be one
   * @param read - as it was when its newest version was read
   */
  constructor(
    handle: FollowedHandle,
    take: (file: File, seen: FileSeen) => Promise<boolean>,
    read?: FileSeen,
  ) {
    this.#handle = handle;
    this.#take = take;
    this.#watch = new SaveWatch(read);
    this.#savedAt = read && new Date(read.modifiedMs);
    this.#store = createStore<{ readonly state: FollowState }>(() => ({
      state: { kind: 'watching', ...(this.#savedAt ? { savedAt: this.#savedAt } : {}) },
    }));
  }

  get store(): Readable<{ readonly state: FollowState }> {
    return this.#store;
  }

  /** Another window may follow it right now: its turn has not come. */
  wait(): void {
    this.#tell({ kind: 'elsewhere' });
  }

  /** Begins where the browser lets it; otherwise it has to be asked for by a press. */
  async start(): Promise<void> {
    const permission = await this.#handle.queryPermission?.({ mode: 'read' }).catch(() => 'prompt' as const);
    if (this.#isStopped) return;
    if (permission !== undefined && permission !== 'granted') this.#tell({ kind: 'asking' });
    else await this.#begin();
  }

  /** Asks for permission; called in a press. */
  async ask(): Promise<void> {
    const permission = await this.#handle
      .requestPermission?.({ mode: 'read' })
      .catch(() => 'denied' as const);
    if (permission === undefined || permission === 'granted') await this.#begin();
  }

  stop(): void {
    this.#isStopped = true;
    clearTimeout(this.#timer);
    this.#observer?.disconnect();
  }

  async #begin(): Promise<void> {
    if (this.#isStopped) return;
    this.#tell({ kind: 'watching' });
    if (globalThis.FileSystemObserver && !this.#observer) {
      this.#observer = new globalThis.FileSystemObserver(() => void this.#look());
      // Some browsers settle this with the first alteration only.
      this.#observer.observe(this.#handle).catch(() => {});
    }
    await this.#look();
  }

  #tell(state: FollowState): void {
    const was = this.#store.getState().state;
    if (state.kind === 'watching') {
      this.#savedAt = state.savedAt ?? this.#savedAt;
      this.#store.setState({ state: { ...state, ...(this.#savedAt ? { savedAt: this.#savedAt } : {}) } });
    } else if (was.kind !== state.kind || state.kind === 'unreadable') this.#store.setState({ state });
  }

  /** What it was refused for stays to be read, unless it is written anew. */
  #tellSaving(): void {
    const { state } = this.#store.getState();
    const isRefused = state.kind === 'unreadable' && (state.why !== NOT_WHOLE || this.#watch.isHopeless);
    if (!isRefused) this.#tell({ kind: 'saving' });
  }

  async #look(): Promise<void> {
    if (this.#isLooking || this.#isStopped) return;
    this.#isLooking = true;
    clearTimeout(this.#timer);
    const waitMs = await this.#see();
    this.#isLooking = false;
    if (!this.#isStopped && waitMs !== undefined) this.#timer = setTimeout(() => void this.#look(), waitMs);
  }

  /** @returns after how long to look again, ms; undefined: not before it was asked for */
  async #see(): Promise<number | undefined> {
    let file: File | undefined;
    try {
      file = await this.#handle.getFile();
    } catch (error) {
      if (notAllowed(error)) {
        this.#tell({ kind: 'asking' });
        return undefined;
      }
    }
    const seen = file && { bytes: file.size, modifiedMs: file.lastModified };
    const step = this.#watch.see(seen, performance.now());
    if (step === 'gone') this.#tell({ kind: 'gone' });
    if (step === 'nothing' && this.#store.getState().state.kind !== 'watching')
      this.#tell({ kind: 'watching' });
    if (step === 'wait') {
      this.#tellSaving();
      const restMs = this.#watch.restMs(performance.now());
      return restMs === 0 ? WAIT_MS : Math.min(WAIT_MS, Math.max(LEAST_MS, restMs));
    }
    if (step !== 'read' || !file || !seen) return REST_MS;
    try {
      if (await this.#take(file, seen)) {
        this.#watch.done();
        this.#tell({ kind: 'watching', savedAt: new Date(seen.modifiedMs) });
        return REST_MS;
      }
      if (this.#watch.isHopeless) this.#tell({ kind: 'unreadable', why: NOT_WHOLE });
      else this.#tellSaving();
    } catch (error) {
      // It was written anew while it was read: the next look tells.
      const isAltered = error instanceof DOMException && error.name === 'NotReadableError';
      if (!isAltered) this.#tell({ kind: 'unreadable', why: (error as Error).message });
    }
    this.#watch.failed(performance.now());
    return WAIT_MS;
  }
}
