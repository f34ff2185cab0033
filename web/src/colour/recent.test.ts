import { expect, it } from 'vitest';
import { MOST_RECENT, withRecent } from './recent.ts';

it('the last colour comes first, once, and twelve stay at hand', () => {
  expect(withRecent(['#aa0000', '#00aa00'], '#00aa00')).toEqual(['#00aa00', '#aa0000']);
  let all: readonly string[] = [];
  for (let count = 0; count < 20; count += 1) all = withRecent(all, `#0000${(10 + count).toString()}`);
  expect(all).toHaveLength(MOST_RECENT);
  expect([all[0], all[11]]).toEqual(['#000029', '#000018']);
});
