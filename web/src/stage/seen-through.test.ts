import { describe, expect, it } from 'vitest';
import { SeenThrough } from './worker/seen-through.ts';

const look = (width: number, height: number) => ({ width, height });

describe('what was seen through lenses', () => {
  it('is known as it was seen, and not otherwise', () => {
    const seen = new SeenThrough<string, ReturnType<typeof look>>(1_000);
    const first = look(10, 10);
    seen.keep('heron', 'values at 2', first);
    expect(seen.find('heron', 'values at 2')).toBe(first);
    expect(seen.find('heron', 'values at 3')).toBeUndefined();
    expect(seen.find('reed', 'values at 2')).toBeUndefined();
  });

  it('is the last of each: another look takes its place, and its pixels', () => {
    const seen = new SeenThrough<string, ReturnType<typeof look>>(1_000);
    seen.keep('heron', 'values', look(20, 20));
    seen.keep('heron', 'squint', look(10, 10));
    expect(seen.pixels).toBe(100);
    expect(seen.find('heron', 'values')).toBeUndefined();
  });

  it('makes room by what was used longest ago; what is larger than all room is not kept', () => {
    const seen = new SeenThrough<string, ReturnType<typeof look>>(300);
    for (const name of ['a', 'b', 'c']) seen.keep(name, 'values', look(10, 10));
    seen.find('a', 'values');
    seen.keep('d', 'values', look(10, 10));
    expect(['a', 'b', 'c', 'd'].filter((name) => seen.find(name, 'values'))).toEqual(['a', 'c', 'd']);
    seen.keep('e', 'values', look(100, 100));
    expect(seen.find('e', 'values')).toBeUndefined();
    expect(seen.pixels).toBe(0);
  });
});
