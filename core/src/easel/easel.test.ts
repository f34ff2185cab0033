import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  caughtByGuides,
  changePaper,
  faultOfNeed,
  faultOfSheet,
  fromMm,
  inMm,
  inPixels,
  inUnit,
  LENGTH_UNITS,
  lengthWords,
  pixelsOfSheet,
  practiceSheet,
  printVerdict,
  resizedSide,
  SHEET_SIZES_MM,
  type SheetSetup,
  scalePicture,
  sheetLike,
  USUAL_NEED,
  withAspect,
} from './index.ts';

const inches = (width: number, height: number, ppi: number, bleed = 0): SheetSetup => ({
  ...{ width, height, unit: 'in', ppi, bleed },
});
const unit = fc.constantFrom(...LENGTH_UNITS);
const ppi = fc.integer({ min: 10, max: 2_400 });
const length = fc.double({ min: 0.5, max: 500, noNaN: true });

describe('lengths', () => {
  it('come back from millimetres as they were', () => {
    fc.assert(
      fc.property(length, unit, ppi, (given, of, at) => {
        expect(fromMm(inMm(given, of, at), of, at)).toBeCloseTo(given, 6);
      }),
    );
  });

  it('are told without more digits than a ruler has', () => {
    expect([lengthWords(12, 'in'), lengthWords(9.604, 'in'), lengthWords(254.04, 'mm')]).toEqual([
      ...['12', '9.6', '254'],
    ]);
    expect(lengthWords(3_840, 'px')).toBe('3,840');
  });

  it('take whole pixels', () => {
    expect([inPixels(210, 'mm', 300), inPixels(21, 'cm', 300), inPixels(8, 'in', 300)]).toEqual([
      2480, 2480, 2400,
    ]);
  });
});

describe('a sheet', () => {
  it('has the pixels of its size and resolution, and bleed beyond each edge', () => {
    expect(pixelsOfSheet(inches(12, 9.6, 400))).toEqual({
      ...{ trimmed: { width: 4_800, height: 3_840 }, whole: { width: 4_800, height: 3_840 }, bleed: 0 },
    });
    const { trimmed, whole, bleed } = pixelsOfSheet({
      width: 170,
      height: 260,
      unit: 'mm',
      ppi: 300,
      bleed: 3,
    });
    expect([trimmed, whole, bleed]).toEqual([
      { width: 2_008, height: 3_071 },
      { width: 2_078, height: 3_141 },
      35,
    ]);
  });

  it('is the same told in another unit', () => {
    fc.assert(
      fc.property(length, length, unit, unit, ppi, (width, height, from, to, at) => {
        const setup: SheetSetup = { width, height, unit: from, ppi: at, bleed: 0 };
        const there = pixelsOfSheet(inUnit(setup, to)).trimmed;
        const here = pixelsOfSheet(setup).trimmed;
        expect(Math.abs(there.width - here.width)).toBeLessThanOrEqual(1);
        expect(Math.abs(there.height - here.height)).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('has a print that can be asked for', () => {
    const need = { width: 8, height: 10, unit: 'in', ppi: 300 } as const;
    expect(faultOfNeed(need)).toBeUndefined();
    for (const [wrong, words] of [
      [{ ...need, width: 0 }, /wider and higher than nothing/],
      [{ ...need, height: Number.NaN }, /no number/],
      [{ ...need, width: 20_000 }, /as large/],
      [{ ...need, ppi: 3 }, /between 10 and 2,400 ppi/],
    ] as const)
      expect(faultOfNeed(wrong)).toMatch(words);
  });

  it('is refused in words where it cannot be', () => {
    expect(faultOfSheet(inches(8, 10, 300))).toBeUndefined();
    for (const [setup, words] of [
      [inches(0, 10, 300), /wider and higher than nothing/],
      [inches(Number.NaN, 10, 300), /no number/],
      [inches(8, 10, 5), /between 10 and 2,400 ppi/],
      [inches(8, 10, 300, 9), /bleed/],
      [inches(8, 10, 300, -1), /bleed/],
      [inches(60, 1, 600), /36,000 × 600 px/],
      [inches(40, 40, 600), /576 million pixels/],
    ] as const)
      expect(faultOfSheet(setup), JSON.stringify(setup)).toMatch(words);
  });

  it('lies as the picture whose proportions it takes, and fits into the other', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9_000 }),
        fc.integer({ min: 1, max: 9_000 }),
        fc.constantFrom(...Object.values(SHEET_SIZES_MM)),
        (width, height, size) => {
          const sheet = sheetLike({ width, height }, { ...size, unit: 'mm', ppi: 300, bleed: 0 });
          expect(sheet.width / sheet.height).toBeCloseTo(width / height, 6);
          const [short, long] = [sheet.width, sheet.height].sort((a, b) => a - b);
          expect(short).toBeLessThanOrEqual(size.width + 1e-6);
          expect(long).toBeLessThanOrEqual(size.height + 1e-6);
          // One side fills it.
          expect(Math.min(Math.abs(short! - size.width), Math.abs(long! - size.height))).toBeLessThan(1e-6);
        },
      ),
    );
  });

  it('for practice has a quarter of the paper, at the same resolution', () => {
    expect(practiceSheet(inches(12, 9.6, 400, 0.125))).toEqual(inches(6, 4.8, 400));
  });
});

