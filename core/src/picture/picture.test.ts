import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  atlasCellOrigin,
  cleanFileName,
  cleanName,
  decodePercent,
  kindOfBytes,
  ladderSidesOf,
  nameOfFile,
  pictureIdOf,
  portableName,
  sizeAtSide,
  sufficientSide,
} from './index.ts';

describe('ladder', () => {
  it('is native at the top up to 2048 and never larger than the picture', () => {
    expect(ladderSidesOf(1600, 1000)).toEqual([128, 256, 512, 1024, 1600]);
    expect(ladderSidesOf(6000, 4000)).toEqual([128, 256, 512, 1024, 2048]);
    expect(ladderSidesOf(2048, 10)).toEqual([128, 256, 512, 1024, 2048]);
    expect(ladderSidesOf(90, 40)).toEqual([90]);
    expect(ladderSidesOf(128, 1)).toEqual([128]);
    expect(() => ladderSidesOf(0, 10)).toThrow(RangeError);
  });

  it('grows, and ends at the side of the picture or 2048', () => {
    const side = fc.integer({ min: 1, max: 20_000 });
    fc.assert(
      fc.property(side, side, (width, height) => {
        const sides = ladderSidesOf(width, height);
        expect([...sides].sort((a, b) => a - b)).toEqual(sides);
        expect(new Set(sides).size).toBe(sides.length);
        expect(sides[sides.length - 1]).toBe(Math.min(2048, Math.max(width, height)));
      }),
    );
  });

  it('shows the smallest level that covers the device pixels, else the largest', () => {
    expect(sufficientSide([128, 256, 512], 129)).toBe(256);
    expect(sufficientSide([512, 128, 256], 128)).toBe(128);
    expect(sufficientSide([128, 256], 900)).toBe(256);
    expect(sufficientSide([], 10)).toBeUndefined();
  });

  it('keeps the aspect, and at least one pixel', () => {
    expect(sizeAtSide(6000, 4000, 512)).toEqual({ width: 512, height: 341 });
    expect(sizeAtSide(10_000, 3, 128)).toEqual({ width: 128, height: 1 });
  });

  it('finds the cell of an atlas', () => {
    expect(atlasCellOrigin(33, 64)).toEqual({ x: 64, y: 64 });
    expect(() => atlasCellOrigin(1024, 64)).toThrow(RangeError);
  });
});

describe('name', () => {
  it('is that of the file without folders and ending', () => {
    expect(nameOfFile('C:\\boats\\winch house.final.JPG')).toBe('winch house.final');
    expect(nameOfFile('../../etc/ferry.png')).toBe('ferry');
    expect(nameOfFile('.png')).toBe('Picture');
    expect(nameOfFile('')).toBe('Picture');
  });

  it('has no unseen characters, one line and at most 200 characters', () => {
    expect(cleanName('ferry\u202Egnp.exe\u0000\n two')).toBe('ferry gnp.exe two');
    expect([...cleanName('⛴'.repeat(1000))]).toHaveLength(200);
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(cleanName(cleanName(text))).toBe(cleanName(text));
      }),
    );
  });
});

describe('the name of a file', () => {
  it('can stand in the head of a form, whatever an archive calls it', () => {
    expect(cleanFileName('a\0b.png')).toBe('a b.png');
    expect(cleanFileName('../../e\u0301t\ud83d.png')).toBe('ét\ufffd.png');
    expect(cleanFileName('boats/')).toBe('file');
    const long = cleanFileName(`${'n'.repeat(18_000)}.jpeg`);
    expect([long.length, long.slice(-6)]).toEqual([255, 'n.jpeg']);
  });

  it('is read from an address as UTF-8, else as old pages meant it', () => {
    expect(decodePercent('%C3%A9t%C3%A9.jpg')).toBe('été.jpg');
    expect(decodePercent('%E9t%E9.jpg')).toBe('été.jpg');
    expect(decodePercent('100%.jpg %zz')).toBe('100%.jpg %zz');
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        expect(decodePercent(encodeURIComponent(text))).toBe(text);
      }),
    );
  });
});

describe('identity', () => {
  const owner = '3f1c6e0a-6a2f-4f0e-9d55-0a3c2f4c1b7d';

  it('is the same for the same bytes of one owner, and another for another owner', () => {
    const hash = 'a'.repeat(64);
    expect(pictureIdOf(owner, hash)).toBe(pictureIdOf(owner, hash));
    expect(pictureIdOf(owner, hash)).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-5[0-9a-f]{3}-[89ab]/);
    expect(pictureIdOf(owner, hash)).not.toBe(pictureIdOf(owner, 'b'.repeat(64)));
    expect(pictureIdOf(owner, hash)).not.toBe(pictureIdOf('00000000-0000-4000-8000-000000000000', hash));
  });

  it('agrees with RFC 9562, appendix A.4', async () => {
    const { v5 } = await import('uuid');
    expect(v5('www.example.com', '6ba7b810-9dad-11d1-80b4-00c04fd430c8')).toBe(
      '2ed6657d-e927-568b-95e1-2665a8aea6a2',
    );
  });

  it('refuses what is no hash', () => {
    expect(() => pictureIdOf(owner, 'A'.repeat(64))).toThrow(RangeError);
  });
});

describe('kind of bytes', () => {
  it('is told by content, whatever the name', () => {
    expect(kindOfBytes(new Uint8Array([0xff, 0xd8, 0xff, 0xe0]))).toBe('image/jpeg');
    expect(kindOfBytes(new TextEncoder().encode('RIFF1234WEBPVP8 '))).toBe('image/webp');
    expect(kindOfBytes(new TextEncoder().encode('RIFF1234WAVEfmt '))).toBeUndefined();
    expect(kindOfBytes(new TextEncoder().encode('<html><svg xmlns="'))).toBeUndefined();
    expect(kindOfBytes(new Uint8Array())).toBeUndefined();
  });
});

describe('a name for a file', () => {
  it('is one that every system takes: no signs, no dots at its ends, no device of Windows', () => {
    expect(
      ['Ferry / form', '..', ' .a. ', 'CON', 'nul.txt', 'Console', 'a\u202egnp', 'x'].map(portableName),
    ).toEqual(['Ferry form', 'picture', 'a', 'CON of mine', 'nul of mine.txt', 'Console', 'a gnp', 'x']);
  });
});
