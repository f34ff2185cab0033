import type { FoundPage } from '@miradero/core/schema';
import { createStore, type Readable } from '../../state/index.ts';
import type { Sync } from '../../sync/index.ts';
import type { Brought } from '../reading/brought.ts';

export interface Failure {
  readonly what: string;
  /** Where it was asked for, where it was no file: such can be asked for again. */
  readonly address?: string;
  readonly why: string;
}

/** A page of the web, or a folder of the disk, from which some pictures are to be picked. */
export type Picking =
  | { readonly kind: 'page'; readonly page: FoundPage; readonly tag?: string }
  | { readonly kind: 'folder'; readonly title: string; readonly files: readonly File[] };

/** How far the present gathering is: files looked at and kept, addresses asked. */
export interface GatheringReport {
  readonly total: number;
  readonly done: number;
  readonly failures: readonly Failure[];
  readonly isStopped: boolean;
  readonly picking: Picking | undefined;
  /** What was just said to somebody who has no board in front. */
  readonly notice: string;
}

const NOTHING: GatheringReport = {
  total: 0,
  done: 0,
  failures: [],
  isStopped: false,
  picking: undefined,
  notice: '',
};

/** What this window is bringing in right now; one quiet line tells of it. */
export class Gathering {
  readonly #store = createStore<GatheringReport>(() => NOTHING);
  #stopping = new AbortController();
  #carried: { readonly board: string; readonly brought: readonly Brought[] } | undefined;

  get report(): GatheringReport {
    return this.#store.getState();
  }

  get store(): Readable<GatheringReport> {
    return this.#store;
  }

  /** So many more are coming. */
  begin(count: number): void {
    const { total, done } = this.report;
    const isFresh = total === done;
    if (this.#stopping.signal.aborted) this.#stopping = new AbortController();
    this.#store.setState({
      total: isFresh ? count : total + count,
      done: isFresh ? 0 : done,
      isStopped: false,
    });
  }

  /** One of them is in, or is not. */
  end(failure?: Failure): void {
    this.#store.setState({
      done: this.report.done + 1,
      failures: failure ? [...this.report.failures, failure] : this.report.failures,
    });
  }

  /** What an earlier visit could not bring in, said once more. */
  recall(failures: readonly Failure[]): void {
    const known = new Set(this.report.failures.map(({ what }) => what));
    const forgotten = failures.filter(({ what }) => !known.has(what));
    if (forgotten.length > 0) this.#store.setState({ failures: [...this.report.failures, ...forgotten] });
  }

  /** Aborted when the person stops what is coming in, until something comes anew. */
  get signal(): AbortSignal {
    return this.#stopping.signal;
  }

  /** What is being read is kept; what is asked for is asked no more, the one that is under way included. */
  stop(): void {
    this.#stopping.abort();
    this.#store.setState({ isStopped: true });
  }

  forget(): void {
    this.#store.setState({ failures: [] });
  }

  pick(picking: Picking | undefined): void {
    this.#store.setState({ picking });
  }

  /** Takes what was brought along to a board that is opened for it. */
  carry(board: string, brought: readonly Brought[]): void {
    const before = this.#carried?.board === board ? this.#carried.brought : [];
    this.#carried = { board, brought: [...before, ...brought] };
  }

  /** @returns what was carried to this board, once */
  takeCarried(board: string): readonly Brought[] | undefined {
    if (this.#carried?.board !== board) return undefined;
    const { brought } = this.#carried;
    this.#carried = undefined;
    return brought;
  }

  say(notice: string): void {
    this.#store.setState({ notice });
  }
}

const perSync = new WeakMap<Sync, Gathering>();

/** The gathering of this window. */
export function gatheringOf(sync: Sync): Gathering {
  let gathering = perSync.get(sync);
  if (!gathering) {
    gathering = new Gathering();
    perSync.set(sync, gathering);
  }
  return gathering;
}
