import { createNote } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Buffer, ViewNow } from './buffer.ts';
import type { Paint } from './lift.ts';
import { LiftAhead } from './lift-ahead.ts';
import type { SceneFeed } from './scene-feed.ts';

const NOW: ViewNow = {
  view: { x: 0, y: 0, width: 100, height: 80 },
  scale: 2,
  ground: '#777',
  lenses: [],
  ratio: 1,
};
const note = (id: string): Item =>
  createNote({ id, stack: 'a0', centre: { x: 5, y: 5 }, width: 20, height: 10, text: id });

describe('lifting ahead of the hand', () => {
  let items: Map<string, Item>;
  let feed: { version: number; board: { shown(id: string): Item | undefined } };
  let ahead: LiftAhead;
  /** Bitmaps that were made, and whether they were freed. */
  let bitmaps: { isFree: boolean }[];
  const paint: Paint = async ({ view, scale, except = [] }) => {
    const bitmap = {
      width: view.width * scale,
      height: view.height * scale,
      isFree: false,
      close() {
        this.isFree = true;
      },
    };
    bitmaps.push(bitmap);
    const { version } = feed;
    return {
      ...{ bitmap: bitmap as never, view, scale, version, staleness: 0, except, patches: [] },
      ...{ isSharp: true, isComplete: true, isAwaiting: false, lenses: [] },
    } satisfies Buffer;
  };

  beforeEach(() => {
    vi.useFakeTimers({ toFake: ['performance'] });
    vi.advanceTimersByTime(10_000);
    items = new Map(['a', 'b', 'c'].map((id) => [id, note(id)]));
    feed = { version: 1, board: { shown: (id) => items.get(id) } };
    bitmaps = [];
    ahead = new LiftAhead(feed as SceneFeed, paint);
    ahead.refresh();
    vi.advanceTimersByTime(2_000);
  });
  afterEach(() => vi.useRealTimers());

  const work = () => ahead.work(NOW, performance.now(), 0);
  const prepare = async () => {
    vi.advanceTimersByTime(50);
    const next = work();
    if (typeof next === 'number') throw new Error(`nothing to do for ${next} ms`);
    await next();
  };

  it('has what was selected at hand, in whatever order the hand takes it, once', async () => {
    ahead.expect(['a', 'b']);
    expect(work()).toBeCloseTo(40);
    await prepare();
    expect(work()).toBe(Number.POSITIVE_INFINITY);
    expect(ahead.take(NOW, ['b', 'a'], 0)).toMatchObject({
      lifted: { ids: ['b', 'a'], lead: 'a' },
      below: { except: ['b', 'a'] },
    });
    expect(ahead.take(NOW, ['b', 'a'], 0)).toBeUndefined();
    expect(ahead.bitmaps).toEqual([]);
  });

  it('has nothing for another selection, another view, other pixels, or another look', async () => {
    ahead.expect(['a', 'b']);
    await prepare();
    expect(ahead.take(NOW, ['a'], 0)).toBeUndefined();
    expect(ahead.take(NOW, ['a', 'c'], 0)).toBeUndefined();
    expect(ahead.take({ ...NOW, scale: 3 }, ['a', 'b'], 0)).toBeUndefined();
    expect(ahead.take({ ...NOW, view: { ...NOW.view, x: 500 } }, ['a', 'b'], 0)).toBeUndefined();
    expect(ahead.take(NOW, ['a', 'b'], 1)).toBeUndefined();
    items.set('b', { ...items.get('b')!, opacity: 0.5 });
    expect(ahead.take(NOW, ['a', 'b'], 0)).toBeUndefined();
  });

  it('lets go of it when the board alters, and waits for the keys to rest', async () => {
    ahead.expect(['a']);
    await prepare();
    feed.version = 2;
    ahead.refresh();
    expect(bitmaps.every(({ isFree }) => isFree)).toBe(true);
    expect(ahead.take(NOW, ['a'], 0)).toBeUndefined();
    expect(work()).toBeCloseTo(1_000);
    vi.advanceTimersByTime(1_000);
    await prepare();
    expect(ahead.take(NOW, ['a'], 0)).toBeDefined();
  });

  it('frees what was painted for a selection that is no more, and holds nothing of what is not there', async () => {
    ahead.expect(['a']);
    vi.advanceTimersByTime(50);
    const painting = work();
    const painted = typeof painting === 'number' ? undefined : painting();
    ahead.expect([]);
    await painted;
    expect(bitmaps).toHaveLength(2);
    expect(bitmaps.every(({ isFree }) => isFree)).toBe(true);
    expect(work()).toBe(Number.POSITIVE_INFINITY);
    ahead.expect(['gone']);
    await prepare();
    expect(work()).toBe(Number.POSITIVE_INFINITY);
  });
});
