import { Ajv } from 'ajv';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  asChecks,
  blocksOf,
  isListed,
  isMarked,
  isStorableText,
  isText,
  lengthOfText,
  linksOf,
  listedAll,
  markedAll,
  mayLink,
  plainOf,
  TEXT_MARKS,
  TEXT_MOST,
  type Text,
  textOf,
  textSchema,
  withCheck,
} from './index.ts';
import { richText } from './test/arbitrary.ts';

const isAllowed = new Ajv()
  .addFormat('text', isStorableText)
  .addKeyword({
    keyword: 'mostCharacters',
    validate: (most: number, text: unknown) => !isText(text) || lengthOfText(text) <= most,
  })
  .compile(textSchema);

describe('a formatted text', () => {
  it('is plain where nothing of it is formatted, and a plain one is itself', () => {
    fc.assert(
      fc.property(fc.string(), (plain) => {
        expect(textOf(blocksOf(plain))).toBe(plain);
        expect(plainOf(plain)).toBe(plain);
      }),
    );
    expect(textOf([{ runs: [{ text: 'hull' }] }, { runs: [] }])).toBe('hull\n');
    expect(textOf([{ list: 'bullet', runs: [{ text: 'hull' }] }])).toEqual({
      blocks: [{ list: 'bullet', runs: [{ text: 'hull' }] }],
    });
  });

  it('is of the form that the schema tells, and so is what is done to it', () => {
    fc.assert(
      fc.property(richText, fc.constantFrom(...TEXT_MARKS), fc.boolean(), (text, mark, isOn) => {
        const made: Text[] = [text, asChecks(text), markedAll(text, mark, isOn), listedAll(text, 'number')];
        for (const one of [...made, listedAll(text, undefined), withCheck(text, 0, isOn)]) {
          expect(isAllowed(one), JSON.stringify([one, isAllowed.errors])).toBe(true);
          expect(isText(one)).toBe(true);
          expect(plainOf(one)).toBe(plainOf(text));
          expect(lengthOfText(one)).toBe(plainOf(one).length);
        }
        if (plainOf(text).replaceAll('\n', '') !== '') expect(isMarked(made[2]!, mark)).toBe(isOn);
        expect(isListed(made[3]!, 'number')).toBe(true);
      }),
    );
  });

  it('is refused where it is none, is too long, or leads where it may not', () => {
    const run = (more: object) => ({ blocks: [{ runs: [{ text: 'rope', ...more }] }] });
    for (const wrong of [
      ...[null, 7, {}, { blocks: [] }, { blocks: [{ runs: [{ text: '' }] }] }, run({ marks: [] })],
      ...[run({ marks: ['blink'] }), run({ link: 'javascript:alert(1)' }), run({ link: 'https://a b' })],
      ...[run({ style: 'x' }), { blocks: [{ list: 'poem', runs: [] }] }, run({ text: 'a\0' })],
      { blocks: [1, 2].map(() => ({ runs: [{ text: 'x'.repeat(TEXT_MOST / 2) }] })) },
    ])
      expect(isAllowed(wrong), JSON.stringify(wrong).slice(0, 90)).toBe(false);
    for (const wrong of [
      null,
      7,
      {},
      { blocks: [] },
      { blocks: [{}] },
      run({ marks: 'bold' }),
      run({ text: 1 }),
    ])
      expect(isText(wrong)).toBe(false);
  });

  it('leads to pages and to people', () => {
    for (const address of ['https://ferry.example/a', 'http://x', 'mailto:orla@ferry.example'])
      expect(mayLink(address)).toBe(true);
    for (const address of ['javascript:alert(1)', 'data:text/html,x', 'ferry.example', 'file:///etc', ''])
      expect(mayLink(address)).toBe(false);
    const link = 'https://ferry.example/';
    const text = {
      blocks: [
        { runs: [{ text: 'wet ', link }, { text: 'rope', marks: ['bold' as const], link }, { text: ', ' }] },
        { runs: [{ text: 'tar', link }] },
      ],
    };
    expect(linksOf(text)).toEqual([
      { address: link, words: 'wet rope' },
      { address: link, words: 'tar' },
    ]);
    expect(linksOf('https://ferry.example/')).toEqual([]);
  });

  it('is checked off entry by entry', () => {
    const text = asChecks('hull\nlamp');
    const done = withCheck(text, 1, true);
    expect(done).toEqual({
      blocks: [
        { list: 'check', runs: [{ text: 'hull' }] },
        { list: 'check', isDone: true, runs: [{ text: 'lamp' }] },
      ],
    });
    expect(withCheck(done, 1, false)).toEqual(text);
    expect(withCheck('hull', 0, true)).toBe('hull');
    expect(withCheck(text, 9, true)).toBe(text);
  });
});
