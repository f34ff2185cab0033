import { blocksOf, DEEPEST, LISTS, plainOf, TEXT_MARKS, type TextBlock, textOf } from '@miradero/core/text';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documentOf, textOfDocument } from './document.ts';

const words = fc.stringMatching(/^[a-z áß渡]{1,12}$/);
const looks = fc.oneof(
  fc.constant({}),
  fc.subarray([...TEXT_MARKS], { minLength: 1 }).map((marks) => ({ marks })),
  fc.constant({ link: 'https://ferry.example/rope' }),
);
/** Runs side by side that look alike are one: each here looks otherwise than the one before it. */
const runs = fc
  .array(fc.tuple(words, looks), { maxLength: 4 })
  .map((all) =>
    all
      .filter(([, look], at) => at === 0 || JSON.stringify(look) !== JSON.stringify(all[at - 1]![1]))
      .map(([text, look]) => ({ text, ...look })),
  );
const block = fc.tuple(runs, fc.constantFrom(undefined, ...LISTS), fc.boolean());
/** Depths as lists can have them: no entry stands more than one deeper than the one before it. */
const text = fc.array(fc.tuple(block, fc.nat(DEEPEST)), { minLength: 1, maxLength: 9 }).map((all) => {
  let deepest = 0;
  return textOf(
    all.map(([[own, list, isDone], wanted]): TextBlock => {
      if (list === undefined) {
        deepest = 0;
        return { runs: own };
      }
      const depth = Math.min(wanted, deepest);
      deepest = depth + 1;
      return { list, ...(depth > 0 && { depth }), ...(list === 'check' && isDone && { isDone }), runs: own };
    }),
  );
});

describe('a text in the editor', () => {
  it('comes back as it went in', () => {
    fc.assert(
      fc.property(text, (one) => {
        expect(textOfDocument(documentOf(blocksOf(one)))).toEqual(one);
      }),
    );
  });

  it('keeps the words whatever a document holds, and leads nowhere that it may not', () => {
    const run = (type: string, attrs = {}) => ({
      type: 'paragraph',
      content: [{ type: 'text', text: 'tarred rope', marks: [{ type, attrs }] }],
    });
    const document = {
      type: 'doc',
      content: [run('highlight'), run('link', { href: 'javascript:alert(1)' }), run('link', { href: 7 })],
    };
    expect(textOfDocument(document)).toBe('tarred rope\ntarred rope\ntarred rope');
    const quote = { type: 'doc', content: [{ type: 'blockquote', content: [run('bold')] }] };
    expect(plainOf(textOfDocument(quote))).toBe('tarred rope');
  });

  it('has a line break within a paragraph as one character', () => {
    const one = { blocks: [{ runs: [{ text: 'hull\nkeel', marks: ['bold' as const] }] }] };
    const [paragraph] = documentOf(one.blocks).content!;
    expect(paragraph!.content!.map(({ type }) => type)).toEqual(['text', 'hardBreak', 'text']);
    expect(textOfDocument(documentOf(one.blocks))).toEqual(one);
  });
});
