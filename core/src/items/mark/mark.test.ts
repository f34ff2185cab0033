import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { penOf, strokeOutline } from '../../freehand/index.ts';
import { boundsOfPoints } from '../../geometry/index.ts';
import { createMark, drawnOf, heightOf, kindOf, type Mark, MOST_STROKE_POINTS } from '../index.ts';

const start = {
  id: 'm',
  stack: 'a0',
  ink: '#1d1d1b',
  smoothing: 0.4,
  seed: 7,
  pen: 'hard-pencil',
  nib: 4,
} as const;
const line = [
  { x: 100, y: 50, pressure: 0.5 },
  { x: 180, y: 70, pressure: 0.8 },
  { x: 300, y: 40, pressure: 0.2 },
];
/** A way of a hand: from step to step it turns a little: at a corner the pen turns on the spot, or not. */
const way = fc
  .array(fc.record({ turn: fc.integer({ min: -40, max: 40 }), pressure: fc.integer({ min: 0, max: 10 }) }), {
    minLength: 1,
    maxLength: 30,
  })
  .map((steps) => {
    let [x, y, heading] = [40, -20, 0];
    return steps.map(({ turn, pressure }) => {
      heading += (turn * Math.PI) / 180;
      x += 12 * Math.cos(heading);
      y += 12 * Math.sin(heading);
      return { x, y, pressure: pressure / 10 };
    });
  });

/** Where what a mark shows lies, board units. */
function boundsOfDrawn(mark: Mark) {
  const { primitives } = drawnOf(mark);
  const figures = primitives.flatMap((one) =>
    one.kind === 'path' && one.fill ? (one.d.match(/-?\d+(?:\.\d+)?(?:e-?\d+)?/g) ?? []).map(Number) : [],
  );
  const points = figures.flatMap((x, at) => (at % 2 === 0 ? [{ x, y: figures[at + 1]! }] : []));
  const { x, y, width, height } = boundsOfPoints(points);
  const [left, top] = [mark.centre.x - mark.width / 2, mark.centre.y - heightOf(mark) / 2];
  return { x: x + left, y: y + top, width, height };
}

describe('a mark', () => {
  it('lies where the hand drew it, its frame as narrow as what the pen leaves', () => {
    fc.assert(
      fc.property(
        way,
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 0, max: 10 }).map((tenths) => tenths / 10),
        (points, nib, smoothing) => {
          const mark = createMark({ ...start, points, nib, smoothing });
          const wanted = boundsOfPoints(strokeOutline(points, { pen: penOf('hard-pencil'), nib, smoothing }));
          const drawn = boundsOfDrawn(mark);
          // Points lie on whole parts of the longer side: corners of the outline may be others, within half a pen.
          const slack = Math.max(mark.width, heightOf(mark)) / 1_000 + nib / 2;
          for (const side of ['x', 'y', 'width', 'height'] as const)
            expect(Math.abs(drawn[side] - wanted[side])).toBeLessThan(slack + 0.02);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is as wide as the pen was pressed, and evenly where pressure does nothing', () => {
    const straight = (pressure: number) => [0, 50, 100, 150, 200].map((x) => ({ x, y: 0, pressure }));
    const heightAt = (pressure: number, pen: Mark['pen']) =>
      heightOf(createMark({ ...start, pen, nib: 10, smoothing: 0, points: straight(pressure) }));
    expect(heightAt(1, 'hard-pencil')).toBeGreaterThan(1.5 * heightAt(0.2, 'hard-pencil'));
    expect(heightAt(1, 'wash')).toBeCloseTo(heightAt(0.2, 'wash'), 3);
  });

  it('is taken hold of on its line, not beside it', () => {
    const mark = createMark({ ...start, points: line });
    const at = ({ x, y }: { x: number; y: number }) => ({
      x: (x - mark.centre.x) / mark.width + 0.5,
      y: (y - mark.centre.y) / heightOf(mark) + 0.5,
    });
    expect(kindOf(mark).covers!(mark, at({ x: 140, y: 60 }))).toBe(true);
    expect(kindOf(mark).covers!(mark, at({ x: 140, y: 44 }))).toBe(false);
  });

  it('mirrored twice is as it was; restored, as opaque as its pen', () => {
    const mark = createMark({ ...start, pen: 'wash', points: line });
    const kind = kindOf(mark);
    const once = { ...mark, ...kind.mirrored!(mark, 'flipX') } as Mark;
    expect(once.flipX).toBe(true);
    expect({ ...once, ...kind.mirrored!(once, 'flipX') }).toEqual(mark);
    expect({ ...once, opacity: 1, ...kind.restored!(once) }).toEqual(mark);
  });

  it('of a dot, of one that never ended, and of one that stood still can be drawn', () => {
    for (const points of [
      [line[0]!],
      [line[0]!, line[0]!, line[0]!],
      Array.from({ length: 3 * MOST_STROKE_POINTS }, (_, at) => ({
        x: at % 700,
        y: at / 20,
        pressure: 0.5,
      })),
    ]) {
      const mark = createMark({ ...start, points });
      expect(mark.points.length).toBeLessThanOrEqual(4 * MOST_STROKE_POINTS);
      expect(mark.width).toBeGreaterThan(0);
      expect(drawnOf(mark).primitives).toHaveLength(2);
    }
  });

  it('has an edge that stands off from any ground, where the pen is no wash', () => {
    const edgesOf = (mark: Mark) =>
      drawnOf(mark).primitives.flatMap((one) =>
        one.kind === 'path' && one.stroke ? [one.stroke.colour] : [],
      );
    expect(edgesOf(createMark({ ...start, points: line }))).toEqual(['#fafaf9']);
    expect(edgesOf(createMark({ ...start, ink: '#f0e6d0', points: line }))).toEqual(['#1d1d1b']);
    expect(edgesOf(createMark({ ...start, pen: 'wash', points: line }))).toEqual([]);
  });
});
