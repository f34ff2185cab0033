import { describe, expect, it } from 'vitest';
import { createStore, sameParts, watch } from './index.ts';

describe('what is made of several things', () => {
  it('is the same while its parts are, also parts that are made anew each time', () => {
    const offer = (hint?: string) => ({ title: 'Trim', ids: ['untrim', 'escape'], hint });
    expect(sameParts(offer(), offer())).toBe(true);
    expect(sameParts(offer(), offer('Drag.'))).toBe(false);
    expect(sameParts(offer(), { ...offer(), ids: ['untrim'] })).toBe(false);
    expect(sameParts({ item: { id: 'a', width: 1 } }, { item: { id: 'a', width: 2 } })).toBe(false);
    expect(sameParts({}, { item: undefined })).toBe(false);
  });
});

describe('watching a part', () => {
  it('hears of that part alone, until it ends', () => {
    const store = createStore(() => ({ notice: '', selection: [1] }));
    const heard: number[] = [];
    const end = watch(
      store,
      ({ selection }) => selection,
      ({ length }) => heard.push(length),
    );
    store.setState({ notice: 'something' });
    store.setState({ selection: [1, 2] });
    end();
    store.setState({ selection: [] });
    expect(heard).toEqual([2]);
  });
});
