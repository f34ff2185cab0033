import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { munsellValueToGrey8 } from '../colour/index.ts';
import { areaOf } from '../items/index.ts';
import type { Pixels } from './pixels.ts';
import {
  pixelsOfStudy,
  shapesOf,
  simplified,
  studyToSvg,
  studyValues,
  type ValueStudy,
} from './value-study.ts';

/** A picture of greys given by their Munsell values. */
function picture(rows: readonly (readonly number[])[]): Pixels {
  const levels = rows.flat().map(munsellValueToGrey8);
  return {
    ...{ width: rows[0]!.length, height: rows.length },
    data: Uint8ClampedArray.from(levels.flatMap((level) => [level, level, level, 255])),
  };
}
const study = (labels: readonly (readonly number[])[]): ValueStudy => ({
  ...{ width: labels[0]!.length, height: labels.length, labels: Uint8Array.from(labels.flat()) },
  ...{ borders: [5], shares: [0.5, 0.5], greys: [60, 200] },
});
const mask = fc
  .integer({ min: 2, max: 9 })
  .chain((width) =>
    fc.array(fc.array(fc.nat(1), { minLength: width, maxLength: width }), { minLength: 2, maxLength: 9 }),
  );

describe('a value study', () => {
  it('puts an exact ramp into steps of equal height, with their shares', () => {
    // Two values in the middle of each of five steps.
    const ramp = picture([[1, 1, 3, 3, 5, 5, 7, 7, 9, 9]]);
    const { labels, shares, greys, borders } = studyValues(ramp, {
      steps: 5,
      borders: 'equal',
      leastIsland: 0,
    });
    expect([...labels]).toEqual([0, 0, 1, 1, 2, 2, 3, 3, 4, 4]);
    expect(shares).toEqual([0.2, 0.2, 0.2, 0.2, 0.2]);
    expect(borders).toEqual([2, 4, 6, 8]);
    expect(greys).toEqual([1, 3, 5, 7, 9].map(munsellValueToGrey8));
  });

  it('parts where values part by themselves, or where it is told', () => {
    const two = picture([[2, 2.2, 2.4, 3.8, 4, 4.2]]);
    expect([...studyValues(two, { steps: 2, borders: 'natural', leastIsland: 0 }).labels]).toEqual([
      0, 0, 0, 1, 1, 1,
    ]);
    expect([...studyValues(two, { steps: 2, borders: [4.1], leastIsland: 0 }).labels]).toEqual([
      0, 0, 0, 0, 0, 1,
    ]);
  });

  it('joins small islands with what they lie in, and keeps large ones', () => {
    const rows = Array.from({ length: 9 }, () => Array<number>(9).fill(2));
    rows[1]![1] = 8;
    for (let y = 4; y < 8; y += 1) for (let x = 4; x < 8; x += 1) rows[y]![x] = 8;
    const { labels, shares } = studyValues(picture(rows), { steps: 2, borders: 'equal', leastIsland: 5 });
    expect(labels[10]).toBe(0);
    expect(labels[5 * 9 + 5]).toBe(1);
    expect(shares[1]).toBeCloseTo(16 / 81);
  });

  it('leaves no island that is smaller than was said, but where there is nothing else', () => {
    fc.assert(
      fc.property(mask, fc.integer({ min: 2, max: 6 }), (rows, least) => {
        const values = rows.map((row) => row.map((one) => (one === 0 ? 2 : 8)));
        const { labels, width } = studyValues(picture(values), {
          steps: 2,
          borders: 'equal',
          leastIsland: least,
        });
        const isOne = new Set(labels).size === 1;
        // Seen from each pixel: it reaches at least so many of its own.
        for (let start = 0; !isOne && start < labels.length; start += 1) {
          const reached = new Set([start]);
          for (const at of reached)
            for (const next of [
              at % width > 0 ? at - 1 : -1,
              at % width < width - 1 ? at + 1 : -1,
              at - width,
              at + width,
            ])
              if (next >= 0 && next < labels.length && labels[next] === labels[at]) reached.add(next);
          expect(reached.size).toBeGreaterThanOrEqual(Math.min(least, labels.length));
        }
      }),
    );
  });

  it('is pixels of its greys', () => {
    const { data } = pixelsOfStudy(study([[0, 1]]));
    expect([...data]).toEqual([60, 60, 60, 255, 200, 200, 200, 255]);
  });
});

describe('shapes', () => {
  it('enclose exactly the pixels of their step and those above', () => {
    fc.assert(
      fc.property(mask, (rows) => {
        const enclosed = shapesOf(study(rows), 1).reduce((sum, shape) => sum + signed(shape), 0);
        expect(enclosed).toBe(rows.flat().reduce<number>((sum, one) => sum + one, 0));
      }),
    );
  });

  it('lose corners, and move by no more than is allowed', () => {
    const steps = Array.from({ length: 40 }, (_, index) => [
      { x: index, y: index },
      { x: index + 1, y: index },
    ]).flat();
    const stairs = [...steps, { x: 40, y: 40 }, { x: 0, y: 40 }];
    const fewer = simplified(stairs, 1);
    expect(fewer.length).toBeLessThan(8);
    expect(areaOf(fewer) / areaOf(stairs)).toBeCloseTo(1, 1);
    expect(simplified(stairs, 0.2).length).toBeGreaterThan(40);
  });

  it('are written as SVG, the darkest below all', () => {
    const svg = studyToSvg(
      study([
        [0, 0, 0],
        [0, 1, 0],
        [0, 0, 0],
      ]),
      0.1,
    );
    expect(svg).toContain('<rect width="3" height="3" fill="#3c3c3c"/>');
    expect(svg).toMatch(/<path fill="#c8c8c8" fill-rule="evenodd" d="M[12] [12]L/);
  });
});

/** Area of a closed line, below 0 where it runs the other way. */
const signed = (shape: readonly { readonly x: number; readonly y: number }[]): number =>
  shape.reduce((sum, at, index) => {
    const next = shape[(index + 1) % shape.length]!;
    return sum + at.x * next.y - next.x * at.y;
  }, 0) / 2;
