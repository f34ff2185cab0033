import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createPalette, drawnOf, heightOf, patchParts, swatchAt, wordsOf } from '../index.ts';

const swatch = (hex: string, share: number) => ({ hex, share, name: '', isLocked: false });
const palette = createPalette({
  ...{ id: 'p', stack: 'a0', centre: { x: 0, y: 0 }, title: 'Reed channel' },
  swatches: [swatch('#c8281e', 0.7), swatch('#143ca0', 0.29), swatch('#f0f0e6', 0.01)],
});

describe('a palette on a board', () => {
  it('is flat patches of exactly its colours above its title', () => {
    const { primitives, height } = drawnOf(palette);
    const fills = primitives.flatMap((one) => (one.kind === 'path' ? [one.fill] : []));
    expect(fills).toEqual(['#c8281e', '#143ca0', '#f0f0e6', '#fafaf9']);
    expect(height).toBe(heightOf(palette));
    expect(wordsOf(palette, () => undefined)).toContain('Reed channel');
  });

  it('has patches alike, or as wide as their shares with none too narrow to pick from; they fill its width', () => {
    expect(patchParts(palette).map(({ width }) => width)).toEqual([1 / 3, 1 / 3, 1 / 3]);
    const [first, , last] = patchParts({ ...palette, isByShare: true });
    expect(first!.width).toBeCloseTo(0.7, 1);
    expect(last!.width).toBeGreaterThan(0.0149);
    const shares = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 24 });
    fc.assert(
      fc.property(shares, fc.boolean(), (all, isByShare) => {
        const parts = patchParts({ swatches: all.map((share) => swatch('#123456', share)), isByShare });
        expect(parts.at(-1)!.x + parts.at(-1)!.width).toBeCloseTo(1, 9);
      }),
    );
  });

  it('knows the colour under a point, and none under its title', () => {
    expect(swatchAt(palette, { x: 10, y: 10 })?.hex).toBe('#c8281e');
    expect(swatchAt(palette, { x: palette.width - 1, y: 10 })?.hex).toBe('#f0f0e6');
    expect(swatchAt(palette, { x: 10, y: heightOf(palette) - 1 })).toBeUndefined();
  });
});
