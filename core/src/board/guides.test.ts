import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Rectangle } from '../geometry/index.ts';
import { alignTo } from './index.ts';

const box = (x: number, y: number, width = 100, height = 60): Rectangle => ({ x, y, width, height });
const rectangle = fc.record({
  x: fc.integer({ min: -400, max: 400 }),
  y: fc.integer({ min: -400, max: 400 }),
  width: fc.integer({ min: 10, max: 200 }),
  height: fc.integer({ min: 10, max: 200 }),
});

describe('lining up', () => {
  it('brings an edge to a neighbour’s edge, each axis on its own', () => {
    const { delta, guides } = alignTo(box(103, 204), [box(0, 0)], 6);
    // Left edge 103 to the right edge 100; nothing within reach along y.
    expect(delta).toEqual({ x: -3, y: 0 });
    expect(guides).toEqual([{ kind: 'edge', from: { x: 100, y: 0 }, to: { x: 100, y: 264 } }]);
  });

  it('brings centre to centre where that is nearer than any edge', () => {
    const { delta, guides } = alignTo(box(22, 300, 60), [box(0, 0)], 6);
    expect(delta.x).toBe(-2);
    expect(guides[0]).toMatchObject({ kind: 'centre', from: { x: 50 }, to: { x: 50 } });
  });

  it('makes the gap to a neighbour equal to that between two neighbours', () => {
    const { delta, guides } = alignTo(box(263, 3), [box(0, 0), box(130, 0)], 6);
    expect(delta).toEqual({ x: -3, y: -3 });
    const gaps = guides.filter(({ kind }) => kind === 'gap');
    expect(gaps.map(({ from, to }) => to.x - from.x)).toEqual([30, 30]);
  });

  it('lies even between two neighbours', () => {
    const { delta, guides } = alignTo(box(197, 10), [box(0, 0), box(400, 0)], 6);
    expect(delta.x).toBe(3);
    expect(guides.filter(({ kind }) => kind === 'gap').map(({ from, to }) => to.x - from.x)).toEqual([
      100, 100,
    ]);
  });

  it('does nothing out of reach', () => {
    expect(alignTo(box(1000, 1000), [box(0, 0)], 6)).toEqual({ delta: { x: 0, y: 0 }, guides: [] });
  });

  it('never moves further than its reach, and what it moved there stays there', () => {
    fc.assert(
      fc.property(rectangle, fc.array(rectangle, { maxLength: 6 }), (moving, standing) => {
        const { delta } = alignTo(moving, standing, 8);
        expect(Math.abs(delta.x)).toBeLessThanOrEqual(8);
        expect(Math.abs(delta.y)).toBeLessThanOrEqual(8);
        const moved = { ...moving, x: moving.x + delta.x, y: moving.y + delta.y };
        const isAligned = (a: number, b: number) => Math.abs(a - b) < 1e-9;
        // Every guide of an edge or centre touches the thing that moved.
        for (const { kind, from, to } of alignTo(moved, standing, 0.001).guides) {
          if (kind === 'gap') continue;
          const isUpright = isAligned(from.x, to.x);
          const own = isUpright
            ? [moved.x, moved.x + moved.width / 2, moved.x + moved.width]
            : [moved.y, moved.y + moved.height / 2, moved.y + moved.height];
          expect(own.some((at) => isAligned(at, isUpright ? from.x : from.y))).toBe(true);
        }
      }),
    );
  });
});
