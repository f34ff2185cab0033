import { type AskOptions, PixelClient, type Pixels } from './client.ts';
import { LastingWorker, type MakeWorker } from './lasting-worker.ts';
import type { AnswerOf, Connect, PixelRequestKind, RequestOf } from './requests.ts';

const freshWorker: MakeWorker = () =>
  new Worker(new URL('./worker/pixels.worker.ts', import.meta.url), { type: 'module' });

/** So many workers compute with pixels beside the one that fetches what is drawn; more would keep the painting waiting. */
const READERS_MOST = 2;
const readersOf = (cores: number): number => Math.max(1, Math.min(READERS_MOST, cores - 2));

/** What is fetched and decoded to be drawn; everything else is computed with, which takes longer. */
const DRAWN: ReadonlySet<PixelRequestKind> = new Set(['level', 'copy']);

/** One worker of the pool, and all who ask it. */
class Lane {
  readonly #worker: LastingWorker<Connect, never>;
  readonly #connected = new Set<(port: MessagePort | undefined) => void>();

  constructor(make: MakeWorker) {
    this.#worker = new LastingWorker('pixel worker', make, {
      hear() {},
      lost: () => {
        for (const connect of this.#connected) connect(undefined);
      },
      restarted: () => {
        for (const connect of this.#connected) connect(this.#channel());
      },
    });
  }

  /** @param connect - takes an end of a channel to the worker, and another when that is started anew @returns an end */
  join(connect: (port: MessagePort | undefined) => void): () => void {
    this.#connected.add(connect);
    if (this.#worker.isThere) connect(this.#channel());
    return () => this.#connected.delete(connect);
  }

  close(): void {
    this.#worker.close();
    this.#connected.clear();
  }

  #channel(): MessagePort {
    const { port1, port2 } = new MessageChannel();
    this.#worker.post({ kind: 'connect', port: port2 }, [port2]);
    return port1;
  }
}

/**
 * The workers of this window that have to do with pixels. One fetches and decodes what is drawn; others, started when they
 * are needed, compute with pixels, the same picture always in the same one. None of them paints, and one that dies takes
 * no picture from the screen.
 */
export class PixelPool implements Pixels {
  readonly #make: MakeWorker;
  readonly #readers: number;
  readonly #lanes = new Map<number, Lane>();
  readonly #clients = new Map<number, PixelClient>();

  constructor(make: MakeWorker = freshWorker, cores = globalThis.navigator?.hardwareConcurrency ?? 2) {
    this.#make = make;
    this.#readers = readersOf(cores);
  }

  ask<K extends PixelRequestKind>(
    what: K,
    request: RequestOf<K>,
    options?: AskOptions,
  ): Promise<AnswerOf<K>> {
    const number = DRAWN.has(what) ? 0 : 1 + (numberOf(request) % this.#readers);
    return this.#clientOf(number).ask(what, request, options);
  }

  /**
   * Gives a worker that paints its own channel to what is drawn.
   * @param connect - takes the channel, and another whenever the worker behind it is started anew; none while it is away
   * @returns a function that ends it
   */
  lend(connect: (port: MessagePort | undefined) => void): () => void {
    return this.#laneOf(0).join(connect);
  }

  /** Starts the worker that fetches what is drawn. */
  prepare(): void {
    this.#laneOf(0);
  }

  close(): void {
    for (const lane of this.#lanes.values()) lane.close();
    this.#lanes.clear();
    this.#clients.clear();
  }

  #laneOf(number: number): Lane {
    let lane = this.#lanes.get(number);
    if (!lane) {
      lane = new Lane(this.#make);
      this.#lanes.set(number, lane);
    }
    return lane;
  }

  #clientOf(number: number): PixelClient {
    let client = this.#clients.get(number);
    if (!client) {
      const made = new PixelClient();
      this.#laneOf(number).join((port) => made.connect(port));
      this.#clients.set(number, made);
      client = made;
    }
    return client;
  }
}

/** A number that goes with the picture of a request. */
function numberOf(request: RequestOf<PixelRequestKind>): number {
  const name = 'source' in request ? request.source.id : request.path;
  let sum = 0;
  for (let index = 0; index < name.length; index += 1) sum = (sum * 31 + name.charCodeAt(index)) | 0;
  return Math.abs(sum);
}

let pool: PixelPool | undefined;
/** The pool of this window. */
export function pixelPool(): PixelPool {
  pool ??= new PixelPool();
  return pool;
}
