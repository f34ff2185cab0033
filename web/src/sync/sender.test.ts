import { describe, expect, it } from 'vitest';
import type { OutboxEntry } from './browser-database.ts';
import { nextBatch } from './sender.ts';

const entry = (seq: number, board: string, operations = 1, text = ''): OutboxEntry => ({
  seq,
  kind: 'change',
  board,
  change: {
    id: String(seq),
    operations: Array.from({ length: operations }, () => ({ item: 'n', set: { text } })),
  },
});
const seqs = (entries: readonly OutboxEntry[]) => nextBatch(entries).map(({ seq }) => seq);

describe('the next batch', () => {
  it('holds changes of one board in a row, and ends where another board or a patch begins', () => {
    expect(seqs([entry(1, 'a'), entry(2, 'a'), entry(3, 'b'), entry(4, 'a')])).toEqual([1, 2]);
    expect(seqs([entry(1, 'a'), { seq: 2, kind: 'patch', path: '/', body: {} }, entry(3, 'a')])).toEqual([1]);
    expect(seqs([{ seq: 2, kind: 'patch', path: '/', body: {} }])).toEqual([]);
    expect(seqs([])).toEqual([]);
  });

  it('stays within the operations and bytes of a request, but always sends one', () => {
    expect(seqs([entry(1, 'a', 15_000), entry(2, 'a', 6_000)])).toEqual([1]);
    expect(seqs([entry(1, 'a', 20_000), entry(2, 'a', 1)])).toEqual([1]);
    const large = 'x'.repeat(5_000_000);
    expect(seqs([entry(1, 'a', 1, large), entry(2, 'a', 1, large)])).toEqual([1]);
    expect(seqs([entry(1, 'a', 4, large)])).toEqual([1]);
  });
});
