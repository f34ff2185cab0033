import type { Picture } from '@miradero/core/schema';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { soon } from '../test/soon.ts';
import { pathOfPicture } from './picture-shelf.ts';
import { FakeServer } from './test/fake-server.ts';
import { startTestSync, type TestSync } from './test/start.ts';

const ID = 'c0000000-0000-4000-8000-000000000000';
let server: FakeServer;
let sync: TestSync;
const picture = (name: string): Picture =>
  ({ id: ID, name, state: 'ready', source: {}, views: {}, parts: [] }) as unknown as Picture;
const name = () => sync.shelf.get(ID)?.name;

beforeEach(async () => {
  server = new FakeServer('b');
  server.pictures.set(ID, picture('Reed'));
  sync = await startTestSync();
});
afterEach(() => {
  sync.stop();
  vi.unstubAllGlobals();
});

it('asks again by itself after a failure', async () => {
  let failures = 0;
  server.intercept = () => {
    if (failures >= 2) return undefined;
    failures += 1;
    throw new TypeError('connection refused');
  };
  sync.shelf.want([ID]);
  await soon(() => expect(name()).toBe('Reed'));
  expect(failures).toBe(2);
}, 120_000);

it('believes the answer to the later question, whichever comes first', async () => {
  server.gate.isShut = true;
  sync.shelf.want([ID]);
  await soon(() => expect(server.gate.waiting).toBe(1));
  server.pictures.set(ID, picture('Reed at dusk'));
  sync.shelf.want([ID]);
  await soon(() => expect(server.gate.waiting).toBe(2));
  server.gate.release(1);
  await soon(() => expect(name()).toBe('Reed at dusk'));
  server.gate.release(0);
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(name()).toBe('Reed at dusk');
});

it('shows own unsent facts on top of whatever the server says, until it took them', async () => {
  sync.shelf.want([ID]);
  await soon(() => expect(name()).toBe('Reed'));
  await sync.outbox.put({ kind: 'patch', path: pathOfPicture(ID), body: { name: 'Mine' } });
  expect(name()).toBe('Mine');
  server.pictures.set(ID, picture('Theirs'));
  sync.channel.post({ kind: 'event', event: { kind: 'picture', picture: ID } });
  await soon(() => expect(server.asked).toHaveLength(2));
  expect(name()).toBe('Mine');
  sync.send();
  await soon(() => expect(sync.patches.bodiesOf(pathOfPicture(ID))).toEqual([]));
  expect(name()).toBe('Mine');
  await soon(() => expect(server.pictures.get(ID)?.name).toBe('Mine'));
});
