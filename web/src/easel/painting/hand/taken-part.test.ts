import type { Affine } from '@miradero/core/geometry';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Desk } from '../../../desk/index.ts';
import type { Painting } from '../sheet/painting.ts';
import { TakenPart } from './taken-part.ts';

const BOUNDS = { x: 10, y: 20, width: 100, height: 50 };

let carried: Affine[];
let said: string[];
let done: string[];
let isTaking: boolean;
let part: TakenPart;
beforeEach(() => {
  [carried, said, done, isTaking] = [[], [], [], false];
  const painting = {
    get isTaking() {
      return isTaking;
    },
    carry: (to: Affine) => carried.push(to),
    cancel: () => done.push('cancel'),
    discard: () => done.push('discard'),
  };
  const desk = { say: (words: string) => said.push(words) };
  part = new TakenPart(desk as unknown as Desk, painting as unknown as Painting);
});

describe('a part that was taken', () => {
  it('is carried by keys, one after the other', () => {
    part.follow(BOUNDS);
    part.nudge(10, 0);
    part.follow(BOUNDS);
    part.nudge(0, -1);
    expect(carried).toEqual([
      [1, 0, 0, 1, 10, 0],
      [1, 0, 0, 1, 10, -1],
    ]);
  });

  it('also by keys that are pressed before it is known what was taken', () => {
    isTaking = true;
    part.nudge(10, 0);
    part.nudge(0, 10);
    part.follow(null);
    expect([carried, said]).toEqual([[], []]);
    isTaking = false;
    part.follow(BOUNDS);
    expect(carried).toEqual([[1, 0, 0, 1, 10, 10]]);
  });

  it('but not by those where nothing was there to be taken', () => {
    isTaking = true;
    part.nudge(10, 0);
    isTaking = false;
    part.follow(null);
    part.follow(BOUNDS);
    expect(carried).toEqual([]);
    part.nudge(1, 0);
    expect(carried).toEqual([[1, 0, 0, 1, 1, 0]]);
  });

  it('is put back or taken away, and nothing else is', () => {
    expect(part.putBack()).toBe(false);
    part.remove();
    part.nudge(1, 1);
    expect(said).toHaveLength(2);
    part.follow(BOUNDS);
    expect(part.putBack()).toBe(true);
    part.remove();
    expect(done).toEqual(['cancel', 'discard']);
    part.follow(null);
    expect(part.isThere).toBe(false);
  });
});
