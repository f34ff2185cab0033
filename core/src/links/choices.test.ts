import { describe, expect, it } from 'vitest';
import { boardAfter, boundsOf, clusterOf, isStanding } from '../board/index.ts';
import { overlaps } from '../geometry/index.ts';
import { createPlacement, type Item, isCluster, isNote, isPlacement } from '../items/index.ts';
import { choicesOnBoard, type GuestSaid } from './index.ts';

const MARA = 'b9f6a7ce-4f0e-4b0e-9b52-7b3c0f1f7c11';
const picture = (id: string, x: number) =>
  createPlacement({
    ...{ id, stack: `a${x / 100}`, picture: `p-${id}`, pictureWidth: 400, pictureHeight: 300 },
    ...{ centre: { x, y: 0 }, width: 200 },
  });
const board = new Map<string, Item>(
  [
    picture('a', 0),
    picture('b', 300),
    { ...picture('c', 600), turn: 20, opacity: 0.5 },
    picture('d', 900),
  ].map((one) => [one.id, one]),
);
const said = (more: Partial<GuestSaid> = {}): GuestSaid => ({
  ...{ id: MARA, name: 'Mara Quill', remarks: [] },
  choices: new Map([
    ['a', 'yes'],
    ['c', 'yes'],
    ['d', 'no'],
  ] as const),
  ...more,
});
const standing = (now: ReadonlyMap<string, Item>) => [...now.values()].filter(isStanding);
const titled = (now: ReadonlyMap<string, Item>, title: string) =>
  standing(now).find((item) => isCluster(item) && item.title === title)!;
const within = (now: ReadonlyMap<string, Item>, title: string) =>
  standing(now).filter((item) => clusterOf(now, item)?.id === titled(now, title)?.id);

describe('what somebody said by a link', () => {
  it('comes onto the board as clusters of copies, upright and of one height, beside everything else', () => {
    const now = boardAfter(board, choicesOnBoard(board, said()));
    expect(
      within(now, 'Mara Quill: yes')
        .filter(isPlacement)
        .map((one) => one.picture)
        .sort(),
    ).toEqual(['p-a', 'p-c']);
    expect(
      within(now, 'Mara Quill: no')
        .filter(isPlacement)
        .map((one) => one.picture),
    ).toEqual(['p-d']);
    for (const one of within(now, 'Mara Quill: yes')) expect([one.turn, one.opacity]).toEqual([0, 1]);
    for (const [id, item] of board) expect(now.get(id)).toEqual(item);
    const [yes, no] = [titled(now, 'Mara Quill: yes'), titled(now, 'Mara Quill: no')].map(boundsOf);
    expect(overlaps(yes!, no!)).toBe(false);
    for (const item of board.values()) expect(overlaps(boundsOf(item), yes!)).toBe(false);
  });

  it('has remarks below their pictures; those on the board as a whole, or on what is gone, stand with them', () => {
    const remarks = [
      { id: '1', item: 'a', text: 'The rim!' },
      { id: '2', item: null, text: 'All too warm' },
      { id: '3', item: 'nobody', text: 'This one' },
      { id: '4', item: 'b', text: 'Neither, but look' },
    ];
    const now = boardAfter(board, choicesOnBoard(board, said({ remarks })));
    const all = within(now, 'Mara Quill: yes');
    expect(
      all
        .filter(isNote)
        .map(({ text }) => text)
        .sort(),
    ).toEqual([...['All too warm', 'Neither, but look', 'The rim!', 'This one']]);
    const rim = all.find((one) => isNote(one) && one.text === 'The rim!')!;
    const lamp = all.find((one) => isPlacement(one) && one.picture === 'p-a')!;
    expect(boundsOf(rim).y).toBeGreaterThanOrEqual(boundsOf(lamp).y + boundsOf(lamp).height);
    for (const [index, one] of all.entries())
      for (const other of all.slice(index + 1)) expect(overlaps(boundsOf(one), boundsOf(other))).toBe(false);
  });

  it('said again takes the place of what it was, where it was put meanwhile', () => {
    const first = boardAfter(board, choicesOnBoard(board, said()));
    const cluster = titled(first, 'Mara Quill: yes');
    const moved = boardAfter(first, [
      { item: cluster.id, set: { centre: { x: cluster.centre.x, y: cluster.centre.y + 5_000 } } },
    ]);
    const again = boardAfter(
      moved,
      choicesOnBoard(moved, said({ choices: new Map([['b', 'yes']] as const) })),
    );
    expect(
      within(again, 'Mara Quill: yes')
        .filter(isPlacement)
        .map((one) => one.picture),
    ).toEqual(['p-b']);
    expect(titled(again, 'Mara Quill: no')).toBeUndefined();
    expect(boundsOf(titled(again, 'Mara Quill: yes')).y).toBeGreaterThan(4_000);
    const nothing = boardAfter(again, choicesOnBoard(again, said({ choices: new Map() })));
    expect(standing(nothing)).toHaveLength(4);
    expect(choicesOnBoard(nothing, said({ choices: new Map() }))).toEqual([]);
  });

  it('said again as it was alters nothing', () => {
    const odd = new Map(
      [...board].map(([id, item]) => [
        id,
        { ...item, centre: { x: item.centre.x / 3 + 0.1, y: 1 / 7 }, width: 200 / 3 },
      ]),
    ) as ReadonlyMap<string, Item>;
    const remarks = [
      { id: '1', item: 'a', text: 'The rim!' },
      { id: '2', item: null, text: 'All too warm' },
    ];
    const once = boardAfter(odd, choicesOnBoard(odd, said({ remarks })));
    const twice = boardAfter(once, choicesOnBoard(once, said({ remarks })));
    expect(choicesOnBoard(twice, said({ remarks }))).toEqual([]);
    expect(choicesOnBoard(once, said({ remarks }))).toEqual([]);
  });

  it('of two people stands apart', () => {
    const other = said({ id: 'c0f6a7ce-4f0e-4b0e-9b52-7b3c0f1f7c12', name: 'Odra' });
    const one = boardAfter(board, choicesOnBoard(board, said()));
    const both = boardAfter(one, choicesOnBoard(one, other));
    expect(overlaps(boundsOf(titled(both, 'Mara Quill: yes')), boundsOf(titled(both, 'Odra: yes')))).toBe(
      false,
    );
    expect(within(both, 'Mara Quill: yes')).toHaveLength(2);
  });
});
