import { describe, expect, it } from 'vitest';
import {
  createLink,
  drawnOf,
  heightOf,
  ITEM_SCHEMAS,
  kindOf,
  LINK_CARD,
  picturesOf,
  wordsOf,
} from '../index.ts';

const card = createLink({
  id: 'l',
  stack: 'a0',
  centre: { x: 0, y: 0 },
  address: 'https://www.tidewrack.example/work/17?from=here',
});
const PICTURE = '7b7cf7b2-0d0a-5b1c-9d7f-3d9b1c5f1a11';

describe('a link card', () => {
  it('is called by its host until its page was asked', () => {
    expect(card).toMatchObject({ title: 'tidewrack.example', site: 'tidewrack.example', picture: null });
    expect(wordsOf({ ...card, title: 'Reed channel,\nfog' }, () => undefined)).toBe(
      'Reed channel, fog tidewrack.example https://www.tidewrack.example/work/17?from=here',
    );
    expect(() => createLink({ ...card, address: 'nowhere' })).toThrow(TypeError);
  });

  it('takes addresses of the web alone', () => {
    const { pattern } = ITEM_SCHEMAS.link.properties.address as { pattern: string };
    expect(card.address).toMatch(new RegExp(pattern));
    for (const bad of ['javascript:alert(1)', ' https://a.example', 'file:///etc/passwd'])
      expect(bad).not.toMatch(new RegExp(pattern));
  });

  it('has a still picture as a square of its middle, where there is one', () => {
    expect(drawnOf(card).primitives.map(({ kind }) => kind)).not.toContain('picture');
    const still = { ...card, width: 640, picture: PICTURE, pictureWidth: 400, pictureHeight: 200 };
    expect(picturesOf(still)).toEqual([PICTURE]);
    const quad = drawnOf(still).primitives.find(({ kind }) => kind === 'picture');
    const side = heightOf(still);
    expect(side).toBe(2 * LINK_CARD.height);
    expect(quad).toMatchObject({
      trim: { x: 0.25, y: 0, width: 0.5, height: 1 },
      place: { x: 0, y: 0, width: side, height: side },
      longestSide: 2 * side,
    });
  });

  it('shows two lines of a long title, and that there was more', () => {
    const long = {
      ...card,
      title: 'Storm lantern seen from the side, with its bail up and the glass cleaned '.repeat(4),
    };
    const [title, site] = drawnOf(long).primitives.flatMap((one) =>
      one.kind === 'text' ? [one.text.lines] : [],
    );
    expect(title).toHaveLength(2);
    expect(title![1]!.text).toMatch(/…$/);
    expect(site!.map(({ text }) => text)).toEqual(['tidewrack.example']);
    const [, unasked] = drawnOf(card).primitives.flatMap((one) =>
      one.kind === 'text' ? [one.text.lines] : [],
    );
    expect(unasked![0]!.text).toBe('tidewrack.example/work/17?from=here');
  });

  it('takes another picture in the place of its own', () => {
    const other = { id: PICTURE, width: 30, height: 20 };
    expect(kindOf(card).exchanged?.(card, other, true)).toEqual({
      picture: PICTURE,
      pictureWidth: 30,
      pictureHeight: 20,
    });
  });
});
