import { recall, remember } from '../state/index.ts';

/** What this browser showed of a board last. */
export interface Seen {
  readonly revision: number;
  /** ISO 8601. */
  readonly at: string;
}

const keyOf = (board: string): string => `miradero-seen-${board}`;

/** Undefined where this browser never showed it. */
export function seenOf(board: string): Seen | undefined {
  try {
    const seen = JSON.parse(recall(keyOf(board)) ?? 'null') as Partial<Seen> | null;
    const { revision, at } = seen ?? {};
    return Number.isSafeInteger(revision) && typeof at === 'string' && !Number.isNaN(Date.parse(at))
      ? { revision: revision!, at }
      : undefined;
  } catch {
    return undefined;
  }
}

export const rememberSeen = (board: string, revision: number): void =>
  remember(keyOf(board), JSON.stringify({ revision, at: new Date().toISOString() } satisfies Seen));
