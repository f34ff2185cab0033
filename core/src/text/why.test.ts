import { describe, expect, it } from 'vitest';
import { whyOf } from './why.ts';

/** What this very engine throws. */
function thrownBy(fails: () => unknown): unknown {
  try {
    fails();
  } catch (error) {
    return error;
  }
  throw new Error('nothing was thrown');
}

describe('why something failed', () => {
  it('is told in the words of whoever threw it', () => {
    expect(whyOf(new Error('The sheet is too large.'))).toBe('The sheet is too large.');
    expect(whyOf(new RangeError('no items have no bounds'))).toBe('no items have no bounds');
    expect(whyOf('gone')).toBe('gone');
    expect(whyOf(undefined)).toBe('undefined');
  });

  it('is told in plain words where the engine has no memory, or the browser no room', () => {
    const words = 'The browser has no memory left for it.';
    expect(whyOf(thrownBy(() => new ArrayBuffer(2 ** 52)))).toBe(words);
    expect(whyOf(thrownBy(() => new Float64Array(2 ** 52)))).toBe(words);
    expect(whyOf(thrownBy(() => new Array(-1)))).toBe(words);
    expect(whyOf(new DOMException('exceeded', 'QuotaExceededError'))).toBe(
      'The browser has no room left on the disk.',
    );
  });
});
