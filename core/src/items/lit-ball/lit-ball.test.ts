import { describe, expect, it } from 'vitest';
import { NO_COLOURS } from '../../light/index.ts';
import { createLitBall, drawnOf, heightOf, wordsOf } from '../index.ts';

const colours = { ...NO_COLOURS, light: '#d8b080', 'core shadow': '#402820', 'cast shadow': '#201818' };
const ball = createLitBall({
  ...{ id: 'b', stack: 'a0', centre: { x: 0, y: 0 }, title: 'Reed channel' },
  ...{ colours, direction: { azimuthDeg: 315, elevationDeg: 30 }, width: 480 },
});

describe('a lit ball on a board', () => {
  it('is painted in its colours, beside patches of them, above its title', () => {
    const { primitives, height } = drawnOf(ball);
    const fills = primitives.flatMap((one) => (one.kind === 'path' ? [one.fill] : []));
    expect(height).toBe(heightOf(ball));
    expect(fills.slice(-4)).toEqual(['#d8b080', '#402820', '#201818', '#fafaf9']);
    for (const hex of ['#d8b080', '#402820', '#201818']) expect(fills.slice(0, -4)).toContain(hex);
    expect(wordsOf(ball, () => undefined)).toBe(
      'Reed channel light from above left, in front light #d8b080 core shadow #402820 cast shadow #201818',
    );
  });

  it('stays within its frame, whatever lights it', () => {
    for (let azimuthDeg = 0; azimuthDeg < 360; azimuthDeg += 30)
      for (const elevationDeg of [-60, 0, 45, 90]) {
        const { primitives, width, height } = drawnOf({ ...ball, direction: { azimuthDeg, elevationDeg } });
        for (const one of primitives) {
          if (one.kind !== 'path' || one.d.includes('h')) continue;
          const figures = one.d.match(/-?\d+(?:\.\d+)?/g)!.map(Number);
          const [across, down] = [0, 1].map((axis) => figures.filter((_, at) => at % 2 === axis));
          expect(Math.min(...across!, ...down!)).toBeGreaterThanOrEqual(0);
          expect(Math.max(...across!)).toBeLessThanOrEqual(width);
          expect(Math.max(...down!)).toBeLessThanOrEqual(height);
        }
      }
  });

  it('of nothing yet is its title alone', () => {
    const { primitives } = drawnOf({ ...ball, colours: NO_COLOURS });
    expect(primitives).toHaveLength(2);
  });
});
