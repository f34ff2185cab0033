import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawnOf, isPictureMark } from '../items/index.ts';
import { readCopied, writeCopied } from './copied.ts';
import { board } from './test/arbitrary.ts';

describe('what was copied', () => {
  it('is read as it was, but for clusters, and pictures with marks on them, that were left behind', () => {
    fc.assert(
      fc.property(board, (items) => {
        const ids = new Set(items.map(({ id }) => id));
        const kept = items.filter((item) => !isPictureMark(item) || ids.has(item.on));
        expect(readCopied(writeCopied(items)) ?? []).toEqual(
          kept.map((item) => ({
            ...item,
            ...{ removed: false, cluster: item.cluster && ids.has(item.cluster) ? item.cluster : null },
          })),
        );
      }),
    );
  });

  it('is nothing where somebody else wrote it, and never what could not be drawn', () => {
    for (const text of ['', '{', 'null', '[]', '{"miradero":1,"items":[]}', '{"miradero":2,"items":[{}]}'])
      expect(readCopied(text)).toBeUndefined();
    fc.assert(
      fc.property(
        board.filter((items) => items.length > 0),
        fc.constantFrom(
          'kind',
          'centre',
          'width',
          'trim',
          'text',
          'height',
          'picture',
          'title',
          'stack',
          'pictureWidth',
        ),
        fc.constantFrom(undefined, null, 'x', -1, Number.NaN, { x: null }, []),
        (items, property, value) => {
          const read = readCopied(writeCopied([{ ...items[0]!, [property]: value } as never]));
          for (const item of read ?? []) expect(() => drawnOf(item)).not.toThrow();
        },
      ),
    );
  });
});
