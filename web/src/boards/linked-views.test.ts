import { expect, it } from 'vitest';
import { followed } from './linked-views.ts';

const camera = (x: number, y: number, scale: number) => ({ centre: { x, y }, scale });

it('goes the same way on the screen, and comes closer by the same factor, from wherever the other looks', () => {
  const [was, other] = [camera(100, 50, 2), camera(-30, 900, 0.5)];
  // 40 px to the right at 2 px a unit: 20 units; at 0.5 px a unit: 80.
  expect(followed(camera(120, 50, 2), was, other)).toEqual(camera(50, 900, 0.5));
  expect(followed(camera(100, 50, 6), was, other)).toEqual(camera(-30, 900, 1.5));
  expect(followed(was, was, other)).toEqual(other);
});
