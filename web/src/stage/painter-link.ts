import type { Rectangle } from '@miradero/core/geometry';
import { createNanoEvents } from 'nanoevents';
import { createStore, type Readable } from '../state/index.ts';
import type {
  FromWorker,
  PaintedFrame,
  PaintRequest,
  ReadAnswer,
  ReadRequest,
  ToWorker,
  WorkerReport,
} from './messages.ts';

interface Waiting<T> {
  resolve(value: T): void;
  reject(error: Error): void;
}

type DistributiveOmit<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;

/** The worker ended before it answered; it is started anew, and what is shown is asked for again. */
export class PainterLostError extends Error {}

/** A worker that fails again within so long fails at what is shown, not by chance. */
const AGAIN_WITHIN_MS = 10_000;
/** Then it is tried again only so much later: it must not keep the computer busy with failing. */
const RETRY_MS = 5_000;

type MakeWorker = () => Worker;
const freshWorker: MakeWorker = () =>
  new Worker(new URL('./worker/painter.worker.ts', import.meta.url), { type: 'module' });

let prepared: Worker | undefined;
/** Starts a painting worker for the board that is opened next: it reads its program while the board is on its way. */
export function preparePainter(): void {
  prepared ??= freshWorker();
}
function makePainter(): Worker {
  const worker = prepared ?? freshWorker();
  prepared = undefined;
  return worker;
}

export interface PainterState {
  /** The worker's own count of the pixels it holds. */
  readonly report: WorkerReport;
  /** It failed twice in a row: what is shown may be out of date until it is tried again. */
  readonly isInTrouble: boolean;
}

/** The painting worker of one board in one window; every view of that board shares it. One that fails is started anew. */
export class PainterLink {
  readonly #make: MakeWorker;
  #worker: Worker | undefined;
  readonly #waiting = new Map<number, Waiting<PaintedFrame>>();
  readonly #reading = new Map<number, (answer: ReadAnswer) => void>();
  readonly #events = createNanoEvents<{ stale: () => void }>();
  readonly #store = createStore<PainterState>(() => ({
    report: { bytes: 0, bitmaps: 0, loading: 0 },
    isInTrouble: false,
  }));
  readonly #refill: () => readonly ToWorker[];
  #nextId = 1;
  #budget: ToWorker | undefined;
  #failedAtMs = Number.NEGATIVE_INFINITY;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** @param refill - everything that a fresh worker has to know */
  constructor(refill: () => readonly ToWorker[], make: MakeWorker = makePainter) {
    this.#refill = refill;
    this.#make = make;
    this.#start();
  }

  get report(): WorkerReport {
    return this.#store.getState().report;
  }

  get store(): Readable<PainterState> {
    return this.#store;
  }

  post(message: ToWorker): void {
    if (message.kind === 'budget') this.#budget = message;
    this.#worker?.postMessage(message);
  }

  /** @throws PainterLostError when the worker ended before it answered; listeners to `onStale` are told when to ask again */
  paint(request: Omit<PaintRequest, 'id'>): Promise<PaintedFrame> {
    const id = this.#nextId;
    this.#nextId += 1;
    if (!this.#worker) return Promise.reject(new PainterLostError());
    this.post({ kind: 'paint', request: { ...request, id } });
    return new Promise((resolve, reject) => this.#waiting.set(id, { resolve, reject }));
  }

  /** How the values of the trimmed part of a picture are distributed, darkest first; null while there are no pixels. */
  distributionOf(picture: string, trim: Rectangle, bins: number): Promise<Float32Array | null> {
    return this.#read({ what: 'distribution', picture, trim, bins }) as Promise<Float32Array | null>;
  }

  /** The colour at fractions 0..1 of a picture, sRGB 0..255; null while there are no pixels. */
  colourAt(picture: string, x: number, y: number): Promise<readonly [number, number, number] | null> {
    return this.#read({ what: 'colour', picture, x, y }) as Promise<readonly [number, number, number] | null>;
  }

  #read(request: DistributiveOmit<ReadRequest, 'id'>): Promise<ReadAnswer> {
    const id = this.#nextId;
    this.#nextId += 1;
    if (!this.#worker) return Promise.resolve(null);
    this.post({ kind: 'read', request: { ...request, id } as ReadRequest });
    return new Promise((resolve) => this.#reading.set(id, resolve));
  }

  /** Called when frames painted before are out of date. @returns a function that ends it */
  onStale(listener: () => void): () => void {
    return this.#events.on('stale', listener);
  }

  close(): void {
    clearTimeout(this.#timer);
    this.#worker?.terminate();
    this.#worker = undefined;
    this.#letGo();
  }

  #start(): void {
    const worker = this.#make();
    this.#worker = worker;
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => this.#hear(data);
    worker.onerror = (event) => {
      event.preventDefault();
      this.#fail(event.message);
    };
    worker.onmessageerror = () => this.#fail('a message could not be read');
  }

  #hear(message: FromWorker): void {
    if (message.kind === 'painted') {
      const waiting = this.#waiting.get(message.frame.id);
      this.#waiting.delete(message.frame.id);
      if (waiting) waiting.resolve(message.frame);
      else message.frame.bitmap.close();
      this.#store.setState({ isInTrouble: false });
      return;
    }
    if (message.kind === 'read') {
      this.#reading.get(message.id)?.(message.answer);
      this.#reading.delete(message.id);
      return;
    }
    this.#store.setState({ report: message.report });
    this.#events.emit('stale');
  }

  #fail(why: string): void {
    if (!this.#worker) return;
    console.error(`The painting worker failed: ${why}`);
    this.#worker.terminate();
    this.#worker = undefined;
    this.#letGo();
    const now = performance.now();
    const isAgain = now - this.#failedAtMs < AGAIN_WITHIN_MS;
    this.#failedAtMs = now;
    if (isAgain) this.#store.setState({ isInTrouble: true });
    this.#timer = setTimeout(() => this.#restart(), isAgain ? RETRY_MS : 0);
  }

  #restart(): void {
    this.#start();
    for (const message of this.#refill()) this.post(message);
    if (this.#budget) this.post(this.#budget);
    this.#events.emit('stale');
  }

  /** Nobody waits for an answer that cannot come. */
  #letGo(): void {
    const [waiting, reading] = [[...this.#waiting.values()], [...this.#reading.values()]];
    this.#waiting.clear();
    this.#reading.clear();
    for (const { reject } of waiting) reject(new PainterLostError());
    for (const resolve of reading) resolve(null);
  }
}
