import type { CreateExport, Export } from '@miradero/core/schema';
import { createStore, type Readable } from '../state/index.ts';
import { ask, type Sync } from '../sync/index.ts';

/** What is to be taken out of a board, and what it is called until it has a name. */
export interface Wanted {
  readonly board: string;
  readonly request: Omit<CreateExport, 'id'>;
}

export interface ExportingReport {
  /** Ids of what the server is making for this window. */
  readonly running: readonly string[];
  /** Why something was not made. */
  readonly failures: readonly string[];
}

/** Changes and pictures on their way to the server are waited for so long, ms. */
const SENDING_MS = 60_000;
/** News may be missed while the stream is away: it is asked anew so often, ms. */
const ASK_MS = 2_000;

/** What is taken out was stopped by the person. */
export class StoppedError extends Error {}

/** What this window has the server take out right now; one quiet line tells of it. */
export class Exporting {
  readonly #sync: Sync;
  readonly #store = createStore<ExportingReport>(() => ({ running: [], failures: [] }));
  readonly #waiting = new Map<string, () => void>();

  constructor(sync: Sync) {
    this.#sync = sync;
    sync.channel.subscribe((message) => {
      if (message.kind === 'event' && message.event.kind === 'export')
        this.#waiting.get(message.event.export)?.();
    });
  }

  get store(): Readable<ExportingReport> {
    return this.#store;
  }

  /**
   * Takes something out.
   *
   * @param id - under which it is asked for
   * @returns what was made
   * @throws Error in words that can be said; StoppedError
   */
  async take({ board, request }: Wanted, id: string = crypto.randomUUID()): Promise<Export> {
    this.#store.setState(({ running }) => ({ running: [...running, id] }));
    try {
      await this.#sent();
      let made = (
        await ask('POST /api/boards/:id/exports', {
          parameters: { id: board },
          body: { ...request, id },
        })
      ).export;
      while (made.state === 'waiting' || made.state === 'working') {
        await this.#news(id);
        made = (await ask('GET /api/exports/:id', { parameters: { id } })).export;
      }
      if (made.state === 'stopped') throw new StoppedError('It was stopped.');
      if (made.state === 'failed') throw new Error(made.why ?? 'It could not be made.');
      return made;
    } finally {
      this.#waiting.delete(id);
      this.#store.setState(({ running }) => ({ running: running.filter((one) => one !== id) }));
    }
  }

  /** Keeps why something was not made, until it is read. */
  fail(why: string): void {
    this.#store.setState(({ failures }) => ({ failures: [...failures, why] }));
  }

  forget(): void {
    this.#store.setState({ failures: [] });
  }

  async stop(id: string): Promise<void> {
    await ask('PATCH /api/exports/:id', { parameters: { id }, body: { stopped: true } }).catch(() => {});
    this.#waiting.get(id)?.();
  }

  /** The server draws what it has: what was done last has to be there first. */
  async #sent(): Promise<void> {
    const end = performance.now() + SENDING_MS;
    const { saved } = this.#sync;
    while (saved.report.state !== 'saved' || saved.report.uploads !== undefined) {
      if (saved.report.reach !== undefined)
        throw new Error('The server is away; pictures are taken out there. What you made is kept.');
      if (performance.now() > end)
        throw new Error('What you made is still on its way to the server. Take it out again in a moment.');
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }

  #news(id: string): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ASK_MS);
      this.#waiting.set(id, () => {
        clearTimeout(timer);
        resolve();
      });
    });
  }
}

const known = new WeakMap<Sync, Exporting>();

export function exportingOf(sync: Sync): Exporting {
  let exporting = known.get(sync);
  if (!exporting) {
    exporting = new Exporting(sync);
    known.set(sync, exporting);
  }
  return exporting;
}

export const pathOfExport = (id: string): string => `/api/exports/${id}/file`;
