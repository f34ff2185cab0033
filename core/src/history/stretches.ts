import type { Gist, Stretch } from '../schema/index.ts';
import { addGists } from './gist.ts';

/** Who pauses so long begins a new stretch, ms. */
const PAUSE_MS = 30 * 60 * 1000;

/** One change, without what it altered. */
export interface Entry {
  readonly revision: number;
  readonly at: Date;
  readonly by: string | null;
  readonly gist: Gist;
}

/** Joins changes that follow each other closely and are by one person. @param entries - by revision, oldest first */
export function stretchesOf(entries: Iterable<Entry>): Stretch[] {
  const stretches: Stretch[] = [];
  let last: { by: string | null; endedAtMs: number } | undefined;
  for (const { revision, at, by, gist } of entries) {
    const isSame = last?.by === by && at.getTime() - last.endedAtMs < PAUSE_MS;
    const before = isSame ? stretches.pop() : undefined;
    stretches.push({
      from: before?.from ?? revision,
      to: revision,
      begunAt: before?.begunAt ?? at.toISOString(),
      endedAt: at.toISOString(),
      by,
      gist: before ? addGists(before.gist, gist) : gist,
    });
    last = { by, endedAtMs: at.getTime() };
  }
  return stretches;
}

/**
 * A line along which a board's past lies: each stretch as wide as the root of what it counts, so that a day of three
 * thousand changes leaves room for an hour of five. Positions are 0 (before anything) to 1 (now).
 */
export class HistoryLine {
  readonly #stretches: readonly Stretch[];
  /** Where each begins; one more for the end. */
  readonly #starts: readonly number[];

  /** @param stretches - oldest first, without a gap between their revisions */
  constructor(stretches: readonly Stretch[]) {
    this.#stretches = stretches;
    const widths = stretches.map(({ from, to }) => Math.sqrt(to - from + 1));
    const sum = widths.reduce((all, width) => all + width, 0) || 1;
    const starts = [0];
    for (const width of widths) starts.push(starts.at(-1)! + width / sum);
    this.#starts = starts;
  }

  /** Latest revision. */
  get end(): number {
    return this.#stretches.at(-1)?.to ?? 0;
  }

  /** Stretches with their places. */
  get places(): readonly { readonly stretch: Stretch; readonly start: number; readonly end: number }[] {
    return this.#stretches.map((stretch, index) => ({
      stretch,
      start: this.#starts[index]!,
      end: this.#starts[index + 1]!,
    }));
  }

  /** The stretch in which a revision came about; undefined for the empty board at its start. */
  stretchOf(revision: number): Stretch | undefined {
    return this.#stretches[this.#indexOf(revision)];
  }

  /** Where the state at a revision lies: at the end of what its change takes up. */
  positionOf(revision: number): number {
    if (revision <= 0 || this.#stretches.length === 0) return 0;
    const index = this.#indexOf(Math.min(revision, this.end));
    const { from, to } = this.#stretches[index]!;
    const [start, end] = [this.#starts[index]!, this.#starts[index + 1]!];
    return start + ((end - start) * (Math.min(revision, to) - from + 1)) / (to - from + 1);
  }

  /** The revision whose state lies next to a position. */
  revisionAt(position: number): number {
    if (position <= 0 || this.#stretches.length === 0) return 0;
    const index = Math.min(
      this.#starts.findLastIndex((start) => start <= position),
      this.#stretches.length - 1,
    );
    const { from, to } = this.#stretches[index]!;
    const [start, end] = [this.#starts[index]!, this.#starts[index + 1]!];
    const share = (position - start) / (end - start);
    return Math.min(to, from - 1 + Math.round(share * (to - from + 1)));
  }

  #indexOf(revision: number): number {
    return this.#stretches.findIndex(({ from, to }) => revision >= from && revision <= to);
  }
}
