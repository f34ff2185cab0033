import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blocksOf, plainOf } from '../text/index.ts';
import { richText } from '../text/test/arbitrary.ts';
import {
  blockLineStarts,
  FACE_NAMES,
  faceOfRun,
  layOut,
  layOutBlocks,
  placedSpans,
  rulesOf,
  serifMeasure,
  visualOrder,
  visualParts,
} from './index.ts';

const setting = { fontSize: 16, lineHeight: 23, width: 212, face: 'roman' } as const;
const width = fc.integer({ min: 16, max: 400 });

describe('formatted text', () => {
  it('that is not formatted breaks as plain text does', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), width, (text, wide) => {
        const { fontSize, lineHeight } = setting;
        const plain = layOut(text, { fontSize, lineHeight, width: wide });
        const set = layOutBlocks(blocksOf(text), { ...setting, width: wide });
        expect(set.lines.map((line) => [line.text, line.baseline, line.isRightToLeft])).toEqual(
          plain.lines.map((line) => [line.text, line.baseline, line.isRightToLeft]),
        );
        expect(set.height).toBe(plain.height);
      }),
    );
  });

  it('loses no letter, and its spans are its lines', () => {
    fc.assert(
      fc.property(richText, width, fc.constantFrom(...FACE_NAMES), (text, wide, face) => {
        const { lines } = layOutBlocks(text.blocks, { ...setting, width: wide, face });
        const inkOf = (words: string) => words.replace(/\s/g, '');
        expect(inkOf(lines.map((line) => line.text).join(''))).toBe(inkOf(plainOf(text)));
        for (const line of lines) expect(line.spans!.map((span) => span.text).join('')).toBe(line.text);
      }),
    );
  });

  it('is no wider than it may be, where a line has more than one character', () => {
    fc.assert(
      fc.property(richText, fc.integer({ min: 200, max: 400 }), (text, wide) => {
        const set = layOutBlocks(text.blocks, { ...setting, width: wide });
        for (const line of set.lines) {
          const placed = placedSpans(set, { ...line, text: line.text });
          const used = placed
            .filter((span) => span.text !== line.marker)
            .reduce((sum, span) => sum + span.width, 0);
          if ([...line.text.trim()].length > 1) expect(used).toBeLessThanOrEqual(wide - line.indent! + 1e-9);
        }
      }),
    );
  });

  it('wraps a word that does not fit beside the space before it', () => {
    const wide = serifMeasure(16)('rope');
    const set = layOutBlocks([{ runs: [{ text: ' rope' }] }], { ...setting, width: wide + 1 });
    expect(set.lines.map((line) => line.text)).toEqual(['', 'rope']);
  });

  it('begins its lines where it says', () => {
    const block = {
      runs: [{ text: 'the wet ' }, { text: 'rope\nis', marks: ['bold' as const] }, { text: ' dark' }],
    };
    const starts = blockLineStarts(block, { ...setting, width: 60 });
    const words = 'the wet rope\nis dark';
    expect(starts.map((at, index) => words.slice(at, starts[index + 1]).trim())).toEqual([
      'the wet',
      'rope',
      'is dark',
    ]);
  });

  it('measures each run in its own face', () => {
    const run = (marks: ('bold' | 'italic')[]) => ({ text: 'rope', marks });
    expect(faceOfRun(run(['bold']), 'roman')).toBe('bold');
    expect(faceOfRun(run(['bold', 'italic']), 'roman')).toBe('boldItalic');
    expect(faceOfRun(run(['italic']), 'italic')).toBe('roman');
    expect(faceOfRun({ text: 'rope' }, 'bold')).toBe('bold');
    // Newsreader at 700, thousandths of an em, read from its hmtx table: a 506.5 upright, 573.5 slanted.
    expect(serifMeasure(1_000, 'bold')('a')).toBeCloseTo(507, 0);
    expect(serifMeasure(1_000, 'boldItalic')('a')).toBeCloseTo(574, 0);
    // 19 letters a of 460 thousandths fit into 140 units of type 16, but of 507 only 17.
    const long = 'a'.repeat(40);
    const lines = (marks: 'bold'[]) =>
      layOutBlocks([{ runs: [{ text: long, ...(marks.length > 0 && { marks }) }] }], {
        ...setting,
        width: 140,
      }).lines;
    expect(lines([])[0]!.text).toHaveLength(19);
    expect(lines(['bold'])[0]!.text).toHaveLength(17);
  });

  it('numbers lists, each for itself, and marks the others', () => {
    const entry = (list: 'bullet' | 'number' | 'check', depth = 0, isDone = false) => ({
      ...{ list, depth, runs: [{ text: 'rope' }] },
      ...(isDone && { isDone }),
    });
    const { lines } = layOutBlocks(
      [
        ...[entry('number'), entry('number', 1), entry('number', 1), entry('number'), entry('bullet')],
        ...[entry('number'), { runs: [{ text: 'and' }] }, entry('number'), entry('check', 0, true)],
      ],
      setting,
    );
    expect(lines.map(({ marker, isDone }) => marker ?? isDone)).toEqual([
      ...['1.', '1.', '2.', '2.', '•', '1.', undefined, '1.', true],
    ]);
    expect(lines[1]!.indent).toBeGreaterThan(lines[0]!.indent!);
    expect(lines[6]!.indent).toBe(0);
  });
});

describe('what is placed in a line', () => {
  it('stands one beside the other from the left, in the order in which it is seen', () => {
    fc.assert(
      fc.property(richText, width, (text, wide) => {
        const set = layOutBlocks(text.blocks, { ...setting, width: wide });
        for (const line of set.lines) {
          const placed = placedSpans(set, line);
          const own = line.marker === undefined ? placed : placed.slice(1);
          for (let index = 1; index < own.length; index += 1)
            expect(own[index]!.x).toBeCloseTo(own[index - 1]!.x + own[index - 1]!.width, 9);
          const seen = own.map((span) => visualOrder(span.text, span.isRightToLeft)).join('');
          expect([...seen].sort().join('')).toBe([...line.text].sort().join(''));
        }
      }),
    );
  });

  it('is read from the right where it is written so, with its marker on that side', () => {
    const set = layOutBlocks(
      [{ list: 'bullet', runs: [{ text: 'אב' }, { text: 'גד', marks: ['bold'] }] }],
      setting,
    );
    const [marker, left, right] = placedSpans(set, set.lines[0]!);
    expect([left!.text, right!.text]).toEqual(['גד', 'אב']);
    expect(right!.x + right!.width).toBeCloseTo(212 - 24, 9);
    expect(marker!.x).toBeGreaterThan(right!.x + right!.width);
    expect(visualParts('x אב y', false).map(({ from, to }) => [from, to])).toEqual([
      [0, 2],
      [2, 4],
      [4, 6],
    ]);
    expect(visualParts('אב 12 גד', true).map(({ from }) => from)).toEqual([5, 3, 0]);
  });

  it('has lines under and through as far as it is marked', () => {
    const set = layOutBlocks(
      [{ runs: [{ text: 'wet ' }, { text: 'rope', marks: ['underline', 'strike'] }] }],
      setting,
    );
    const placed = placedSpans(set, set.lines[0]!);
    const [under, through] = rulesOf(placed, 16, 16);
    expect(under).toMatchObject({ x: placed[1]!.x, width: placed[1]!.width });
    expect(under!.y).toBeGreaterThan(16);
    expect(through!.y).toBeLessThan(16);
    expect(rulesOf(placed.slice(0, 1), 16, 16)).toEqual([]);
  });
});
