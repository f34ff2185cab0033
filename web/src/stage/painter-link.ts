import { createNanoEvents } from 'nanoevents';
import { LastingWorker, type MakeWorker, type PixelPool, pixelPool } from '../pixels/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import type {
  DecodedPicture,
  FromWorker,
  PaintedFrame,
  PaintTask,
  SceneNews,
  SceneSource,
  ToWorker,
  WorkerReport,
} from './messages.ts';

interface Waiting {
  resolve(frame: PaintedFrame): void;
  reject(error: Error): void;
}

/** The worker ended before it answered; it is started anew, and what is shown is asked for again. */
export class PainterLostError extends Error {}

const freshWorker: MakeWorker = () =>
  new Worker(new URL('./worker/painter.worker.ts', import.meta.url), { type: 'module' });

let prepared: Worker | undefined;
/** Starts a painting worker for the board that is opened next: it reads its program while the board is on its way. */
export function preparePainter(): void {
  prepared ??= freshWorker();
  pixelPool().prepare();
}
function makePainter(): Worker {
  const worker = prepared ?? freshWorker();
  prepared = undefined;
  return worker;
}

/** What a painting worker that is started anew has to know of one scene. */
export interface SceneMemory {
  items(): SceneNews;
  sources(): readonly SceneSource[];
}

/** One scene as the painting worker keeps it. */
export interface PaintedScene {
  put(news: SceneNews): void;
  /** @throws PainterLostError when the worker ended before it answered; listeners to `onStale` are told when to ask again */
  paint(task: PaintTask): Promise<PaintedFrame>;
  close(): void;
}

/**
 * The painting worker of one board in one window; every view of that board shares it, and what shows a part of it in other
 * places has a scene of its own beside it, painted from the same decoded pictures. One that fails is started anew.
 */
export class PainterLink {
  readonly #worker: LastingWorker<ToWorker, FromWorker>;
  readonly #waiting = new Map<number, Waiting>();
  readonly #events = createNanoEvents<{ stale: () => void }>();
  readonly #report = createStore<WorkerReport>(() => ({ bytes: 0, bitmaps: 0, loading: 0 }));
  readonly #scenes = new Map<number, SceneMemory>();
  readonly #pool: Pick<PixelPool, 'lend'>;
  #endPixels: () => void = () => {};
  #nextId = 1;
  #budget: ToWorker | undefined;

  #nextScene = 1;

  constructor(make: MakeWorker = makePainter, pool: Pick<PixelPool, 'lend'> = pixelPool()) {
    this.#pool = pool;
    this.#worker = new LastingWorker('painting worker', make, {
      hear: (message) => this.#hear(message),
      lost: () => this.#letGo(),
      restarted: () => this.#tellAll(),
    });
    this.#lendPixels();
  }

  /** The worker's own count of the pixels it holds. */
  get report(): WorkerReport {
    return this.#report.getState();
  }

  /** Whether it failed twice in a row: what is shown may be out of date until it is tried again. */
  get trouble(): Readable<boolean> {
    return this.#worker.trouble;
  }

  post(message: ToWorker): void {
    if (message.kind === 'budget') this.#budget = message;
    this.#worker.post(message);
  }

  /** Hands a decoded picture over: it is drawn without being loaded. */
  give(picture: string, decoded: DecodedPicture): void {
    if (this.#worker.isThere) this.#worker.post({ kind: 'decoded', picture, ...decoded }, [decoded.bitmap]);
    else decoded.bitmap.close();
  }

  /** The worker ends with the last of its scenes. */
  openScene(memory: SceneMemory): PaintedScene {
    const scene = this.#nextScene;
    this.#nextScene += 1;
    this.#scenes.set(scene, memory);
    return {
      put: (news) => this.post({ kind: 'items', scene, ...news }),
      paint: (task) => this.#paint(scene, task),
      close: () => {
        if (!this.#scenes.delete(scene)) return;
        if (this.#scenes.size === 0) this.#close();
        else this.post({ kind: 'forget', scene });
      },
    };
  }

  #paint(scene: number, task: PaintTask): Promise<PaintedFrame> {
    const id = this.#nextId;
    this.#nextId += 1;
    if (!this.#worker.isThere) return Promise.reject(new PainterLostError());
    this.post({ kind: 'paint', request: { ...task, id, scene } });
    return new Promise((resolve, reject) => this.#waiting.set(id, { resolve, reject }));
  }

  /** Called when frames painted before are out of date. @returns a function that ends it */
  onStale(listener: () => void): () => void {
    return this.#events.on('stale', listener);
  }

  #close(): void {
    this.#endPixels();
    this.#worker.close();
  }

  /** A worker that is new has no channel: that of the one before went with it. */
  #lendPixels(): void {
    this.#endPixels();
    this.#endPixels = this.#pool.lend((port) =>
      this.#worker.post({ kind: 'pixels', port }, port ? [port] : []),
    );
  }

  #hear(message: FromWorker): void {
    if (message.kind === 'painted') {
      const waiting = this.#waiting.get(message.frame.id);
      this.#waiting.delete(message.frame.id);
      this.#worker.well();
      if (waiting) waiting.resolve(message.frame);
      else message.frame.bitmap.close();
      return;
    }
    this.#report.setState(message.report);
    this.#events.emit('stale');
  }

  #tellAll(): void {
    this.#lendPixels();
    for (const [scene, memory] of this.#scenes) {
      this.post({ kind: 'items', scene, ...memory.items() });
      this.post({ kind: 'sources', sources: memory.sources() });
    }
    if (this.#budget) this.post(this.#budget);
    this.#events.emit('stale');
  }

  /** Nobody waits for an answer that cannot come. */
  #letGo(): void {
    const waiting = [...this.#waiting.values()];
    this.#waiting.clear();
    for (const { reject } of waiting) reject(new PainterLostError());
  }
}
