import { describe, expect, it } from 'vitest';
import { createNote } from '../items/index.ts';
import { boundsOf } from './item-geometry.ts';
import { placeWords, rowsOf, stepFrom } from './reading-order.ts';

/** Notes of given size about given centres; nothing else of them matters. */
const stood = (
  places: Readonly<Record<string, readonly [x: number, y: number, width: number, height: number]>>,
) =>
  Object.entries(places).map(([id, [x, y, width, height]]) =>
    createNote({ id, stack: 'a', text: '', centre: { x, y }, width, height }),
  );

describe('reading order', () => {
  const items = stood({
    c: [300, 4, 100, 90],
    a: [0, 0, 100, 100],
    b: [150, -10, 100, 60],
    d: [40, 160, 100, 100],
    e: [320, 150, 80, 80],
    // So high that it reaches down beside the second row; it begins in the first.
    f: [480, 60, 60, 240],
  });
  const bounds = new Map(items.map((item) => [item.id, boundsOf(item)]));
  const step = (from: string | undefined, to: 'left' | 'right' | 'up' | 'down') =>
    stepFrom(rowsOf(items), (id) => bounds.get(id)!, from, to);

  it('goes by rows, though nothing stands on one line', () => {
    expect(rowsOf(items)).toEqual([
      ['a', 'b', 'c', 'f'],
      ['d', 'e'],
    ]);
  });

  it('is the same whatever the order in which things were made', () => {
    expect(rowsOf([...items].reverse())).toEqual(rowsOf(items));
  });

  it('holds every item once, however many lie on each other', () => {
    const heap = stood(
      Object.fromEntries(Array.from({ length: 300 }, (_, n) => [`n${n}`, [n % 7, n % 5, 50, 50]])),
    );
    expect(rowsOf(heap).flat().sort()).toEqual(heap.map(({ id }) => id).sort());
  });

  it('is walked on and back, and nearest up and down', () => {
    expect(step(undefined, 'right')).toBe('a');
    expect(step(undefined, 'left')).toBe('e');
    expect(step('a', 'right')).toBe('b');
    expect(step('a', 'left')).toBe('a');
    expect(step('e', 'right')).toBe('e');
    expect(step('c', 'down')).toBe('e');
    expect(step('d', 'up')).toBe('a');
    expect(step('gone', 'right')).toBe('a');
    expect(stepFrom([], () => ({ x: 0, y: 0, width: 0, height: 0 }), undefined, 'right')).toBeUndefined();
  });
});

describe('a place in words', () => {
  const whole = { x: 0, y: 0, width: 300, height: 300 };
  it('tells the third in which the middle lies', () => {
    const at = (x: number, y: number) => placeWords({ x: x - 5, y: y - 5, width: 10, height: 10 }, whole);
    expect(at(20, 20)).toBe('upper left');
    expect(at(150, 150)).toBe('middle');
    expect(at(280, 150)).toBe('middle right');
    expect(at(150, 290)).toBe('lower middle');
    expect(placeWords({ x: 5, y: 5, width: 0, height: 0 }, { x: 5, y: 5, width: 0, height: 0 })).toBe(
      'middle',
    );
  });
});
