import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Channel } from './channel.ts';
import { jobProgress } from './job-progress.ts';

describe('progress of jobs', () => {
  let channel: Channel;
  beforeEach(() => {
    vi.useFakeTimers();
    channel = new Channel(crypto.randomUUID());
  });
  afterEach(() => vi.useRealTimers());
  const tell = (of: string, share: number) =>
    channel.post({ kind: 'event', event: { kind: 'progress', job: 'tiles', of, share } });

  it('is known of each thing, and ends when it is said to', () => {
    const store = jobProgress(channel);
    tell('a', 0.2);
    tell('b', 0.5);
    tell('a', 0.6);
    expect([...store.getState()]).toEqual([
      ['a', 0.6],
      ['b', 0.5],
    ]);
    channel.post({ kind: 'event', event: { kind: 'picture', picture: 'a' } });
    expect(store.getState().get('a')).toBe(0.6);
    tell('a', 1);
    expect([...store.getState()]).toEqual([['b', 0.5]]);
  });

  it('is forgotten when nothing more is told', () => {
    const store = jobProgress(channel);
    tell('a', 0.2);
    vi.advanceTimersByTime(10_000);
    tell('a', 0.3);
    vi.advanceTimersByTime(10_000);
    expect(store.getState().get('a')).toBe(0.3);
    vi.advanceTimersByTime(10_000);
    expect(store.getState().size).toBe(0);
  });
});
