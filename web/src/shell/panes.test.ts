import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addressOfPanes, amongPanes, besideAfter, MOST_PANES, panesIn, withPane } from './panes.ts';

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

  it('stay where one goes to another of them', () => {
    const here = { pathname: '/boards/a', search: '?panes=a,b' };
    expect(amongPanes('/boards/b', here)).toBe('/boards/b?panes=a,b');
    expect(amongPanes('/boards/c', here)).toBe('/boards/c');
    expect(amongPanes('/library', here)).toBe('/library');
    expect(amongPanes('/boards/b', { pathname: '/library', search: '?panes=a,b' })).toBe('/boards/b');
  });
});
