import { expect, it } from 'vitest';
import type { PaintFacts } from '../messages.ts';
import { Takings } from './takings.ts';

const taken = { x: 1, y: 2, width: 3, height: 4 };
const told = (takes: number) => ({ taken, takes }) as PaintFacts;

it('is carried from when the worker tells of it until something else is done', () => {
  const takings = new Takings();
  expect(takings.isUnderWay(told(0))).toBe(false);
  const first = takings.add();
  expect([takings.isUnderWay(told(0)), takings.carriedOf(told(0))]).toEqual([true, null]);
  expect([takings.isUnderWay(told(first)), takings.carriedOf(told(first))]).toEqual([false, taken]);
  // What does not alter the sheet ends nothing.
  expect(takings.endBy('look')).toBe(false);
  expect(takings.carriedOf(told(first))).toEqual(taken);
  expect(takings.endBy('begin')).toBe(true);
  expect([takings.isUnderWay(told(first)), takings.carriedOf(told(first))]).toEqual([false, null]);
});

it('that was taken anew is not what the worker still tells of before', () => {
  const takings = new Takings();
  const first = takings.add();
  const second = takings.add();
  expect([takings.isUnderWay(told(first)), takings.carriedOf(told(first))]).toEqual([true, null]);
  expect(takings.carriedOf(told(second))).toEqual(taken);
  takings.add();
  // It was ended before it was known what it is.
  takings.endBy('settle');
  expect([takings.isUnderWay(told(second)), takings.carriedOf(told(3))]).toEqual([false, null]);
});
