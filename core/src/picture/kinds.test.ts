import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  filterWorkOfSvg,
  INTAKE_LIMITS,
  kindOfBytes,
  needsTiles,
  pyramidOf,
  rasterSizeOfSvg,
  TILE_PX,
  tileGridOf,
  tilePart,
  tilesWithin,
} from './index.ts';

const bytes = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
const box = (brands: string) =>
  bytes(
    `\0\0\0${String.fromCharCode(8 + brands.length + 4)}ftyp${brands.slice(0, 4)}\0\0\0\0${brands.slice(4)}`,
  );

describe('kind of bytes', () => {
  it('knows GIF, TIFF of both byte orders and its large form', () => {
    expect(kindOfBytes(bytes('GIF89a....'))).toBe('image/gif');
    for (const head of ['II*\0', 'MM\0*', 'II+\0', 'MM\0+'])
      expect(kindOfBytes(bytes(`${head}....`))).toBe('image/tiff');
    expect(kindOfBytes(bytes('II*x....'))).toBeUndefined();
  });

  it('tells AVIF from HEIC by any of the brands, and both from a clip', () => {
    expect(kindOfBytes(box('avifmif1miaf'))).toBe('image/avif');
    expect(kindOfBytes(box('mif1avifmiaf'))).toBe('image/avif');
    expect(kindOfBytes(box('heicmif1miaf'))).toBe('image/heic');
    expect(kindOfBytes(box('mif1heic'))).toBe('image/heic');
    expect(kindOfBytes(box('isommp42'))).toBe('video/mp4');
    expect(kindOfBytes(box('qt  qt  '))).toBeUndefined();
  });

  it('knows SVG behind declarations and comments, and not inside a page', () => {
    const isSvg = (text: string) => kindOfBytes(bytes(text)) === 'image/svg+xml';
    expect(isSvg('<svg width="3"/>')).toBe(true);
    expect(isSvg('\u00ef\u00bb\u00bf<?xml version="1.0"?>\n<!-- a > b -->\n<svg>')).toBe(true);
    expect(isSvg('<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "x"><svg:svg>')).toBe(true);
    expect(isSvg('<!DOCTYPE svg [<!ENTITY a "b">]><svg>')).toBe(true);
    expect(isSvg('<html><body><svg></svg>')).toBe(false);
    expect(isSvg('<svgfoo>')).toBe(false);
  });

  it('survives any bytes at all', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 60 }), (head) => void kindOfBytes(head)));
  });
});

describe('a drawing without pixels of its own', () => {
  it('stands at a size worth looking at, with its aspect', () => {
    expect(rasterSizeOfSvg(24, 12)).toEqual({ width: 2048, height: 1024 });
    expect(rasterSizeOfSvg(3000, 1000)).toEqual({ width: 3000, height: 1000 });
    expect(rasterSizeOfSvg(1e6, 1e6)).toEqual({ width: 8192, height: 8192 });
    expect(() => rasterSizeOfSvg(0, 5)).toThrow(RangeError);
    expect(() => rasterSizeOfSvg(Number.NaN, 5)).toThrow(RangeError);
  });
});

describe('tiles', () => {
  it('are for what no browser decodes whole', () => {
    expect(needsTiles(12_000, 8_000)).toBe(true);
    expect(needsTiles(6_000, 4_000)).toBe(false);
    expect(needsTiles(9_000, 100)).toBe(true);
  });

  it('cover the picture exactly once', () => {
    const size = fc.integer({ min: 1, max: 3000 });
    fc.assert(
      fc.property(size, size, (width, height) => {
        const grid = tileGridOf(width, height);
        const all = tilesWithin(grid, { x: 0, y: 0, width: 1, height: 1 });
        expect(all).toHaveLength(grid.columns * grid.rows);
        const area = all.reduce((sum, { column, row }) => {
          const part = tilePart(grid, column, row);
          return sum + part.width * part.height;
        }, 0);
        expect(area).toBeCloseTo(1, 9);
      }),
    );
  });

  it('within a part are just those that it touches', () => {
    const grid = tileGridOf(TILE_PX * 4, TILE_PX * 2);
    expect(tilesWithin(grid, { x: 0.3, y: 0.6, width: 0.3, height: 0.2 })).toEqual([
      { column: 1, row: 1 },
      { column: 2, row: 1 },
    ]);
    expect(tilesWithin(grid, { x: 0.25, y: 0, width: 0.25, height: 0.5 })).toEqual([{ column: 1, row: 0 }]);
  });
});

describe('the work of a drawing’s filters', () => {
  const size = { width: 2048, height: 2048 };
  const drawing = (filter: string, width = 2048) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${width}"><filter id="a">${filter}</filter><rect width="9" height="9" filter="url(#a)"/></svg>`;

  it('is none without filters, and some seconds for an ordinary one', () => {
    expect(filterWorkOfSvg('<svg width="9" height="9"><rect filter="none"/></svg>', size)).toBe(0);
    const shadow = '<feGaussianBlur stdDeviation="3"/><feOffset dx="2"/><feMerge/>';
    expect(filterWorkOfSvg(drawing(shadow), { width: 1024, height: 1024 })).toBeLessThan(
      INTAKE_LIMITS.filterWork,
    );
  });

  it('is too much for a large drawing with wide blurs and morphology, for many uses, and for small units', () => {
    const wide = '<feGaussianBlur stdDeviation="900"/><feMorphology radius="900"/>';
    expect(filterWorkOfSvg(drawing(wide), { width: 8192, height: 8192 })).toBeGreaterThan(1e6);
    const many = drawing('<feGaussianBlur stdDeviation="2"/>').replace(
      '</svg>',
      '<g style="filter:url(#a)"/>'.repeat(50),
    );
    expect(filterWorkOfSvg(many, size)).toBeGreaterThan(INTAKE_LIMITS.filterWork);
    // A radius of one unit of a drawing of nine is more than two hundred pixels.
    expect(filterWorkOfSvg(drawing('<feMorphology radius="1"/>', 9), size)).toBeGreaterThan(
      INTAKE_LIMITS.filterWork,
    );
  });

  it('is found in one pass of a source that never ends what it begins', () => {
    expect(filterWorkOfSvg('<svg><feX '.repeat(400_000), size)).toBe(0);
    expect(filterWorkOfSvg(`<svg ${'filter=feBlur '.repeat(400_000)}`, size)).toBe(0);
  });
});

describe('a pyramid', () => {
  it('halves until one tile holds all of it', () => {
    expect(
      pyramidOf(9_000, 1_300).map(({ width, height, columns, rows }) => [width, height, columns, rows]),
    ).toEqual([
      [9_000, 1_300, 18, 3],
      [4_500, 650, 9, 2],
      [2_250, 325, 5, 1],
      [1_125, 163, 3, 1],
      [563, 82, 2, 1],
      [282, 41, 1, 1],
    ]);
    expect(pyramidOf(1, 1)).toHaveLength(1);
  });
});
