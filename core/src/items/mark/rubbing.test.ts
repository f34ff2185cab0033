import { describe, expect, it } from 'vitest';
import { createMark, heightOf, isRubbed, type Mark, piecesLeft } from '../index.ts';

const straight = [0, 400].map((x) => ({ x, y: 100, pressure: 0.5 }));
const mark = createMark({
  ...{ id: 'm', stack: 'a0', ink: '#1d1d1b', smoothing: 0, seed: 7, pen: 'hard-pencil', nib: 4 },
  points: straight,
});
const ids = () => {
  let count = 0;
  return () => `n${++count}`;
};
/** From where to where a mark reaches across the board. */
const across = ({ centre, width }: Mark) => [centre.x - width / 2, centre.x + width / 2];
const through = (x: number) => ({
  path: [
    { x, y: 50 },
    { x, y: 150 },
  ],
  radius: 10,
});

describe('rubbing out', () => {
  it('leaves a piece on either side of what is rubbed, as it was drawn', () => {
    const pieces = piecesLeft({ ...mark, cluster: 'c' }, through(100), ids())!;
    expect(pieces.map(({ id }) => id)).toEqual(['n1', 'n2']);
    const [[, end], [start, last]] = pieces.map(across) as [number[], number[]];
    // A gap of twice the radius and the pen's width, but for round ends and steps.
    expect(Math.abs(end! - 88)).toBeLessThan(5);
    expect(Math.abs(start! - 112)).toBeLessThan(5);
    expect(Math.abs(last! - 402)).toBeLessThan(1);
    for (const piece of pieces) {
      expect(piece).toMatchObject({ stack: 'a0', ink: '#1d1d1b', cluster: 'c', pen: 'hard-pencil' });
      expect(Math.abs(heightOf(piece) - heightOf(mark))).toBeLessThan(0.1);
    }
  });

  it('goes with a mark that was turned, mirrored and sized', () => {
    const upright = { ...mark, turn: 90, flipX: true, width: mark.width / 2 };
    const { x, y } = mark.centre;
    const crossing = {
      path: [
        { x: x - 50, y: y + 50 },
        { x: x + 50, y: y + 50 },
      ],
      radius: 5,
    };
    const pieces = piecesLeft(upright, crossing, ids())!;
    expect(pieces).toHaveLength(2);
    const ends = pieces.flatMap(({ centre, width, proportion }) => [
      centre.y - (width * proportion) / 2,
      centre.y + (width * proportion) / 2,
    ]);
    expect(Math.abs(Math.min(...ends) - (y - 100))).toBeLessThan(2);
    expect(Math.abs(Math.max(...ends) - (y + 100))).toBeLessThan(2);
    expect(isRubbed(upright, { ...crossing, radius: 1 })).toBe(true);
  });

  it('of a hair in a line as long as a board is no matter of its length', () => {
    const long = createMark({
      ...{ id: 'l', stack: 'a0', ink: '#1d1d1b', smoothing: 0, seed: 7, pen: 'hard-pencil', nib: 0.02 },
      points: [0, 1_000_000].map((x) => ({ x, y: 0, pressure: 0.5 })),
    });
    const at = { path: [{ x: 300_000, y: 0 }], radius: 20 };
    const pieces = piecesLeft(long, at, ids())!;
    expect(pieces).toHaveLength(2);
    for (const { points } of pieces) expect(points.length / 3).toBeLessThan(40);
  });

  it('beside a mark rubs nothing; over all of it leaves nothing', () => {
    expect(piecesLeft(mark, through(450), ids())).toBeUndefined();
    expect(isRubbed(mark, through(450))).toBe(false);
    expect(piecesLeft(mark, { path: straight, radius: 6 }, ids())).toEqual([]);
  });
});
