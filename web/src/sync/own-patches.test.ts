import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { FakeServer } from './test/fake-server.ts';
import { startTestSync, type TestSync } from './test/start.ts';

const PATH = '/api/subjects/one';
let sync: TestSync;

beforeEach(async () => {
  new FakeServer('b');
  sync = await startTestSync();
});
afterEach(() => {
  sync.stop();
  vi.unstubAllGlobals();
});

const queue = (id: string, body: object) => sync.channel.post({ kind: 'patch-queued', path: PATH, id, body });
const settle = (id: string, isTaken: boolean) =>
  sync.channel.post({ kind: 'patch-settled', path: PATH, id, isTaken });

it('tells what was on its way before, and what came and went while an answer was waited for', async () => {
  queue('a', { name: 'Heron' });
  const { bodies } = await sync.patches.during(PATH, async () => {
    settle('a', true);
    queue('b', { note: 'at dusk' });
    settle('b', true);
    queue('c', { name: 'Grey heron' });
  });
  expect(bodies).toEqual([{ name: 'Heron' }, { note: 'at dusk' }, { name: 'Grey heron' }]);
});

it('tells the same of everything below a path, by path', async () => {
  const { bodies } = await sync.patches.duringUnder('/api/subjects/', async () => {
    queue('a', { name: 'Heron' });
    settle('a', true);
  });
  expect([...bodies]).toEqual([[PATH, [{ name: 'Heron' }]]]);
  expect((await sync.patches.duringUnder('/api/pictures/', async () => {})).bodies.size).toBe(0);
});

it('tells nothing of what the server refused meanwhile', async () => {
  const { bodies } = await sync.patches.during(PATH, async () => {
    queue('a', { name: '' });
    settle('a', false);
  });
  expect(bodies).toEqual([]);
});
