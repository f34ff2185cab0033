import { afterEach, expect, it, vi } from 'vitest';
import { forget, recall, remember } from './remembered.ts';

afterEach(() => vi.unstubAllGlobals());

function storage(isFull: () => boolean) {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem(key: string, text: string) {
      if (isFull()) throw new DOMException('full', 'QuotaExceededError');
      kept.set(key, text);
    },
    removeItem: (key: string) => kept.delete(key),
  });
  return kept;
}

it('remembers in this window what the browser does not take, and in the browser as soon as it does', () => {
  let isFull = false;
  const kept = storage(() => isFull);
  remember('a', 'one');
  isFull = true;
  remember('a', 'two');
  expect(recall('a')).toBe('two');
  expect(kept.get('a')).toBe('one');
  isFull = false;
  remember('a', 'three');
  expect([recall('a'), kept.get('a')]).toEqual(['three', 'three']);
  forget('a');
  expect(recall('a')).toBeNull();
});

it('goes on where there is no such store at all', () => {
  remember('b', 'kept here');
  expect(recall('b')).toBe('kept here');
  forget('b');
  expect(recall('b')).toBeNull();
});
