import { useState } from 'react';
import { recall, remember } from '../state/index.ts';

const KEY = 'miradero-panes-of-boards';
/** No pane is less of the room than this. */
const LEAST = 0.12;

interface Arranged {
  readonly isStacked: boolean;
  /** Of each in the order of the panes, by how many there are; they sum up to 1. */
  readonly shares: Readonly<Record<number, readonly number[]>>;
}

const EVEN: Arranged = { isStacked: false, shares: {} };

function read(): Arranged {
  try {
    const kept = JSON.parse(recall(KEY) ?? '') as Partial<Arranged>;
    const shares = Object.entries(kept.shares ?? {}).filter(
      ([count, of]) =>
        Array.isArray(of) &&
        of.length === Number(count) &&
        of.every((one) => Number.isFinite(one) && one > 0),
    );
    return { isStacked: kept.isStacked === true, shares: Object.fromEntries(shares) };
  } catch {
    return EVEN;
  }
}

/** Moves the line between two neighbours so that it lies at `at`, a share of the whole room; the others stay. */
export function withLineAt(shares: readonly number[], line: number, at: number): readonly number[] {
  const before = shares.slice(0, line).reduce((sum, one) => sum + one, 0);
  const both = shares[line]! + shares[line + 1]!;
  const least = Math.min(LEAST, both / 2);
  const first = Math.min(both - least, Math.max(least, at - before));
  return shares.map((one, index) => (index === line ? first : index === line + 1 ? both - first : one));
}

/** How boards share the room in which they stand together, kept in this browser. */
export function usePaneShares(count: number) {
  const [arranged, setArranged] = useState(read);
  const keep = (next: Arranged) => {
    setArranged(next);
    remember(KEY, JSON.stringify(next));
  };
  const shares = arranged.shares[count] ?? Array.from({ length: count }, () => 1 / count);
  return {
    shares,
    isStacked: arranged.isStacked,
    moveLine(line: number, at: number) {
      keep({ ...arranged, shares: { ...arranged.shares, [count]: withLineAt(shares, line, at) } });
    },
    turn: () => keep({ ...arranged, isStacked: !arranged.isStacked }),
  };
}
