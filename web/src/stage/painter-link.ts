import type { FromWorker, PaintedFrame, PaintRequest, ToWorker, WorkerReport } from './messages.ts';

/** The painting worker of one board in one window; every view of that board shares it. */
export class PainterLink {
  readonly #worker: Worker;
  readonly #waiting = new Map<number, (frame: PaintedFrame) => void>();
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

  /** Called when frames painted before are out of date. @returns a function that ends it */
  onStale(listener: () => void): () => void {
    this.#staleListeners.add(listener);
    return () => this.#staleListeners.delete(listener);
  }

  close(): void {
    this.#worker.terminate();
    this.#waiting.clear();
  }
}
