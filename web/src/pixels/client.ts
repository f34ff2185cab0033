import {
  type AnswerOf,
  type FromPixels,
  PixelError,
  type PixelProgress,
  type PixelRequestKind,
  type RequestOf,
  type ToPixels,
} from './requests.ts';

export interface AskOptions {
  /** Aborted: the answer is wanted no more; what is under way for it is left. */
  readonly signal?: AbortSignal;
  readonly onProgress?: (progress: PixelProgress) => void;
}

/** What gives pixels: the pool of a window, or one end of a channel to it. */
export interface Pixels {
  /** @throws PixelError when there are none; the signal's reason when it was aborted */
  ask<K extends PixelRequestKind>(what: K, request: RequestOf<K>, options?: AskOptions): Promise<AnswerOf<K>>;
}

interface Waiting {
  readonly resolve: (answer: never) => void;
  readonly reject: (error: unknown) => void;
  readonly onProgress: AskOptions['onProgress'];
  readonly end: () => void;
}

type Port = Pick<MessagePort, 'postMessage' | 'onmessage' | 'close'>;

/** Asks a pixel worker through a channel. Its worker may be replaced: what was under way then is lost, and said so. */
export class PixelClient implements Pixels {
  #port: Port | undefined;
  readonly #waiting = new Map<number, Waiting>();
  #nextId = 1;

  get waiting(): number {
    return this.#waiting.size;
  }

  /** Takes up a new worker, or none for now. */
  connect(port: Port | undefined): void {
    this.#port?.close();
    this.#port = port;
    if (port) port.onmessage = ({ data }: MessageEvent<FromPixels>) => this.#hear(data);
    for (const [id, { reject }] of this.#waiting) {
      this.#forget(id);
      reject(new PixelError('lost'));
    }
  }

  ask<K extends PixelRequestKind>(
    what: K,
    request: RequestOf<K>,
    { signal, onProgress }: AskOptions = {},
  ): Promise<AnswerOf<K>> {
    if (signal?.aborted) return Promise.reject(signal.reason);
    if (!this.#port) return Promise.reject(new PixelError('lost'));
    const id = this.#nextId;
    this.#nextId += 1;
    return new Promise((resolve, reject) => {
      const onAbort = () => {
        this.#forget(id);
        this.#post({ kind: 'cancel', id });
        reject(signal!.reason);
      };
      signal?.addEventListener('abort', onAbort);
      const end = () => signal?.removeEventListener('abort', onAbort);
      this.#waiting.set(id, { resolve: resolve as Waiting['resolve'], reject, onProgress, end });
      this.#post({ kind: 'ask', id, what, request, isWatched: onProgress !== undefined } as ToPixels);
    });
  }

  #post(message: ToPixels): void {
    this.#port?.postMessage(message);
  }

  #forget(id: number): Waiting | undefined {
    const waiting = this.#waiting.get(id);
    this.#waiting.delete(id);
    waiting?.end();
    return waiting;
  }

  #hear(message: FromPixels): void {
    if (message.kind === 'progress') {
      this.#waiting.get(message.id)?.onProgress?.(message.progress);
      return;
    }
    const waiting = this.#forget(message.id);
    if (message.kind === 'failed') waiting?.reject(new PixelError(message.trouble, message.message));
    else if (waiting) waiting.resolve(message.answer as never);
    // Cancelled too late: nobody draws it any more.
    else if ('close' in message.answer) message.answer.close();
  }
}
