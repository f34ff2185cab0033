import fc from 'fast-check';
import { unzlibSync, zlibSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import {
  filteredRows,
  mergedOfOpenRaster,
  openRasterFile,
  partsOfPng,
  pngChunk,
  pngEnd,
  pngHead,
  readOpenRaster,
  unfilteredRows,
} from './index.ts';

function pngOf(data: Uint8Array, width: number, height: number, ppi = 300): Uint8Array<ArrayBuffer> {
  const packed = zlibSync(filteredRows(data, width, undefined));
  const parts = [...pngHead({ width, height }, ppi), pngChunk('IDAT', packed), pngEnd()];
  const bytes = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}

const picture = fc
  .record({ width: fc.integer({ min: 1, max: 12 }), height: fc.integer({ min: 1, max: 12 }) })
  .chain(({ width, height }) =>
    fc.record({
      ...{ width: fc.constant(width), height: fc.constant(height) },
      data: fc.uint8Array({ minLength: width * height * 4, maxLength: width * height * 4 }),
    }),
  );

describe('a PNG', () => {
  it('gives back every pixel, whatever lies beneath its clear ones, with its resolution', () => {
    fc.assert(
      fc.property(picture, ({ width, height, data }) => {
        const parts = partsOfPng(pngOf(data, width, height, 350))!;
        expect([parts.width, parts.height]).toEqual([width, height]);
        expect(parts.ppi).toBeCloseTo(350, 1);
        expect([...unfilteredRows(unzlibSync(parts.packed), width)]).toEqual([...data]);
      }),
    );
  });

  it('in bands has the rows that it has as one', () => {
    fc.assert(
      fc.property(picture, fc.nat(), ({ width, height, data }, cut) => {
        const rows = (cut % height) * width * 4;
        const above = rows > 0 ? data.subarray(rows - width * 4, rows) : undefined;
        const bands = [filteredRows(data.subarray(0, rows), width, undefined)];
        bands.push(filteredRows(data.subarray(rows), width, above));
        expect(bands.flatMap((band) => [...band])).toEqual([...filteredRows(data, width, undefined)]);
      }),
    );
  });

  it('is read with each of the five filters', () => {
    const row = [10, 20, 30, 40, 50, 60, 70, 80];
    // By hand, from the formulas: a row of zeros with filter 2 repeats the one above.
    const rows = [
      ...[0, ...row],
      ...[1, 10, 20, 30, 40, 40, 40, 40, 40],
      ...[2, 0, 0, 0, 0, 0, 0, 0, 0],
      ...[3, 5, 10, 15, 20, 20, 20, 20, 20],
      ...[4, 0, 0, 0, 0, 0, 0, 0, 0],
    ];
    const out = unfilteredRows(Uint8Array.from(rows), 2);
    for (let at = 0; at < 5; at += 1) expect([...out.subarray(at * 8, at * 8 + 8)]).toEqual(row);
    expect(() => unfilteredRows(Uint8Array.from([5, ...row]), 2)).toThrow(RangeError);
  });

  it('of another kind, or cut off, is none', () => {
    const bytes = pngOf(new Uint8Array(16), 2, 2);
    for (const [at, value] of [
      [0, 0],
      [24, 16],
      [25, 2],
      [28, 1],
    ] as const) {
      const other = new Uint8Array(bytes);
      other[at] = value;
      expect(partsOfPng(other)).toBeUndefined();
    }
    expect(partsOfPng(bytes.subarray(0, bytes.length - 20))).toBeUndefined();
  });
});

describe('an OpenRaster file with layers', () => {
  const png = pngOf(new Uint8Array(16).fill(200), 2, 2);
  const layers = [
    { name: 'ground', src: 'data/0.png', x: 0, y: 0, opacity: 1, blend: 'normal', isHidden: false, png },
    {
      name: 'a "b" & <c>',
      src: 'data/1.png',
      x: 3,
      y: -4,
      opacity: 0.25,
      blend: 'multiply',
      isHidden: true,
      png,
    },
  ] as const;
  const made = () =>
    openRasterFile({ width: 40, height: 30 }, layers, {
      ...{ ppi: 350, merged: png, thumbnail: png, beside: { 'sheet.json': Uint8Array.from([1, 2]) } },
    });

  it('tells its type first, and what was said of its layers', () => {
    const bytes = made();
    expect(new TextDecoder().decode(bytes.subarray(30, 54))).toBe('mimetypeimage/openraster');
    const read = readOpenRaster(bytes)!;
    expect([read.width, read.height, read.ppi]).toEqual([40, 30, 350]);
    expect(read.stack).toEqual(layers.map(({ png: _, ...told }) => told));
    expect(read.files.get('sheet.json')).toEqual(Uint8Array.from([1, 2]));
    expect(mergedOfOpenRaster(bytes, 1_000)).toEqual(png);
  });

  it('that is too large, damaged or something else is refused', () => {
    expect(mergedOfOpenRaster(made(), png.length - 1)).toBeUndefined();
    expect(mergedOfOpenRaster(made().subarray(0, 100), 1_000)).toBeUndefined();
    expect(readOpenRaster(Uint8Array.from([1, 2, 3]))).toBeUndefined();
  });
});
