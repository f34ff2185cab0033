import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type HandedPalette,
  PALETTE_FILES,
  type PaletteFile,
  PaletteFileError,
  paletteToSheet,
  readPaletteFile,
  sheetToPalette,
} from './index.ts';

const hex = fc.nat(0xffffff).map((code) => `#${code.toString(16).padStart(6, '0')}`);
const words = fc
  .string({ unit: 'grapheme', maxLength: 30 })
  .map((text) => text.replaceAll(/\s+/g, ' ').trim());
const palette: fc.Arbitrary<HandedPalette> = fc
  .tuple(
    words.filter((name) => name !== '' && !/[{}.$]/.test(name)),
    fc.array(fc.tuple(hex, fc.integer({ min: 1, max: 1_000 }), words), { minLength: 1, maxLength: 24 }),
  )
  .map(([name, rows]) => {
    const total = rows.reduce((sum, [, weight]) => sum + weight, 0);
    return {
      name,
      swatches: rows.map(([code, weight, called]) => ({ hex: code, share: weight / total, name: called })),
    };
  });
const colours = ({ swatches }: HandedPalette) => swatches.map((one) => one.hex);

describe.each(Object.keys(PALETTE_FILES) as PaletteFile[])('%s', (kind) => {
  const { write, ending } = PALETTE_FILES[kind];

  it('comes back with every colour, in its order, with its share', () => {
    fc.assert(
      fc.property(palette, (made) => {
        const back = readPaletteFile(`made${ending}`, write(made));
        expect(colours(back)).toEqual(colours(made));
        for (const [index, { share }] of back.swatches.entries())
          expect(share).toBeCloseTo(made.swatches[index]!.share, 4);
      }),
    );
  });

  it('keeps names of plain words', () => {
    const made = {
      name: 'Reed channel at dawn',
      swatches: [
        { hex: '#e1d2c3', share: 0.75, name: 'pale warm grey' },
        { hex: '#453829', share: 0.25, name: 'umber & "ink" <dark>' },
      ],
    };
    expect(readPaletteFile(`made${ending}`, write(made))).toEqual(made);
  });
});

it('a sheet of patches comes back by its pixels, alike or as wide as their shares', () => {
  const distinct = palette.filter(({ swatches }) =>
    swatches.every((one, index) => index === 0 || one.hex !== swatches[index - 1]!.hex),
  );
  fc.assert(
    fc.property(distinct, (made) => {
      expect(colours(sheetToPalette('made', paletteToSheet(made)))).toEqual(colours(made));
    }),
    { numRuns: 20 },
  );
  const made: HandedPalette = {
    name: 'wide',
    swatches: [
      { hex: '#c8281e', share: 0.6, name: '' },
      { hex: '#143ca0', share: 0.3, name: '' },
      { hex: '#f0f0e6', share: 0.1, name: '' },
    ],
  };
  const back = sheetToPalette('wide', paletteToSheet(made, true));
  expect(back.swatches.map(({ hex, share }) => [hex, Number(share.toFixed(2))])).toEqual([
    ['#c8281e', 0.6],
    ['#143ca0', 0.3],
    ['#f0f0e6', 0.1],
  ]);
});

describe('files of others', () => {
  it('are read as far as they hold colours', () => {
    const css = ':root{--sea: rgb(20 60 160); --gap: 4px; --sand:oklch(80% 0.05 80);--old:#ABC}';
    const read = readPaletteFile('theme.css', css);
    expect(read.name).toBe('theme');
    expect(colours(read)).toHaveLength(3);
    expect(colours(read)[0]).toBe('#143ca0');
    expect(colours(read)[2]).toBe('#aabbcc');
    expect(read.swatches.every(({ share }) => Math.abs(share - 1 / 3) < 1e-9)).toBe(true);

    const tokens = JSON.stringify({
      sea: {
        $type: 'color',
        deep: { $value: '#0a2342' },
        wide: { $value: { colorSpace: 'display-p3', components: [0.5, 0.5, 0.5] } },
        same: { $value: '{sea.deep}' },
        loop: { $value: '{sea.loop}' },
      },
      size: { $type: 'dimension', small: { $value: '4px' } },
    });
    expect(colours(readPaletteFile('x.json', tokens))).toEqual(['#0a2342', '#808080', '#0a2342']);

    const svg =
      '<svg xmlns="x"><rect fill="red" x="1"/><rect style="fill: #00f"></rect><rect fill="none"/></svg>';
    expect(colours(readPaletteFile('x.svg', svg))).toEqual(['#ff0000', '#0000ff']);
  });

  it.each([
    ['damaged JSON', 'a.json', '{"palette": '],
    ['a list', 'a.json', '[1,2]'],
    ['no colour', 'a.css', ':root { --gap: 4px }'],
    ['half a colour', 'a.css', ':root { --sea: /0a }'],
    ['a newer version', 'a.json', '{"kind":"palette","version":9,"swatches":[]}'],
    ['an empty one', 'a.svg', '<svg></svg>'],
    ['something else', 'a.txt', 'nothing at all'],
    [
      'one too many',
      'a.css',
      `:root{${Array.from({ length: 300 }, (_, n) => `--c${n}: #123456;`).join('')}}`,
    ],
    ['too large', 'a.css', '/'.repeat(2_000_001)],
  ])('%s is refused in words', (_, name, text) => {
    expect(() => readPaletteFile(name, text)).toThrow(PaletteFileError);
  });

  it('of any text end in words or a palette, and soon', () => {
    fc.assert(
      fc.property(
        fc.string({ maxLength: 400 }),
        fc.constantFrom('{', '<svg><rect ', '--a:', ''),
        (text, start) => {
          try {
            expect(readPaletteFile('any', start + text).swatches.length).toBeGreaterThan(0);
          } catch (error) {
            expect(error).toBeInstanceOf(PaletteFileError);
          }
        },
      ),
    );
  });
});
