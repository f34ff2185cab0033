import type { Rectangle } from '@miradero/core/geometry';
import type {
  FromWorker,
  PaintedFrame,
  PaintRequest,
  ReadAnswer,
  ReadRequest,
  ToWorker,
  WorkerReport,
} from './messages.ts';

type DistributiveOmit<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;

/** The painting worker of one board in one window; every view of that board shares it. */
export class PainterLink {
  readonly #worker: Worker;
  readonly #waiting = new Map<number, (frame: PaintedFrame) => void>();
  readonly #reading = new Map<number, (answer: ReadAnswer) => void>();
  readonly #staleListeners = new Set<() => void>();
  #nextId = 1;
  #report: WorkerReport = { bytes: 0, bitmaps: 0, loading: 0 };

  constructor() {
    this.#worker = new Worker(new URL('./worker/painter.worker.ts', import.meta.url), { type: 'module' });
    this.#worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      if (data.kind === 'painted') {
        const resolve = this.#waiting.get(data.frame.id);
        this.#waiting.delete(data.frame.id);
        if (resolve) resolve(data.frame);
        else data.frame.bitmap.close();
        return;
      }
      if (data.kind === 'read') {
        this.#reading.get(data.id)?.(data.answer);
        this.#reading.delete(data.id);
        return;
      }
      this.#report = data.report;
      for (const listener of this.#staleListeners) listener();
    };
  }

  /** The worker's own count of the pixels it holds. */
  get report(): WorkerReport {
    return this.#report;
  }

  post(message: ToWorker): void {
    this.#worker.postMessage(message);
  }

  paint(request: Omit<PaintRequest, 'id'>): Promise<PaintedFrame> {
    const id = this.#nextId;
    this.#nextId += 1;
    this.post({ kind: 'paint', request: { ...request, id } });
    return new Promise((resolve) => this.#waiting.set(id, resolve));
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
    this.post({ kind: 'read', request: { ...request, id } as ReadRequest });
    return new Promise((resolve) => this.#reading.set(id, resolve));
  }

  /** Called when frames painted before are out of date. @returns a function that ends it */
  onStale(listener: () => void): () => void {
    this.#staleListeners.add(listener);
    return () => this.#staleListeners.delete(listener);
  }

  close(): void {
    this.#worker.terminate();
    this.#waiting.clear();
    this.#reading.clear();
  }
}
