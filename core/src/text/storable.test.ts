import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutText, isStorableText, storableText, withStorableText } from './storable.ts';

const anyText = fc.string({ unit: 'binary' });
const units = fc.string({ unit: fc.nat(0xffff).map((code) => String.fromCharCode(code)) });

describe('text that can be kept', () => {
  it.each([
    ['half an emoji', 'a\ud83d', 'a\ufffd'],
    ['the other half', '\ude00b', '\ufffdb'],
    ['NUL', 'a\0b', 'ab'],
    ['a letter and its accent apart', 'e\u0301', '\u00e9'],
  ])('is not %s, and becomes it', (_, text, kept) => {
    expect(isStorableText(text)).toBe(false);
    expect(storableText(text)).toBe(kept);
    expect(isStorableText(kept)).toBe(true);
  });

  it('is whatever was made it, once and for all, and survives UTF-8', () => {
    fc.assert(
      fc.property(fc.oneof(anyText, units), (text) => {
        const kept = storableText(text);
        expect(isStorableText(kept)).toBe(true);
        expect(storableText(kept)).toBe(kept);
        expect(new TextDecoder('utf-8', { fatal: true }).decode(new TextEncoder().encode(kept))).toBe(
          kept.replace(/^\ufeff/, ''),
        );
      }),
    );
  });

  it('is cut between characters', () => {
    expect(cutText('ab😀', 3)).toBe('ab');
    expect(cutText('ab😀', 4)).toBe('ab😀');
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), fc.nat(30), (text, length) => {
        const cut = cutText(text, length);
        expect(cut.length).toBeLessThanOrEqual(length);
        expect(/\p{Surrogate}/u.test(cut)).toBe(false);
        expect(text.startsWith(cut)).toBe(true);
      }),
    );
  });

  it('is made so anywhere in a value, which stays itself where nothing alters', () => {
    const value = { a: ['é', { b: 1, c: null }], d: true };
    expect(withStorableText(value)).toBe(value);
    expect(withStorableText({ 'k\0': ['x\ud83d', 2] })).toEqual({ k: ['x\ufffd', 2] });
  });
});
