import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { SeenPart, SeenWindow } from '../messages.ts';
import { PaintSurface, windowFor } from './surface.ts';

const SIZE = { width: 2_048, height: 1_024 };
const COARSE = 3;

beforeEach(() => {
  const context = { drawImage() {}, putImageData() {} };
  vi.stubGlobal('document', {
    createElement: () => ({ width: 0, height: 0, getContext: () => context }),
  });
  vi.stubGlobal('ImageData', class {});
});
afterEach(() => vi.unstubAllGlobals());

/** All tiles of a window, as a worker tells them. */
const tilesOf = ({ level, column, row, columns, rows }: SeenWindow): SeenPart[] => {
  const side = 256 >> level;
  return Array.from({ length: columns * rows }, (_, at) => ({
    ...{ level, width: side, height: side, data: new Uint8ClampedArray(4 * side * side) },
    ...{ x: (column + (at % columns)) * side, y: (row + Math.floor(at / columns)) * side },
  }));
};
const window = (level: number, column: number, columns: number): SeenWindow => ({
  ...{ level, column, columns, row: 0, rows: 4 },
});
const whole = window(COARSE, 0, 8);
const part = (x: number, width: number) => ({ x, y: 10, width, height: 900 });

describe('what is shown of a sheet', () => {
  it('is all of it made small until what is in view has come finer, and then that alone', () => {
    const surface = new PaintSurface(SIZE, COARSE);
    expect(surface.isThere).toBe(false);
    surface.put(tilesOf(whole));
    expect(surface.isThere).toBe(true);
    const asked = window(1, 0, 4);
    surface.look(asked);
    expect([surface.looksAt(asked), surface.covers(part(0, 1_000))]).toEqual([true, false]);
    expect(surface.images(false, false)).toHaveLength(2);
    // What is seen through is drawn once.
    expect(surface.images(false, true)).toHaveLength(1);
    surface.put(tilesOf(asked).slice(1));
    expect(surface.covers(part(0, 1_000))).toBe(false);
    surface.put(tilesOf(asked).slice(0, 1));
    expect([surface.covers(part(0, 1_000)), surface.covers(part(0, 1_100))]).toEqual([true, false]);
    expect(surface.images(true, false).map(({ width }) => width)).toEqual([0.5]);
  });

  it('stays what it was while another part, or a finer one, is on its way', () => {
    const surface = new PaintSurface(SIZE, COARSE);
    surface.put(tilesOf(whole));
    surface.look(window(1, 0, 4));
    surface.put(tilesOf(window(1, 0, 4)));
    const finer = window(0, 1, 2);
    surface.look(finer);
    expect([surface.looksAt(finer), surface.covers(part(300, 400))]).toEqual([true, true]);
    expect(surface.images(true, false).map(({ x, width }) => [x, width])).toEqual([[0, 0.5]]);
    surface.put(tilesOf(finer));
    expect(surface.images(true, false).map(({ x, width }) => [x, width])).toEqual([[0.125, 0.25]]);
    // Of the same level what is known is not asked for again.
    const moved = window(0, 2, 2);
    surface.look(moved);
    surface.put(tilesOf(window(0, 3, 1)));
    expect(surface.covers(part(600, 300))).toBe(true);
    surface.look(null);
    expect([surface.looksAt(null), surface.images(false, false).length]).toEqual([true, 1]);
  });

  it('is asked for as fine as the screen shows it, and no finer than all of it made small needs', () => {
    expect(windowFor(SIZE, part(300, 400), 1, COARSE)).toEqual(window(0, 1, 2));
    expect(windowFor(SIZE, part(300, 400), 2.9, COARSE)).toEqual(window(1, 1, 2));
    expect(windowFor(SIZE, part(0, 2_048), 8, COARSE)).toBeNull();
    expect(windowFor(SIZE, undefined, 1, COARSE)).toBeNull();
  });
});
