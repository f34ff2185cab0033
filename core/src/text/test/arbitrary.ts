import fc from 'fast-check';
import { LISTS, type RichText, TEXT_MARKS, type TextBlock, type TextRunOf } from '../rich-text.ts';

const words = fc.stringMatching(/^[a-z áß渡א\n-]{1,16}$/);
const run: fc.Arbitrary<TextRunOf> = fc
  .tuple(words, fc.subarray([...TEXT_MARKS]), fc.boolean())
  .map(([text, marks, isLinked]) => ({
    text: text.normalize('NFC'),
    ...(marks.length > 0 && { marks }),
    ...(isLinked && { link: 'https://ferry.example/rope' }),
  }));
const block: fc.Arbitrary<TextBlock> = fc
  .tuple(fc.array(run, { maxLength: 5 }), fc.constantFrom(undefined, ...LISTS), fc.nat(5), fc.boolean())
  .map(([runs, list, depth, isDone]) => ({
    ...(list && { list, ...(depth > 0 && { depth }) }),
    ...(list === 'check' && isDone && { isDone }),
    runs,
  }));

/** Formatted texts of every form. */
export const richText: fc.Arbitrary<RichText> = fc
  .array(block, { minLength: 1, maxLength: 6 })
  .map((blocks) => ({ blocks }));
