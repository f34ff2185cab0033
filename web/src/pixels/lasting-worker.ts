import { createStore, type Readable } from '../state/index.ts';

/** A worker that fails again within so long fails at what it is asked, not by chance. */
const AGAIN_WITHIN_MS = 10_000;
/** Then it is tried again only so much later: it must not keep the computer busy with failing. */
const RETRY_MS = 5_000;

export type MakeWorker = () => Worker;

interface Handlers<From> {
  hear(message: From): void;
  /** It ended: what it was asked is not answered any more. */
  lost(): void;
  /** It is there again, and knows nothing yet. */
  restarted(): void;
}

/** A worker that is started anew when it fails. */
export class LastingWorker<To, From> {
  readonly #name: string;
  readonly #make: MakeWorker;
  readonly #handlers: Handlers<From>;
  readonly #trouble = createStore<boolean>(() => false);
  #worker: Worker | undefined;
  #failedAtMs = Number.NEGATIVE_INFINITY;
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(name: string, make: MakeWorker, handlers: Handlers<From>) {
    this.#name = name;
    this.#make = make;
    this.#handlers = handlers;
    this.#start();
  }

  get isThere(): boolean {
    return this.#worker !== undefined;
  }

  /** Whether it failed twice in a row: until it is tried again nothing is to be had of it. */
  get trouble(): Readable<boolean> {
    return this.#trouble;
  }

  post(message: To, transfer: Transferable[] = []): void {
    this.#worker?.postMessage(message, transfer);
  }

  /** It did what it is for: the trouble is over. */
  well(): void {
    this.#trouble.setState(false, true);
  }

  close(): void {
    clearTimeout(this.#timer);
    this.#worker?.terminate();
    this.#worker = undefined;
    this.#handlers.lost();
  }

  #start(): void {
    const worker = this.#make();
    this.#worker = worker;
    worker.onmessage = ({ data }: MessageEvent<From>) => this.#handlers.hear(data);
    worker.onerror = (event) => {
      event.preventDefault();
      this.#fail(event.message);
    };
    worker.onmessageerror = () => this.#fail('a message could not be read');
  }

  #fail(why: string): void {
    if (!this.#worker) return;
    console.error(`The ${this.#name} failed: ${why}`);
    this.#worker.terminate();
    this.#worker = undefined;
    this.#handlers.lost();
    const now = performance.now();
    const isAgain = now - this.#failedAtMs < AGAIN_WITHIN_MS;
    this.#failedAtMs = now;
    if (isAgain) this.#trouble.setState(true, true);
    this.#timer = setTimeout(
      () => {
        this.#start();
        this.#handlers.restarted();
      },
      isAgain ? RETRY_MS : 0,
    );
  }
}
