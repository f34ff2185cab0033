import { CHANGE_LIMITS, type ChangeOutcome } from '@miradero/core/schema';
import { ProblemError } from '../requests/problem.ts';

/** Writes changes of a board in one transaction. @returns their outcomes in order, once they are committed */
export type WriteChanges = (
  owner: string,
  board: string,
  changes: readonly object[],
) => Promise<ChangeOutcome[]>;

interface Waiting {
  readonly changes: readonly object[];
  readonly operations: number;
  readonly resolve: (outcomes: ChangeOutcome[]) => void;
  readonly reject: (error: unknown) => void;
}

/** Operations of a change as it was sent: it may be no change at all. */
const operationsOf = (change: object): number => {
  const { operations } = change as { operations?: unknown };
  return Array.isArray(operations) ? operations.length : 0;
};

/** Of those that wait, how many are written together: as many as one request may hold. */
function takeGroup(waiting: Waiting[]): Waiting[] {
  let operations = 0;
  const end = waiting.findIndex((one, index) => {
    operations += one.operations;
    return index > 0 && operations > CHANGE_LIMITS.operations;
  });
  return waiting.splice(0, end < 0 ? waiting.length : end);
}

/**
 * Writes what several windows send to one board in groups: what comes while something of it is being written waits, and is
 * written together. Nobody has an answer before its group is committed. A group that fails as a whole is repeated one by one,
 * so that only what is at fault has the trouble.
 */
export class ChangeGroups {
  readonly #write: WriteChanges;
  /** Requests by owner and board; a board is in here while something of it is being written. */
  readonly #waiting = new Map<string, Waiting[]>();

  constructor(write: WriteChanges) {
    this.#write = write;
  }

  /**
   * @returns outcomes in the order of the changes, once they are committed
   * @throws ProblemError `too-large` for too many operations in several changes, and what writing them throws
   */
  accept(owner: string, board: string, changes: readonly object[]): Promise<ChangeOutcome[]> {
    const operations = changes.reduce((sum, change) => sum + operationsOf(change), 0);
    if (changes.length > 1 && operations > CHANGE_LIMITS.operations)
      return Promise.reject(new ProblemError('too-large'));
    return new Promise((resolve, reject) => {
      const key = `${owner} ${board}`;
      const one = { changes, operations, resolve, reject };
      const waiting = this.#waiting.get(key);
      if (waiting) {
        waiting.push(one);
        return;
      }
      this.#waiting.set(key, [one]);
      void this.#writeAll(key, owner, board);
    });
  }

  async #writeAll(key: string, owner: string, board: string): Promise<void> {
    const waiting = this.#waiting.get(key)!;
    while (waiting.length > 0) await this.#writeGroup(owner, board, takeGroup(waiting));
    this.#waiting.delete(key);
  }

  async #writeGroup(owner: string, board: string, group: readonly Waiting[]): Promise<void> {
    try {
      const outcomes = await this.#write(
        owner,
        board,
        group.flatMap(({ changes }) => changes),
      );
      let from = 0;
      for (const { changes, resolve } of group) {
        resolve(outcomes.slice(from, from + changes.length));
        from += changes.length;
      }
    } catch (error) {
      if (group.length === 1) {
        group[0]!.reject(error);
        return;
      }
      // Nothing of it was committed, or what was keeps its revisions: it may be sent again.
      for (const one of group) await this.#writeGroup(owner, board, [one]);
    }
  }
}
