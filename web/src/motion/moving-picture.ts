import type { FrameTimes } from '@miradero/core/motion';
import { createNanoEvents } from 'nanoevents';
import type { FromFrames, MotionSource, ToFrames } from './messages.ts';

let worker: Worker | undefined;
let asks = 0;
const nextAsk = (): number => {
  asks += 1;
  return asks;
};
const open = new Map<string, MovingPicture>();

/** The worker that reads all frames of this window; begun when something moves for the first time. */
function frames(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL('./worker/frames.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<FromFrames>) => {
    const one = open.get(data.id);
    if (one) one.hear(data);
    else if (data.kind === 'frame') data.bitmap.close();
  };
  return worker;
}
const post = (message: ToFrames) => frames().postMessage(message);

/** Decoded frames of one thing take so many bytes at most, and it keeps so many whatever they take. */
const BUDGET = 48 * 1024 * 1024;
const LEAST_KEPT = 6;

/** A picture that moves, with those of its frames that were read. */
export class MovingPicture {
  readonly id: string;
  readonly #events = createNanoEvents<{ news: () => void }>();
  readonly #kept = new Map<number, ImageBitmap>();
  #times: FrameTimes | undefined;
  #size = { width: 0, height: 0 };
  #why: string | undefined;
  #side = 0;
  #asked = '';
  readonly #progress = new Map<number, (done: number) => void>();
  readonly #questions = new Map<number, (told: FromFrames) => void>();

  constructor(id: string, source: MotionSource) {
    this.id = id;
    open.set(id, this);
    post({ kind: 'open', id, source });
  }

  /** When its frames begin; undefined as long as its file is read. */
  get times(): FrameTimes | undefined {
    return this.#times;
  }
  /** Why it cannot be shown, in words. */
  get why(): string | undefined {
    return this.#why;
  }
  /** Pixels. */
  get size(): { readonly width: number; readonly height: number } {
    return this.#size;
  }

  /** Called when something of it was read. @returns a function that ends it */
  onNews(listener: () => void): () => void {
    return this.#events.on('news', listener);
  }

  /** A frame, where it was read. */
  frame(frame: number): ImageBitmap | undefined {
    const bitmap = this.#kept.get(frame);
    if (!bitmap) return undefined;
    // What was shown last goes last.
    this.#kept.delete(frame);
    this.#kept.set(frame, bitmap);
    return bitmap;
  }

  /** Says which frames are shown next, in their order, and how large: those that are missing are read. @param side - longest, pixels */
  want(wanted: readonly number[], side: number): void {
    if (!this.#times) return;
    const most = Math.max(this.#size.width, this.#size.height);
    // In few steps: a board that is zoomed does not read everything anew at every step.
    const needed = Math.min(most, 2 ** Math.ceil(Math.log2(Math.max(64, side))));
    if (needed > this.#side) {
      this.#forget();
      this.#side = needed;
    }
    const missing = wanted.filter((frame) => !this.#kept.has(frame));
    const asked = `${this.#side} ${missing.join()}`;
    if (missing.length === 0 || asked === this.#asked) return;
    this.#asked = asked;
    post({ kind: 'read', id: this.id, frames: missing, side: this.#side });
  }

  /** A frame as a file, all its pixels. @throws Error in words, where it cannot be read */
  async still(frame: number): Promise<Blob> {
    const told = await this.#ask({ kind: 'still', id: this.id, frame, ask: nextAsk() });
    return (told as Extract<FromFrames, { kind: 'still' }>).png;
  }

  /**
   * How much each of its frames differs from the one before it.
   *
   * @param onProgress - told how many were looked at
   * @throws Error in words, where they cannot be read; an `AbortError` where it was stopped
   */
  async survey(onProgress: (done: number) => void, signal: AbortSignal): Promise<readonly number[]> {
    const ask = nextAsk();
    this.#progress.set(ask, onProgress);
    const stop = () => {
      post({ kind: 'stop', id: this.id, ask });
      this.#questions.get(ask)?.({ kind: 'unanswered', id: this.id, ask, why: 'It was stopped.' });
    };
    signal.addEventListener('abort', stop, { once: true });
    try {
      const told = await this.#ask({ kind: 'survey', id: this.id, ask });
      return (told as Extract<FromFrames, { kind: 'surveyed' }>).differences;
    } finally {
      signal.removeEventListener('abort', stop);
      this.#progress.delete(ask);
      signal.throwIfAborted();
    }
  }

  #ask(message: Exclude<Extract<ToFrames, { ask: number }>, { kind: 'stop' }>): Promise<FromFrames> {
    post(message);
    return new Promise((resolve, reject) => {
      this.#questions.set(message.ask, (told) =>
        told.kind === 'unanswered' ? reject(new Error(told.why)) : resolve(told),
      );
    });
  }

  hear(message: FromFrames): void {
    if (message.kind === 'surveying') {
      this.#progress.get(message.ask)?.(message.done);
      return;
    }
    if ('ask' in message) {
      this.#questions.get(message.ask)?.(message);
      this.#questions.delete(message.ask);
      return;
    }
    if (message.kind === 'opened') {
      this.#times = message.times;
      this.#size = { width: message.width, height: message.height };
    } else if (message.kind === 'failed') this.#why = message.why;
    else this.#keep(message.frame, message.side, message.bitmap);
    this.#events.emit('news');
  }

  #keep(frame: number, side: number, bitmap: ImageBitmap): void {
    if (side !== this.#side) {
      bitmap.close();
      return;
    }
    // One that cannot be read says so until another can.
    this.#why = undefined;
    this.#kept.get(frame)?.close();
    this.#kept.set(frame, bitmap);
    this.#asked = '';
    const most = Math.max(LEAST_KEPT, Math.floor(BUDGET / (bitmap.width * bitmap.height * 4)));
    for (const [old, kept] of this.#kept) {
      if (this.#kept.size <= most) break;
      this.#kept.delete(old);
      kept.close();
    }
  }

  #forget(): void {
    for (const bitmap of this.#kept.values()) bitmap.close();
    this.#kept.clear();
    this.#asked = '';
  }

  close(): void {
    open.delete(this.id);
    this.#forget();
    post({ kind: 'close', id: this.id });
  }
}
