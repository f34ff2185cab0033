import type { Picture } from '@miradero/core/schema';
import { afterEach, expect, it, vi } from 'vitest';
import { askPictures } from './ask-pictures.ts';
import { FakeServer } from './test/fake-server.ts';

afterEach(() => vi.unstubAllGlobals());

it('asks for as many pictures as there are in questions that a server takes', async () => {
  const server = new FakeServer('b');
  const ids = Array.from({ length: 250 }, () => crypto.randomUUID());
  for (const id of ids.slice(1)) server.pictures.set(id, { id } as Picture);
  const lengths: number[] = [];
  server.intercept = (_method, path) => {
    lengths.push(path.length);
    return undefined;
  };
  const pictures = await askPictures([...ids, ids[7]!]);
  // One is not there any more.
  expect([...pictures.keys()]).toEqual(ids.slice(1));
  expect(lengths.length).toBeGreaterThan(1);
  expect(Math.max(...lengths)).toBeLessThan(4_000);
});
