/** A file as it is seen at a moment. */
export interface FileSeen {
  readonly bytes: number;
  /** When it was written last, ms since 1970. */
  readonly modifiedMs: number;
}

/** A save counts once size and time stood still for so long, ms: until then another program may be writing. */
export const STILL_MS = 300;
/** What could not be read although it stood still is tried again after so long, ms. */
export const AGAIN_MS = 2_000;
/** Tried so often, what stands still is not being written. */
export const MOST_FAILURES = 3;
/** Programs that save under another name and rename leave no file for a moment; longer than this it is gone, ms. */
export const GONE_MS = 1_500;

/** What is to be done: nothing is new; look again soon; read it; it is not there any more. */
export type FollowStep = 'nothing' | 'wait' | 'read' | 'gone';

const isSame = (one: FileSeen | undefined, other: FileSeen | undefined): boolean =>
  one?.bytes === other?.bytes && one?.modifiedMs === other?.modifiedMs;

/**
 * Tells when a file that another program writes was saved, from how it is seen now and then. Knows no file system: whoever
 * looks says what was seen and when.
 */
export class SaveWatch {
  /** What the newest version was read from. */
  #read: FileSeen | undefined;
  #seen: FileSeen | undefined;
  /** Since when it is seen like that. */
  #sinceMs: number | undefined;
  /** How often it stood as it does and could not be read. */
  #failures = 0;
  /** Not before: it stood still and could not be read. */
  #againMs = Number.NEGATIVE_INFINITY;

  /** @param read - what the newest version that is kept was read from */
  constructor(read?: FileSeen) {
    this.#read = read;
  }

  /** @param seen - undefined: it is not there, or not to be opened */
  see(seen: FileSeen | undefined, atMs: number): FollowStep {
    if (this.#sinceMs === undefined || !isSame(seen, this.#seen)) {
      this.#seen = seen;
      this.#sinceMs = atMs;
      this.#failures = 0;
      this.#againMs = Number.NEGATIVE_INFINITY;
    }
    const stoodMs = atMs - this.#sinceMs;
    if (!seen) return stoodMs < GONE_MS ? 'wait' : 'gone';
    if (isSame(seen, this.#read)) return 'nothing';
    if (stoodMs < STILL_MS || atMs < this.#againMs) return 'wait';
    // A program that has only made its file has not saved yet.
    return seen.bytes === 0 ? 'wait' : 'read';
  }

  /** It was tried so often as it stands that nobody is writing it any more. */
  get isHopeless(): boolean {
    return this.#failures >= MOST_FAILURES;
  }

  /** Looked at sooner, what stands as it was seen last is still waited for; ms, 0: there is nothing to wait for. */
  restMs(atMs: number): number {
    return Math.max(0, Math.max((this.#sinceMs ?? atMs) + STILL_MS, this.#againMs) - atMs);
  }

  /** What was seen last became a version. */
  done(): void {
    this.#read = this.#seen;
  }

  /** What was read is no picture yet, or changed while it was read. */
  failed(atMs: number): void {
    this.#failures += 1;
    this.#againMs = atMs + AGAIN_MS;
  }
}

/** One that is kept of a drawing. */
export interface DrawingVersion {
  /** Counts up; the newest is the highest. */
  readonly number: number;
  readonly savedAtMs: number;
  readonly bytes: number;
}

/** So many are kept whatever their age, then one an hour, in so many bytes altogether. */
export const VERSIONS_KEPT = { latest: 20, bytes: 2 * 1024 ** 3 } as const;
const HOUR_MS = 3_600_000;

/** Numbers of the versions that need not be kept; never the newest. */
export function versionsToDrop(
  versions: readonly DrawingVersion[],
  { latest, bytes }: { readonly latest: number; readonly bytes: number } = VERSIONS_KEPT,
): number[] {
  const newestFirst = [...versions].sort((a, b) => b.number - a.number);
  const hours = new Set<number>();
  const drop: number[] = [];
  let sum = 0;
  let isFull = false;
  for (const [index, version] of newestFirst.entries()) {
    const hour = Math.floor(version.savedAtMs / HOUR_MS);
    const isWanted = index < latest || !hours.has(hour);
    if (index >= latest) hours.add(hour);
    // What is older than the first that does not fit goes as well: no holes are left in what there was.
    isFull ||= isWanted && index > 0 && sum + version.bytes > bytes;
    if (isWanted && !isFull) sum += version.bytes;
    else drop.push(version.number);
  }
  return drop;
}
