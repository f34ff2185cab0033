import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addressOfPanes,
  amongPanes,
  besideAfter,
  isBoardPane,
  MOST_PANES,
  paneShowing,
  panesIn,
  shownIn,
  withPane,
} from './panes.ts';

const ids = fc.uniqueArray(fc.uuid(), { minLength: 1, maxLength: MOST_PANES });
const split = (address: string): [string, string] => {
  const url = new URL(address, 'http://x');
  return [url.pathname.slice('/boards/'.length), url.search];
};

describe('boards side by side', () => {
  it('are read from an address as they were written into it', () => {
    fc.assert(
      fc.property(ids, fc.nat(), (panes, at) => {
        const front = panes[at % panes.length]!;
        const [read, search] = split(addressOfPanes(front, panes));
        expect(read).toBe(front);
        expect(panesIn(read, search)).toEqual(panes);
      }),
    );
  });

  it('are the one in front alone where an address says anything else', () => {
    expect(panesIn('a', '')).toEqual(['a']);
    expect(panesIn('a', '?panes=b,c')).toEqual(['a']);
    expect(panesIn('a', '?panes=b,a,a,,b')).toEqual(['b', 'a']);
    expect(panesIn('a', '?panes=a,b,c,d')).toEqual(['a', 'b', 'c']);
    expect(addressOfPanes('x', ['a', 'b'])).toBe('/boards/x');
  });

  it('are laid at an end, and leave the nearest in front', () => {
    expect(withPane(['a', 'b'], 'c', 'left')).toEqual(['c', 'a', 'b']);
    expect(withPane(['a', 'b'], 'a', 'right')).toEqual(['b', 'a']);
    expect(besideAfter(['a', 'b', 'c'], 'b')).toBe('c');
    expect(besideAfter(['a', 'b'], 'b')).toBe('a');
    expect(besideAfter(['a'], 'a')).toBeUndefined();
  });

  it('have what is shown of one beside them, named so that it is read back', () => {
    const id = fc.stringMatching(/^[0-9A-Za-z_-]{1,40}$/);
    const shows = fc.oneof(
      fc.record({
        kind: fc.constant('items' as const),
        board: fc.uuid(),
        items: fc.array(id, { minLength: 1 }),
      }),
      fc.record(
        { kind: fc.constant('stage' as const), board: fc.uuid(), stage: id },
        { requiredKeys: ['kind', 'board'] },
      ),
      fc.record(
        { kind: fc.constant('board' as const), board: fc.uuid(), at: id },
        { requiredKeys: ['kind', 'board'] },
      ),
    );
    fc.assert(
      fc.property(shows, (one) => {
        const pane = paneShowing(one);
        expect(shownIn(pane)).toEqual(one);
        expect(isBoardPane(pane)).toBe(one.kind === 'board' && one.at === undefined);
        const [, search] = split(addressOfPanes(one.board, [one.board, pane]));
        expect(panesIn(one.board, search)).toEqual([...new Set([one.board, pane])]);
      }),
    );
    for (const torn of ['items.x', 'stage.', 'at.<b>.y', 'pictures.a', '.', 'b.x', 'board.b'])
      expect(shownIn(torn), torn).toBeUndefined();
    // A board comes to the front, never what is shown of one.
    expect(besideAfter(['a', 'stage.a', 'b'], 'a')).toBe('b');
    expect(besideAfter(['stage.a', 'a'], 'a')).toBeUndefined();
  });

  it('stay where one goes to another of them', () => {
    const here = { pathname: '/boards/a', search: '?panes=a,b' };
    expect(amongPanes('/boards/b', here)).toBe('/boards/b?panes=a,b');
    expect(amongPanes('/boards/c', here)).toBe('/boards/c');
    expect(amongPanes('/library', here)).toBe('/library');
    expect(amongPanes('/boards/b', { pathname: '/library', search: '?panes=a,b' })).toBe('/boards/b');
  });
});
