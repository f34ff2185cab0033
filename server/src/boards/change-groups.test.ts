import { CHANGE_LIMITS, type ChangeOutcome } from '@miradero/core/schema';
import { describe, expect, it } from 'vitest';
import { ChangeGroups } from './change-groups.ts';

/** A change with so many operations; groups look at nothing else of it. */
const change = (id: string, operations = 1) => ({ id, operations: Array.from({ length: operations }) });
const idOf = (value: object) => (value as { id: string }).id;

/** Writes once the test says so; what is `bad` fails, with everything it is written with. */
function writer(bad: readonly string[] = []) {
  const groups: string[][] = [];
  const open: (() => void)[] = [];
  let revision = 0;
  return {
    groups,
    async write(_owner: string, _board: string, changes: readonly object[]): Promise<ChangeOutcome[]> {
      const ids = changes.map(idOf);
      groups.push(ids);
      await new Promise<void>((resolve) => open.push(resolve));
      const fault = ids.find((id) => bad.includes(id));
      if (fault) throw new Error(`${fault} cannot be written`);
      return ids.map((id) => {
        revision += 1;
        return { id, revision };
      });
    },
    /** Ends what is being written, and lets what follows begin. */
    async next() {
      open.shift()!();
      await new Promise((resolve) => setImmediate(resolve));
    },
  };
}

describe('changes of one board', () => {
  it('that come while others are written are written together, and answered each to whom it came from', async () => {
    const { groups, write, next } = writer();
    const accept = new ChangeGroups(write);
    const answers = [
      accept.accept('o', 'b', [change('1')]),
      accept.accept('o', 'b', [change('2'), change('3')]),
      accept.accept('o', 'b', []),
      accept.accept('o', 'b', [change('4')]),
    ];
    let isAnswered = false;
    void answers[3]!.then(() => {
      isAnswered = true;
    });
    await next();
    expect(groups).toEqual([['1'], ['2', '3', '4']]);
    expect(isAnswered).toBe(false);
    await next();
    expect(await Promise.all(answers)).toEqual([
      [{ id: '1', revision: 1 }],
      [
        { id: '2', revision: 2 },
        { id: '3', revision: 3 },
      ],
      [],
      [{ id: '4', revision: 4 }],
    ]);
    // Nobody waits any more: the next one is written at once.
    const last = accept.accept('o', 'b', [change('5')]);
    expect(groups.at(-1)).toEqual(['5']);
    await next();
    await last;
  });

  it('of a group that fails are written one by one: only what is at fault has the trouble', async () => {
    const { groups, write, next } = writer(['3']);
    const accept = new ChangeGroups(write);
    const answers = ['1', '2', '3', '4'].map((id) => accept.accept('o', 'b', [change(id)]));
    const settled = Promise.allSettled(answers);
    for (let turn = 0; turn < 5; turn += 1) await next();
    expect(groups).toEqual([['1'], ['2', '3', '4'], ['2'], ['3'], ['4']]);
    expect((await settled).map(({ status }) => status)).toEqual([
      'fulfilled',
      'fulfilled',
      'rejected',
      'fulfilled',
    ]);
    await expect(answers[2]).rejects.toThrow('3 cannot be written');
  });

  it('wait for no other board, nor for another owner', async () => {
    const { groups, write, next } = writer();
    const accept = new ChangeGroups(write);
    const answers = [
      accept.accept('o', 'b', [change('1')]),
      accept.accept('o', 'c', [change('2')]),
      accept.accept('p', 'b', [change('3')]),
    ];
    expect(groups).toEqual([['1'], ['2'], ['3']]);
    for (let turn = 0; turn < 3; turn += 1) await next();
    await Promise.all(answers);
  });

  it('are no larger a group than one request may be', async () => {
    const { groups, write, next } = writer();
    const accept = new ChangeGroups(write);
    const half = CHANGE_LIMITS.operations / 2;
    const answers = [
      accept.accept('o', 'b', [change('1')]),
      ...['2', '3', '4'].map((id) => accept.accept('o', 'b', [change(id, half)])),
      accept.accept('o', 'b', [change('5', CHANGE_LIMITS.operations * 2)]),
    ];
    for (let turn = 0; turn < 4; turn += 1) await next();
    expect(groups).toEqual([['1'], ['2', '3'], ['4'], ['5']]);
    await Promise.all(answers);
    await expect(accept.accept('o', 'b', [change('6', half), change('7', half + 1)])).rejects.toThrow();
  });
});
