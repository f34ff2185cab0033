import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { breakLines, hasForeign, isRightToLeft, layOut, serifMeasure, visualOrder } from './index.ts';

describe('lines of a note', () => {
  const measure = (piece: string) => piece.length;

  it('breaks at spaces, keeps line ends, breaks long words', () => {
    expect(breakLines('the glass is lightest', 9, measure)).toEqual(['the glass', 'is', 'lightest']);
    expect(breakLines('a\n\nb', 9, measure)).toEqual(['a', '', 'b']);
    expect(breakLines('abcdefghij', 4, measure)).toEqual(['abcd', 'efgh', 'ij']);
  });

  it('breaks between Chinese characters and syllables of kana, not before a full stop or after a bracket', () => {
    expect(breakLines('潮水退去时渡船停在泥滩上', 5, measure)).toEqual(['潮水退去时', '渡船停在泥', '滩上']);
    expect(breakLines('渡船停。灯灭', 3, measure)).toEqual(['渡船', '停。灯', '灭']);
    expect(breakLines('渡船「灯」灭', 3, measure)).toEqual(['渡船', '「灯」', '灭']);
    expect(breakLines('はしけのロープ', 4, measure)).toEqual(['はしけの', 'ロープ']);
  });

  it('breaks Thai between words, and never within one character', () => {
    expect(breakLines('เรือข้ามฟากจอด', 6, measure).join('|')).toMatch(/^เรือ/);
    const family = '👨‍👩‍👧';
    for (const line of breakLines(family.repeat(9), 10, measure))
      expect(line.replaceAll(family, '')).toBe('');
  });

  it('loses no letter and keeps every line within its width', () => {
    const wide = fc.string({ maxLength: 80 });
    const any = fc.string({ unit: 'grapheme', maxLength: 80 });
    const mixed = fc.string({ unit: fc.constantFrom(...'ab 。渡船「」のーเ\n-'), maxLength: 200 });
    fc.assert(
      fc.property(fc.oneof(wide, any, mixed), fc.integer({ min: 1, max: 90 }), (text, width) => {
        const lines = breakLines(text, width, measure);
        expect(lines.join('').replace(/\s/g, '')).toBe(text.replace(/\s/g, ''));
        for (const line of lines) {
          const characters = [...new Intl.Segmenter('en').segment(line.trim())];
          if (characters.length > 1) expect(line.length).toBeLessThanOrEqual(width);
        }
      }),
    );
  });

  it('measures each character once, however long the word', () => {
    let count = 0;
    const counted = (piece: string) => {
      count += 1;
      return piece.length;
    };
    expect(breakLines('storm'.repeat(4_000), 30, counted)).toHaveLength(Math.ceil(20_000 / 30));
    expect(count).toBe(5);
    breakLines('storm lantern storm lantern', 30, counted);
    expect(count).toBe(8);
  });
});

describe('the serif', () => {
  it('advances as its file says', () => {
    // Newsreader at 400, thousandths of an em: a 459.5, space 229, read from its hmtx table.
    expect(serifMeasure(1_000)('a ')).toBeCloseTo(460 + 229, 0);
    expect(serifMeasure(16)('aa')).toBeCloseTo((2 * 460 * 16) / 1_000, 1);
  });

  it('knows what it lacks: that differs from computer to computer', () => {
    expect(hasForeign('The glass is lightest, “é” – ŝ ạ €')).toBe(false);
    expect(hasForeign('tabs\tand\nlines')).toBe(false);
    expect(hasForeign('渡')).toBe(true);
    expect(hasForeign('מעבורת')).toBe(true);
    expect(hasForeign('⚓')).toBe(true);
  });

  it('gives marks and joined characters no room of their own', () => {
    const measure = serifMeasure(10);
    expect(measure('\u0e40\u0e23\u0e37')).toBe(measure('\u0e40\u0e23'));
    expect(measure('👨\u200d👩\u200d👧')).toBe(measure('👨'));
  });
});

describe('direction', () => {
  it('is that of the first strong character', () => {
    expect(isRightToLeft('the ferry')).toBe(false);
    expect(isRightToLeft('12 מעבורת the ferry')).toBe(true);
    expect(isRightToLeft('the ferry מעבורת')).toBe(false);
  });

  it('is turned round for drawing, figures and brackets as they must be', () => {
    expect(visualOrder('the ferry', false)).toBe('the ferry');
    expect(visualOrder('אבג 12', true)).toBe('12 גבא');
    expect(visualOrder('א(ב)', true)).toBe('(ב)א');
    expect(visualOrder('x אב y', false)).toBe('x בא y');
  });
});

describe('set text', () => {
  const setting = { fontSize: 16, lineHeight: 23, width: 212 };

  it('has a line below the other, each paragraph in its own direction', () => {
    const { lines, height } = layOut('hull\nגשר', setting);
    expect(lines).toEqual([
      { text: 'hull', baseline: 16, isRightToLeft: false },
      { text: 'גשר', baseline: 39, isRightToLeft: true },
    ]);
    expect(height).toBe(46);
  });

  it('grows with its size and breaks alike', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), fc.double({ min: 0.2, max: 9, noNaN: true }), (text, by) => {
        const small = layOut(text, setting);
        const large = layOut(text, {
          fontSize: setting.fontSize * by,
          lineHeight: setting.lineHeight * by,
          width: setting.width * by + 1e-6,
        });
        expect(large.lines.map((line) => line.text)).toEqual(small.lines.map((line) => line.text));
        expect(large.height).toBeCloseTo(small.height * by, 4);
      }),
    );
  });
});
