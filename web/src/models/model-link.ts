import type { ModelView, Stance } from '@miradero/core/model';
import type { FromModels, ModelSource, PictureOfModel, ReadModel, ToModels } from './messages.ts';

interface Waiting {
  readonly resolve: (told: FromModels) => void;
  readonly reject: (why: Error) => void;
}

let worker: Worker | undefined;
let asked = 0;
const waiting = new Map<number, Waiting>();
/** The worker began anew: what was open in it has to be opened again. */
let generation = 0;

const GONE = 'There was no room for it in this browser’s memory, or its 3D drawing broke off.';

/** Everybody who waits hears that it went wrong; the next one who asks gets another worker. */
function lose(): void {
  worker?.terminate();
  worker = undefined;
  generation += 1;
  const all = [...waiting.values()];
  waiting.clear();
  for (const { reject } of all) reject(new Error(GONE));
}

/** The worker that reads and draws all models of this window, with the one 3D context; begun with the first. */
function models(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL('./worker/models.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<FromModels>) => {
    const one = waiting.get(data.ask);
    waiting.delete(data.ask);
    if (data.kind === 'unanswered') one?.reject(new Error(data.why));
    else if (one) one.resolve(data);
    else if (data.kind === 'drawn') data.bitmap.close();
  };
  worker.onerror = lose;
  return worker;
}

type Question = ToModels extends infer Each
  ? Each extends { ask: number }
    ? Omit<Each, 'ask'>
    : never
  : never;

function ask(question: Question): Promise<FromModels> {
  asked += 1;
  const number = asked;
  return new Promise((resolve, reject) => {
    waiting.set(number, { resolve, reject });
    models().postMessage({ ...question, ask: number } as ToModels);
  });
}

const UPRIGHT: Stance = { up: 'y', frontDeg: 0 };
let opened = 0;

/** One model. It is read when it is first needed, and again where the worker was lost. */
export class Model {
  readonly #source: ModelSource;
  #id = '';
  #generation = -1;
  #reading: Promise<ReadModel> | undefined;

  constructor(source: ModelSource) {
    this.#source = source;
  }

  /** Reads it. @throws Error in words, where it cannot be read */
  look(): Promise<ReadModel> {
    if (this.#reading && this.#generation === generation) return this.#reading;
    opened += 1;
    this.#id = String(opened);
    this.#generation = generation;
    const reading = ask({ kind: 'open', id: this.#id, source: this.#source }).then(
      (told) => (told as Extract<FromModels, { kind: 'read' }>).model,
    );
    this.#reading = reading;
    // What could not be read is tried again when it is asked for again.
    reading.catch(() => {
      if (this.#reading === reading) this.#reading = undefined;
    });
    return reading;
  }

  /** Draws it. @throws Error in words */
  async draw(picture: PictureOfModel): Promise<ImageBitmap> {
    await this.look();
    const told = await ask({ kind: 'draw', id: this.#id, picture });
    return (told as Extract<FromModels, { kind: 'drawn' }>).bitmap;
  }

  /** Draws it as a file. @throws Error in words */
  async picture(
    view: ModelView,
    {
      stance = UPRIGHT,
      type = 'image/png',
      ...size
    }: { width: number; height: number; stance?: Stance; type?: 'image/png' | 'image/webp' },
  ): Promise<Blob> {
    await this.look();
    const told = await ask({ kind: 'picture', id: this.#id, picture: { view, stance, ...size }, type });
    return (told as Extract<FromModels, { kind: 'picture' }>).file;
  }

  close(): void {
    if (this.#reading && this.#generation === generation)
      worker?.postMessage({ kind: 'close', id: this.#id } satisfies ToModels);
    this.#reading = undefined;
  }
}

export const openModel = (source: ModelSource): Model => new Model(source);