describe('whether it is enough for print', () => {
  it('is told with the largest good print', () => {
    const verdict = printVerdict({ width: 4_800, height: 3_840 }, USUAL_NEED);
    expect(verdict).toMatchObject({ isEnough: true, largest: { width: 16, height: 12.8 } });
    // 10 × 8 in, lying: 4,800 / 10 and 3,840 / 8.
    expect(verdict.ppiAtNeed).toBeCloseTo(480, 9);
    expect(verdict.needed).toEqual({ width: 3_000, height: 2_400 });
  });

  it('holds at the limit, and not below it', () => {
    expect(printVerdict({ width: 2_400, height: 3_000 }, USUAL_NEED).isEnough).toBe(true);
    expect(printVerdict({ width: 2_398, height: 3_000 }, USUAL_NEED).isEnough).toBe(false);
    expect(printVerdict({ width: 3_000, height: 2_400 }, USUAL_NEED).isEnough).toBe(true);
    // What screens show is not enough for paper: 8 × 10 in at 72 ppi.
    const screen = printVerdict({ width: 576, height: 720 }, USUAL_NEED);
    expect([screen.isEnough, screen.ppiAtNeed]).toEqual([false, 72]);
    expect(screen.largest.width).toBeCloseTo(1.92, 9);
    // Half a pixel of rounding is not held against a sheet: 20 × 25 cm of 300 ppi.
    const sheet = { width: 20, height: 25, unit: 'cm', ppi: 300 } as const;
    expect(printVerdict(pixelsOfSheet({ ...sheet, bleed: 0 }).trimmed, sheet).isEnough).toBe(true);
  });

  it('is never worse for more pixels', () => {
    const side = fc.integer({ min: 1, max: 20_000 });
    fc.assert(
      fc.property(side, side, fc.integer({ min: 1, max: 500 }), (width, height, more) => {
        const [less, much] = [
          { width, height },
          { width: width + more, height: height + more },
        ];
        fc.pre(width > height === much.width > much.height);
        expect(printVerdict(much, USUAL_NEED).ppiAtNeed).toBeGreaterThan(
          printVerdict(less, USUAL_NEED).ppiAtNeed,
        );
      }),
    );
  });
});

describe('another size', () => {
  it('of the paper cuts or gives room where the anchor says, and tells what is lost', () => {
    const was = { width: 400, height: 300 };
    expect(changePaper(was, { width: 200, height: 300 }, { x: 0.5, y: 0.5 })).toEqual({
      ...{ offset: { x: -100, y: 0 }, cut: { left: 100, top: 0, right: 100, bottom: 0 }, lost: 0.5, bare: 0 },
    });
    expect(changePaper(was, { width: 800, height: 300 }, { x: 0, y: 1 })).toMatchObject({
      ...{ offset: { x: 0, y: 0 }, lost: 0, bare: 0.5 },
    });
    expect(changePaper(was, { width: 401, height: 250 }, { x: 1, y: 1 })).toMatchObject({
      ...{ offset: { x: 1, y: -50 }, cut: { left: 0, top: 50, right: 0, bottom: 0 } },
    });
  });

  it('of the paper: what is cut and what is kept are all of the picture', () => {
    const side = fc.integer({ min: 1, max: 5_000 });
    const third = fc.constantFrom(0, 0.5, 1) as fc.Arbitrary<0 | 0.5 | 1>;
    fc.assert(
      fc.property(side, side, side, side, third, third, (width, height, w, h, x, y) => {
        const was = { width, height };
        const { cut, lost } = changePaper(was, { width: w, height: h }, { x, y });
        const kept = (width - cut.left - cut.right) * (height - cut.top - cut.bottom);
        expect(lost).toBeCloseTo(1 - kept / (width * height), 9);
        expect(Math.min(cut.left, cut.top, cut.right, cut.bottom)).toBeGreaterThanOrEqual(0);
        expect(kept).toBeGreaterThan(0);
      }),
    );
  });

  it('is said in pixels, centimetres or per cent, with its proportions or without', () => {
    expect([
      resizedSide(50, 'percent', 4_801, 300),
      resizedSide(25.4, 'cm', 1, 300),
      resizedSide(0, 'px', 9, 1),
    ]).toEqual([...[2_401, 3_000, 0]]);
    expect(withAspect({ width: 4_800, height: 3_840 }, 'height', 1_920)).toEqual({
      width: 2_400,
      height: 1_920,
    });
    expect(withAspect({ width: 3, height: 2 }, 'width', 100)).toEqual({ width: 100, height: 67 });
    expect(scalePicture({ width: 400, height: 300 }, { width: 200, height: 300 })).toEqual({
      ...{ x: 0.5, y: 1, pixels: 0.5, squeeze: 0.5 },
    });
  });
});

describe('guides', () => {
  it('catch the nearest edge or middle of what is placed, and nothing beyond their reach', () => {
    const guides = { x: [100, 300], y: [50] };
    expect(caughtByGuides({ x: 96, y: 200, width: 50, height: 40 }, guides, 8)).toEqual({ x: 4, y: 0 });
    // Its middle is nearer than its edge.
    expect(caughtByGuides({ x: 273, y: 27, width: 50, height: 40 }, guides, 8)).toEqual({ x: 2, y: 3 });
    expect(caughtByGuides({ x: 110, y: 80, width: 20, height: 20 }, guides, 8)).toEqual({ x: 0, y: 0 });
  });

  it('leave a rectangle on a line, and never move it farther than they reach', () => {
    const at = fc.integer({ min: -500, max: 500 });
    fc.assert(
      fc.property(
        at,
        at,
        fc.array(at, { maxLength: 6 }),
        fc.integer({ min: 1, max: 40 }),
        (x, y, lines, within) => {
          const r = { x, y, width: 60, height: 30 };
          const shift = caughtByGuides(r, { x: lines, y: [] }, within);
          expect(Math.abs(shift.x)).toBeLessThanOrEqual(within);
          expect(shift.y).toBe(0);
          if (shift.x !== 0)
            expect([0, 30, 60].some((edge) => lines.includes(r.x + shift.x + edge))).toBe(true);
        },
      ),
    );
  });
});
