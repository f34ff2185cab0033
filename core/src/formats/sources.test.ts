import { describe, expect, it } from 'vitest';
import {
  missingOf,
  sourceLineOf,
  sourcesAsCsv,
  sourcesAsHtml,
  sourcesAsText,
  withXmp,
  xmpOf,
} from './index.ts';

const source = {
  ...{ address: null, page: 'https://commons.example/work/7?a=1&b=2', title: null },
  ...{ creator: 'Ines "Gull" Halloway', licence: 'Tidewrack Open, <4.0>' },
};
const line = sourceLineOf({ name: '=Ferry, bow', source, useMark: 'work' });

describe('a sheet of sources', () => {
  it('says what is missing, and nothing where all is said', () => {
    expect(missingOf({ source, useMark: 'look' })).toEqual([]);
    const none = { address: null, page: null, title: null, creator: null, licence: null };
    expect(missingOf({ source: none, useMark: null })).toEqual(['made by', 'licence', 'where from', 'use']);
  });

  it('as CSV quotes what needs it, and no cell is a formula', () => {
    const csv = sourcesAsCsv([line]);
    expect(csv.startsWith('\ufeffPicture,Made by,')).toBe(true);
    expect(csv.split('\r\n')[1]).toBe(
      `"'=Ferry, bow","Ines ""Gull"" Halloway","Tidewrack Open, <4.0>",https://commons.example/work/7?a=1&b=2,,may go into the work`,
    );
    expect(sourcesAsCsv([{ ...line, name: 'a\r\nb' }])).toContain('"a\r\nb"');
  });

  it('as HTML shows text as text, and links only addresses', () => {
    const html = sourcesAsHtml('A & B', [
      { ...line, name: '<script>alert(1)</script>', page: 'javascript:alert(1)' },
    ]);
    expect(html).not.toContain('<script');
    expect(html).not.toContain('href="javascript');
    expect(html).toContain('&lt;4.0&gt;');
    expect(sourcesAsHtml('x', [line])).toContain('href="https://commons.example/work/7?a=1&amp;b=2"');
  });

  it('as text leaves out what nobody said', () => {
    expect(sourcesAsText('Credits', [{ ...line, creator: '', use: '' }])).toBe(
      'Credits\n\n“=Ferry, bow”, Tidewrack Open, <4.0>, https://commons.example/work/7?a=1&b=2\n',
    );
  });
});

describe('a packet in a file', () => {
  const xmp = xmpOf('Ferry', source, 'work');

  it('is XML that escapes what it carries and drops what XML forbids', () => {
    expect(xmp).toContain('<dc:source>https://commons.example/work/7?a=1&amp;b=2</dc:source>');
    expect(xmpOf('a\u0000b\ud800c', source, null)).toContain('>abc<');
  });

  it('is refused by what is not of its kind, and by what has no room for it', () => {
    const not = Uint8Array.of(1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12);
    for (const type of ['image/jpeg', 'image/png', 'image/webp'] as const)
      expect(withXmp(not, type, xmp, 1, 1)).toBeUndefined();
    const jpeg = Uint8Array.of(0xff, 0xd8, 0xff, 0xd9);
    expect(withXmp(jpeg, 'image/jpeg', 'x'.repeat(70_000), 1, 1)).toBeUndefined();
    const cut = Uint8Array.of(0xff, 0xd8, 0xff, 0xe0, 0x40, 0x00, 1);
    expect(withXmp(cut, 'image/jpeg', xmp, 1, 1)).toBeUndefined();
  });
});
