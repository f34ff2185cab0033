import type { Change, ChangeOutcome, Operation, ServerEvent } from '@miradero/core/schema';
import { createNanoEvents } from 'nanoevents';
import type { ReachTrouble } from './http.ts';
import type { UploadProgress } from './upload-progress.ts';

/** What the windows of one browser tell each other. */
export type WindowMessage =
  | { kind: 'queued'; board: string; change: Change }
  /** A change that is on its way was joined into the one before, before any of it was sent: it is there no more. */
  | { kind: 'joined'; board: string; into: Change; gone: string }
  | { kind: 'patch-queued'; id: string; path: string; body: object }
  /** A patch is on its way no more. */
  | { kind: 'patch-settled'; id: string; path: string; isTaken: boolean }
  | { kind: 'outcomes'; board: string; outcomes: readonly ChangeOutcome[] }
  | { kind: 'event'; event: ServerEvent }
  /** A file waits to be sent; an empty id: some do that were refused before. */
  | { kind: 'file-kept'; picture: string }
  | { kind: 'file-settled'; picture: string }
  | { kind: 'uploads'; progress: UploadProgress }
  /** Sending of pictures is stopped, or goes on; changes go on in any case. */
  | { kind: 'sending'; isStopped: boolean }
  | { kind: 'reach'; trouble: ReachTrouble | undefined }
  | { kind: 'outbox' }
  /** What a hand is doing right now on a board; an empty list ends it. */
  | { kind: 'preview'; board: string; operations: readonly Operation[] };

/** Tells every window of this browser, this one included. */
export class Channel {
  readonly #broadcast: BroadcastChannel;
  readonly #events = createNanoEvents<{ message: (message: WindowMessage) => void }>();

  constructor(databaseId: string) {
    this.#broadcast = new BroadcastChannel(`miradero-${databaseId}`);
    this.#broadcast.onmessage = ({ data }: MessageEvent<WindowMessage>) => this.#events.emit('message', data);
  }

  post(message: WindowMessage): void {
    this.postToOthers(message);
    this.#events.emit('message', message);
  }

  /** For what this window knows already. */
  postToOthers(message: WindowMessage): void {
    this.#broadcast.postMessage(message);
  }

  /** @returns a function that ends it */
  subscribe(listener: (message: WindowMessage) => void): () => void {
    return this.#events.on('message', listener);
  }
}
