import { describe, expect, it } from 'vitest';
import { placeLabels } from './labels.ts';
import { withOwnNames } from './named-states.ts';
import { newsWords } from './news.ts';
import { seenOf } from './seen.ts';
import { dayWords, momentWords } from './when.ts';

const at = (day: number, hour = 9, minute = 5) => new Date(2026, 10, day, hour, minute);
const NOW = at(28, 12);

describe('a day', () => {
  it('is told as people do: today, yesterday, by its weekday for a week, then by its date', () => {
    expect([28, 27, 26, 22, 21].map((day) => dayWords(at(day, 23), NOW))).toEqual([
      ...['today', 'yesterday', 'Thursday', 'Sunday', '21 November'],
    ]);
    expect(dayWords(new Date(2025, 10, 28), NOW)).toBe('28 November 2025');
    // A clock that was wrong.
    expect(dayWords(new Date(2026, 10, 30), NOW)).toBe('30 November');
    expect(momentWords(at(27), NOW)).toBe('yesterday, 09:05');
  });
});

describe('what happened while nobody looked', () => {
  const counts = { added: 0, removed: 0, altered: 0 };
  it('is told with day and name, or not at all', () => {
    const news = {
      ...{ revision: 9, items: [] },
      by: [
        { name: 'Mara Quill', gist: { note: { ...counts, added: 2 }, placement: { ...counts, added: 4 } } },
        { name: null, gist: { placement: { ...counts, altered: 1 } } },
      ],
    };
    expect(newsWords(news, at(26), NOW)).toBe(
      'Since Thursday: 4 pictures, 2 remarks, by “Mara Quill”; 1 altered, by you, elsewhere',
    );
    expect(newsWords(news, at(28, 8), NOW)).toMatch(/^Since 08:05: /);
    expect(newsWords({ revision: 9, items: [], by: [] }, at(26), NOW)).toBeUndefined();
    expect(
      newsWords({ revision: 9, items: [], by: [{ name: null, gist: {} }] }, at(26), NOW),
    ).toBeUndefined();
  });

  it('begins anew where what this browser remembers makes no sense', () => {
    const kept = new Map<string, string>();
    globalThis.localStorage = { getItem: (key: string) => kept.get(key) ?? null } as Storage;
    for (const text of ['', '{', 'null', '7', '{"revision":-0.5,"at":"x"}', '{"revision":3,"at":"soon"}']) {
      kept.set('miradero-seen-b', text);
      expect(seenOf('b'), text).toBeUndefined();
    }
    const seen = { revision: 3, at: '2026-11-26T09:00:00.000Z' };
    kept.set('miradero-seen-b', JSON.stringify(seen));
    expect(seenOf('b')).toEqual(seen);
  });
});

describe('names of states', () => {
  const named = [{ id: 'a', revision: 4, name: 'Before the fog', namedAt: 'then' }];
  const own = (id: string, ...bodies: object[]) => new Map([[`/api/named-states/${id}`, bodies]]);

  it('are shown as they will be once the server knows what was said here', () => {
    expect(withOwnNames(named, 'b', own('a', { board: 'b', name: 'Fog' }))).toMatchObject([{ name: 'Fog' }]);
    expect(withOwnNames(named, 'b', own('a', { board: 'b', isPutAway: true }))).toEqual([]);
    expect(withOwnNames(named, 'b', own('n', { board: 'b', revision: 2, name: 'First' }))).toMatchObject([
      ...[{ id: 'n', revision: 2, name: 'First' }, { id: 'a' }],
    ]);
    // Another board's, and one of which only the server will know where it lies.
    expect(withOwnNames(named, 'b', own('n', { board: 'c', revision: 2, name: 'x' }))).toEqual(named);
    expect(withOwnNames(named, 'b', own('n', { board: 'b', name: 'x' }))).toEqual(named);
  });

  it('and days stand along the line without one over another; names first', () => {
    const day = (text: string, x: number) => ({ key: text, text, x, isName: false });
    const labels = [
      ...[day('Sunday', 0), day('Monday', 20), day('Tuesday', 300), day('today', 590)],
      { key: 'n', text: 'Before the fog closes in over the whole of the marsh', x: 310, isName: true },
    ];
    const placed = placeLabels(labels, 600);
    expect(placed.map(({ key }) => key)).toEqual(['Monday', 'n', 'today']);
    for (const [index, { left, width }] of placed.entries()) {
      expect(left + width).toBeLessThanOrEqual(placed[index + 1]?.left ?? 600);
      expect(left).toBeGreaterThanOrEqual(0);
    }
    expect(placeLabels(labels, 20)).toHaveLength(1);
    expect(placeLabels([], 600)).toEqual([]);
  });
});
