import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  AGAIN_MS,
  type DrawingVersion,
  GONE_MS,
  MOST_FAILURES,
  SaveWatch,
  STILL_MS,
  versionsToDrop,
} from './index.ts';

const file = (bytes: number, modifiedMs: number) => ({ bytes, modifiedMs });

describe('a file that is followed', () => {
  it('is read once it stood still, and once', () => {
    const watch = new SaveWatch();
    expect(watch.see(file(10, 1), 0)).toBe('wait');
    expect(watch.see(file(10, 1), STILL_MS - 1)).toBe('wait');
    expect(watch.restMs(STILL_MS - 1)).toBe(1);
    expect(watch.restMs(STILL_MS + 5)).toBe(0);
    expect(watch.see(file(10, 1), STILL_MS)).toBe('read');
    watch.done();
    expect(watch.see(file(10, 1), 9_000)).toBe('nothing');
    expect(watch.see(file(10, 2), 9_100)).toBe('wait');
    expect(watch.see(file(10, 2), 9_100 + STILL_MS)).toBe('read');
  });

  it('is not read while it is written in pieces', () => {
    const watch = new SaveWatch(file(10, 1));
    for (let piece = 0; piece < 20; piece += 1)
      expect(watch.see(file(100 * piece, 50 + piece), 200 * piece)).toBe('wait');
    expect(watch.see(file(1_900, 69), 3_800 + STILL_MS)).toBe('read');
  });

  it('that only was made is waited for, and what cannot be read is tried again later', () => {
    const watch = new SaveWatch();
    watch.see(file(0, 1), 0);
    expect(watch.see(file(0, 1), 60_000)).toBe('wait');
    watch.see(file(7, 2), 60_100);
    expect(watch.see(file(7, 2), 60_500)).toBe('read');
    watch.failed(60_500);
    expect(watch.restMs(60_600)).toBe(AGAIN_MS - 100);
    expect(watch.see(file(7, 2), 60_600)).toBe('wait');
    expect(watch.see(file(7, 2), 60_500 + AGAIN_MS)).toBe('read');
    // Written anew it is tried at once.
    watch.failed(63_000);
    watch.see(file(9, 3), 63_100);
    expect(watch.see(file(9, 3), 63_100 + STILL_MS)).toBe('read');
  });

  it('is not being written any more when it was tried often as it stands; written anew it is again', () => {
    const watch = new SaveWatch();
    watch.see(file(7, 1), 0);
    for (let tried = 0; tried < MOST_FAILURES; tried += 1) {
      expect(watch.isHopeless).toBe(false);
      watch.failed(1_000 * tried);
    }
    expect(watch.isHopeless).toBe(true);
    watch.see(file(8, 2), 60_000);
    expect(watch.isHopeless).toBe(false);
  });

  it('that is renamed over is not gone, one that was deleted is, and may come back', () => {
    const watch = new SaveWatch(file(10, 1));
    expect(watch.see(undefined, 0)).toBe('wait');
    expect(watch.see(file(10, 1), 400)).toBe('nothing');
    expect(watch.see(undefined, 500)).toBe('wait');
    expect(watch.see(undefined, 500 + GONE_MS)).toBe('gone');
    expect(watch.see(file(12, 5), 9_000)).toBe('wait');
    expect(watch.see(file(12, 5), 9_000 + STILL_MS)).toBe('read');
  });

  it('is never read within the time in which it has to stand still', () => {
    const step = fc.record({
      seen: fc.option(fc.record({ bytes: fc.nat(3), modifiedMs: fc.nat(3) }), { nil: undefined }),
      afterMs: fc.integer({ min: 1, max: 700 }),
      becomes: fc.constantFrom('version', 'nothing'),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const watch = new SaveWatch();
        let [at, since] = [0, 0];
        let last = '';
        for (const { seen, afterMs, becomes } of steps) {
          at += afterMs;
          if (JSON.stringify(seen ?? null) !== last) since = at;
          last = JSON.stringify(seen ?? null);
          const next = watch.see(seen, at);
          if (next !== 'read') continue;
          expect(at - since).toBeGreaterThanOrEqual(STILL_MS);
          expect(seen!.bytes).toBeGreaterThan(0);
          if (becomes === 'version') {
            watch.done();
            expect(watch.see(seen, at)).toBe('nothing');
          } else watch.failed(at);
        }
      }),
    );
  });
});

describe('versions of a drawing', () => {
  const HOUR = 3_600_000;
  const every = (count: number, ms: number, bytes = 1): DrawingVersion[] =>
    Array.from({ length: count }, (_, index) => ({ number: index + 1, savedAtMs: index * ms, bytes }));

  it('are kept: the last twenty, then one an hour, the last of each', () => {
    // One each ten minutes for ten hours.
    const all = every(60, HOUR / 6);
    const dropped = new Set(versionsToDrop(all));
    const kept = all.filter(({ number }) => !dropped.has(number)).map(({ number }) => number);
    expect(kept.slice(-20)).toEqual(Array.from({ length: 20 }, (_, index) => 41 + index));
    expect(kept.slice(0, -20)).toEqual([6, 12, 18, 24, 30, 36, 40]);
  });

  it('fit into their bytes, oldest first to go, and the newest stays however large it is', () => {
    const all = every(30, 1_000, 10);
    const dropped = versionsToDrop(all, { latest: 20, bytes: 75 });
    expect(30 - dropped.length).toBe(7);
    expect(
      Math.min(...all.filter(({ number }) => !dropped.includes(number)).map(({ number }) => number)),
    ).toBe(24);
    expect(versionsToDrop([{ number: 1, savedAtMs: 0, bytes: 1e12 }])).toEqual([]);
  });

  it('that were dropped as they came are those that are dropped at the end, but for the bytes', () => {
    const gaps = fc.array(fc.integer({ min: 1_000, max: 2 * HOUR }), { minLength: 1, maxLength: 80 });
    fc.assert(
      fc.property(gaps, (after) => {
        let at = 0;
        const all = after.map((gap, index): DrawingVersion => {
          at += gap;
          return { number: index + 1, savedAtMs: at, bytes: 1 };
        });
        let kept: DrawingVersion[] = [];
        for (const version of all) {
          kept.push(version);
          const dropped = versionsToDrop(kept);
          kept = kept.filter(({ number }) => !dropped.includes(number));
        }
        const atOnce = versionsToDrop(all);
        expect(kept.map(({ number }) => number)).toEqual(
          all.map(({ number }) => number).filter((number) => !atOnce.includes(number)),
        );
      }),
    );
  });
});
