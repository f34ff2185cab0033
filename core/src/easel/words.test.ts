import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  LENGTH_UNITS,
  lengthAt,
  mayBeWhole,
  needWords,
  pixelsOfSheet,
  printVerdict,
  resolutionWords,
  rulerLines,
  type SheetSetup,
  setupOfPixels,
  setupWords,
  sheetWords,
  TAIL_BYTES,
  USUAL_NEED,
  verdictWords,
} from './index.ts';

const inches = (width: number, height: number, ppi: number): SheetSetup => ({
  ...{ width, height, unit: 'in', ppi, bleed: 0 },
});

describe('the words of a sheet', () => {
  it('tell its size, and how far its pixels go', () => {
    expect(setupWords(inches(12, 9.6, 400))).toBe('12 × 9.6 in at 400 ppi');
    expect(sheetWords(inches(12, 9.6, 400))).toBe('12 × 9.6 in at 400 ppi, 4,800 × 3,840 px');
    expect(sheetWords({ ...inches(900, 1_200, 150), unit: 'px' })).toBe('900 × 1,200 px at 150 ppi');
    expect(needWords(USUAL_NEED)).toBe('8 × 10 in at 300 ppi');
    expect(verdictWords(inches(12, 9.6, 400), USUAL_NEED)).toBe(
      'enough for print up to 16 × 12.8 in at 300 ppi',
    );
  });

  it('say what is missing, and never more than there is', () => {
    expect(verdictWords(inches(8, 10, 150), USUAL_NEED)).toBe(
      'not enough for 8 × 10 in at 300 ppi: that needs 2,400 × 3,000 px; it would come out at 150 ppi',
    );
    expect(resolutionWords({ ppi: 72 })).toContain('screens');
    expect(resolutionWords({ ppi: 73 })).toBeUndefined();
    fc.assert(
      fc.property(fc.integer({ min: 2_400, max: 9_000 }), fc.integer({ min: 3_000, max: 9_000 }), (w, h) => {
        const setup: SheetSetup = { width: w, height: h, unit: 'px', ppi: 300, bleed: 0 };
        const [, width, height] = /up to ([\d.]+) × ([\d.]+) in/.exec(verdictWords(setup, USUAL_NEED))!;
        const { largest } = printVerdict({ width: w, height: h }, USUAL_NEED);
        expect(Number(width)).toBeLessThanOrEqual(largest.width + 1e-9);
        expect(Number(height)).toBeLessThanOrEqual(largest.height + 1e-9);
      }),
    );
  });
});

it('a setup of other pixels has exactly those, in every unit', () => {
  const side = fc.integer({ min: 1, max: 30_000 });
  fc.assert(
    fc.property(
      side,
      side,
      fc.constantFrom(...LENGTH_UNITS),
      fc.integer({ min: 10, max: 2_400 }),
      (width, height, unit, ppi) => {
        const setup = setupOfPixels({ width: 1, height: 1, unit, ppi, bleed: 0 }, { width, height });
        expect(pixelsOfSheet(setup).trimmed).toEqual({ width, height });
      },
    ),
  );
});

describe('a ruler', () => {
  it('has its numbers where they belong, no nearer to each other than asked', () => {
    expect(rulerLines(-450, 450, { unit: 'in', ppi: 400, least: 150 })).toEqual(
      [-1, -0.5, 0, 0.5, 1].map((length) => ({ at: length * 400, length })),
    );
    expect(rulerLines(0, 100, { unit: 'px', ppi: 300, least: 40 }).map(({ length }) => length)).toEqual([
      0, 50, 100,
    ]);
  });

  it('agrees with what is told of a place', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...LENGTH_UNITS),
        fc.integer({ min: 10, max: 2_400 }),
        fc.integer({ min: -5_000, max: 5_000 }),
        (unit, ppi, from) => {
          const lines = rulerLines(from, from + 4_000, { unit, ppi, least: 200 });
          for (const { at, length } of lines) {
            expect(at).toBeGreaterThanOrEqual(from - 1e-6);
            expect(lengthAt(at, unit, ppi)).toBeCloseTo(length, 4);
          }
        },
      ),
    );
  });
});

describe('a file that is being written', () => {
  const bytes = (...parts: (string | readonly number[])[]) =>
    Uint8Array.from(
      parts.flatMap((part) => (typeof part === 'string' ? [...part].map((c) => c.charCodeAt(0)) : [...part])),
    );
  const whole = (file: Uint8Array) =>
    mayBeWhole(file.subarray(0, 16), file.subarray(Math.max(0, file.length - TAIL_BYTES)), file.length);
  const png = bytes([0x89], 'PNG\r\n\u001a\n', '....', 'IEND', [0xae, 0x42, 0x60, 0x82]);
  const jpeg = bytes([0xff, 0xd8, 0xff, 0xe0], 'pixels', [0xff, 0xd9], 'and what cameras put behind it');
  const webp = bytes('RIFF', [12, 0, 0, 0], 'WEBP', 'VP8 ....');
  const zip = bytes('PK\u0003\u0004', 'files', 'PK\u0005\u0006', Array(18).fill(0));

  it.each([
    ['PNG', png, 13],
    ['JPEG', jpeg, 11],
    ['WebP', webp, 15],
    ['ZIP', zip, 20],
  ])('is whole once its end is there: %s', (_, file, cut) => {
    expect(whole(file)).toBe(true);
    expect(whole(file.subarray(0, cut))).toBe(false);
  });

  it('of another kind may be whole, and never throws', () => {
    expect(whole(bytes('II*\u0000....'))).toBe(true);
    expect(whole(new Uint8Array())).toBe(false);
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 80 }), (file) => {
        whole(file);
      }),
    );
  });
});
