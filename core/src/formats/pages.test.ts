import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PAGE_MARGIN_MM, PAPER_NAMES, PAPERS_MM, tilePages } from './index.ts';

const length = fc.double({ min: 5, max: 3_000, noNaN: true });
const papers = fc.constantFrom(...PAPER_NAMES);

describe('sheets of paper', () => {
  it('cover all of a picture, each within what a printer reaches, neighbours overlapping as said', () => {
    fc.assert(
      fc.property(
        length,
        length,
        papers,
        fc.double({ min: 0, max: 40, noNaN: true }),
        (width, height, paper, overlap) => {
          const { tiles, columns, rows, page } = tilePages({ width, height }, paper, overlap);
          expect(tiles).toHaveLength(columns * rows);
          expect([page.width, page.height].sort()).toEqual(
            [PAPERS_MM[paper].width, PAPERS_MM[paper].height].sort(),
          );
          for (const tile of tiles) {
            expect(tile.width).toBeGreaterThan(0);
            expect(tile.width).toBeLessThanOrEqual(page.width - 2 * PAGE_MARGIN_MM + 1e-9);
            expect(tile.height).toBeLessThanOrEqual(page.height - 2 * PAGE_MARGIN_MM + 1e-9);
          }
          const [first, last] = [tiles[0]!, tiles.at(-1)!];
          expect([first.x, first.y, first.left, first.top]).toEqual([0, 0, 0, 0]);
          expect(last.x + last.width).toBeCloseTo(width, 6);
          expect(last.y + last.height).toBeCloseTo(height, 6);
          const second = tiles[1];
          if (columns > 1) expect(second!.x + second!.left).toBeCloseTo(first.x + first.width, 6);
        },
      ),
    );
  });

  it('lie on their side where fewer are needed then, and are named by column and row', () => {
    const wide = tilePages({ width: 270, height: 150 }, 'A4', 10);
    expect([wide.tiles.length, wide.page.width]).toEqual([1, 297]);
    const many = tilePages({ width: 6_000, height: 500 }, 'A4', 10);
    expect(many.tiles.slice(0, 2).map(({ name }) => name)).toEqual(['A1', 'B1']);
    expect(many.tiles[26]!.name).toMatch(/^(?:AA1|A2)$/);
    expect(() => tilePages({ width: 10, height: 10 }, 'A4', 80)).toThrow(RangeError);
  });
});
