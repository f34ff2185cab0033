import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Channel } from '../sync/index.ts';
import { BOARDS, hearNews, LANDING } from './news.ts';

/** A question that is answered when the test says so, with what the server knew when it was asked. */
function slowly() {
  const waiting: (() => void)[] = [];
  const known = { now: 'before' };
  return {
    known,
    asked: 0,
    async queryFn() {
      const { now } = known;
      this.asked += 1;
      await new Promise<void>((resolve) => waiting.push(resolve));
      return now;
    },
    answer: () => waiting.shift()!(),
  };
}

describe('news', () => {
  let queries: QueryClient;
  let channel: Channel;
  let end: () => void;
  beforeEach(() => {
    vi.useFakeTimers();
    queries = new QueryClient({ defaultOptions: { queries: { networkMode: 'always', staleTime: 60_000 } } });
    channel = new Channel(crypto.randomUUID());
    end = hearNews(queries, channel);
  });
  afterEach(() => {
    end();
    queries.clear();
    vi.useRealTimers();
  });

  const tellPicture = () =>
    channel.post({ kind: 'event', event: { kind: 'picture', picture: crypto.randomUUID() } });

  it('that come while the first question is still being answered have it asked once more', async () => {
    const server = slowly();
    const observer = new QueryObserver(queries, { queryKey: LANDING, queryFn: () => server.queryFn() });
    const stop = observer.subscribe(() => {});
    await vi.advanceTimersByTimeAsync(10);
    server.known.now = 'after';
    tellPicture();
    await vi.advanceTimersByTimeAsync(500);
    expect(server.asked).toBe(1);
    server.answer();
    await vi.advanceTimersByTimeAsync(10);
    // What came first is shown until then.
    expect(observer.getCurrentResult().data).toBe('before');
    expect(server.asked).toBe(2);
    server.answer();
    await vi.advanceTimersByTimeAsync(10);
    expect(observer.getCurrentResult().data).toBe('after');
    stop();
  });

  it('that come while nothing of it is shown have it asked for when it is shown again', async () => {
    const server = slowly();
    const observer = new QueryObserver(queries, { queryKey: LANDING, queryFn: () => server.queryFn() });
    const stop = observer.subscribe(() => {});
    await vi.advanceTimersByTimeAsync(10);
    server.answer();
    await vi.advanceTimersByTimeAsync(10);
    stop();
    server.known.now = 'after';
    tellPicture();
    await vi.advanceTimersByTimeAsync(500);
    expect(server.asked).toBe(1);
    const again = observer.subscribe(() => {});
    await vi.advanceTimersByTimeAsync(10);
    server.answer();
    await vi.advanceTimersByTimeAsync(10);
    expect(observer.getCurrentResult().data).toBe('after');
    again();
  });

  it('of many pictures are one question, and none of what they are not about', async () => {
    const server = slowly();
    const boards = slowly();
    const stops = [
      new QueryObserver(queries, { queryKey: LANDING, queryFn: () => server.queryFn() }),
      new QueryObserver(queries, { queryKey: BOARDS, queryFn: () => boards.queryFn() }),
    ].map((observer) => observer.subscribe(() => {}));
    await vi.advanceTimersByTimeAsync(10);
    server.answer();
    boards.answer();
    await vi.advanceTimersByTimeAsync(10);
    for (let index = 0; index < 40; index += 1) tellPicture();
    await vi.advanceTimersByTimeAsync(500);
    expect(server.asked).toBe(2);
    expect(boards.asked).toBe(1);
    for (const stop of stops) stop();
  });
});
