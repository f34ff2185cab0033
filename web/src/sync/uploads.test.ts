import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { soon } from '../test/soon.ts';
import type { WaitingFile } from './browser-database.ts';
import { writeTo } from './http.ts';
import { startTestSync, type TestSync } from './test/start.ts';
import { Uploads } from './uploads.ts';

interface Sent {
  readonly name: string;
  readonly headers: Record<string, string>;
}
type Answer = { status: number; body: object | null } | 'broken';

let sync: TestSync;
let ending: AbortController;
let sent: Sent[];
let answer: (name: string) => Answer;

/** As much of XMLHttpRequest as sending a form needs. */
class FakeRequest {
  status = 0;
  response: object | null = null;
  responseType = '';
  readonly upload = {};
  readonly headers: Record<string, string> = {};
  onload = () => {};
  onerror = () => {};
  onabort = () => {};
  open() {}
  abort() {
    this.onabort();
  }
  setRequestHeader(name: string, value: string) {
    this.headers[name] = value;
  }
  send(form: FormData) {
    const { name } = form.get('file') as File;
    sent.push({ name, headers: this.headers });
    const given = answer(name);
    setTimeout(() => {
      if (given === 'broken') return this.onerror();
      this.status = given.status;
      this.response = given.body;
      this.onload();
    });
  }
}

const file = (id: string, fileName = `${id}.png`): WaitingFile => ({
  ...{ id, fileName, name: id, type: 'image/png', width: 1, height: 1, bytes: new Blob(['x']), addedAt: '' },
});
const keep = async (one: WaitingFile) => {
  await sync.database.put('files', one);
  sync.channel.post({ kind: 'file-kept', picture: one.id });
};
const left = async () => (await sync.database.getAll('files')).map(({ id, refusal }) => [id, refusal]);
const hello = () =>
  sync.channel.post({ kind: 'event', event: { kind: 'hello', databaseId: 'd', build: 'b' } });

beforeEach(async () => {
  sync = await startTestSync();
  sent = [];
  answer = () => ({ status: 201, body: {} });
  vi.stubGlobal('XMLHttpRequest', FakeRequest);
  ending = new AbortController();
  void new Uploads(sync.database, sync.channel).run(ending.signal);
});
afterEach(() => {
  ending.abort();
  sync.stop();
  vi.unstubAllGlobals();
});

describe('a file', () => {
  it('goes under a name that a form can carry, for the database it is meant for', async () => {
    writeTo('mine');
    await keep(file('a', `../a\0b${'n'.repeat(18_000)}.png`));
    await soon(async () => expect(await left()).toEqual([]));
    expect(sent[0]!.name).toMatch(/^a bn+\.png$/);
    expect(sent[0]!.name.length).toBeLessThanOrEqual(255);
    expect(sent[0]!.headers).toEqual({ 'x-miradero-database': 'mine' });
  });

  it('that is refused stays with its reason, and what was said of it is set aside with it', async () => {
    answer = () => ({ status: 422, body: { refused: [{ title: 'It is damaged.' }], title: 'None.' } });
    await sync.outbox.put({ kind: 'patch', path: '/api/pictures/a', body: { name: 'Reed' }, awaits: 'a' });
    await keep(file('a'));
    await soon(async () => expect(await left()).toEqual([['a', 'It is damaged.']]));
    expect(await sync.database.count('outbox')).toBe(0);
    expect(await sync.database.getAll('refused')).toMatchObject([{ entry: { body: { name: 'Reed' } } }]);
    expect(sync.patches.bodiesOf('/api/pictures/a')).toEqual([]);

    answer = () => ({ status: 201, body: {} });
    await sync.saved.tryAgain();
    await soon(async () => expect(await left()).toEqual([]));
    expect(await sync.database.count('outbox')).toBe(1);
    expect(sync.patches.bodiesOf('/api/pictures/a')).toEqual([{ name: 'Reed' }]);
  });

  it('that was here before keeps its name; what was said of it otherwise goes on its way', async () => {
    answer = () => ({ status: 201, body: { known: ['a'] } });
    const path = '/api/pictures/a';
    await sync.outbox.put({ kind: 'patch', path, body: { name: 'Reed 1' }, awaits: 'a', onlyNew: true });
    await sync.outbox.put({ kind: 'patch', path, body: { note: 'seen' }, awaits: 'a' });
    await keep(file('a'));
    await soon(async () => expect(await left()).toEqual([]));
    expect(sync.patches.bodiesOf(path)).toEqual([{ note: 'seen' }]);
    expect(await sync.database.count('refused')).toBe(0);
  });

  it('at which the server fails three times is set aside, and the others go on', async () => {
    answer = (name) =>
      name === 'bad.png'
        ? { status: 500, body: { code: 'unexpected', title: 'Something went wrong.' } }
        : { status: 201, body: {} };
    await keep(file('bad'));
    await keep(file('good'));
    await soon(async () => expect(await left()).toEqual([['bad', expect.stringContaining('3 times')]]));
    expect(sent.filter(({ name }) => name === 'bad.png')).toHaveLength(3);
  }, 120_000);

  it('with which the server goes away again and again is set aside', async () => {
    answer = (name) => {
      if (name !== 'deadly.png') return { status: 201, body: {} };
      // It starts anew, and says so.
      setTimeout(hello, 10);
      return 'broken';
    };
    await keep(file('deadly'));
    await soon(async () => expect(await left()).toEqual([['deadly', expect.stringContaining('broke off')]]));
    await keep(file('good'));
    await soon(async () => expect(await left()).toHaveLength(1));
  }, 120_000);

  it('waits as long as a server is away, or has no room', async () => {
    answer = () => 'broken';
    await keep(file('a'));
    await new Promise((resolve) => setTimeout(resolve, 2_500));
    expect(await left()).toEqual([['a', undefined]]);
    answer = () => ({ status: 507, body: { code: 'disk-full', title: 'No room.' } });
    hello();
    await soon(() => expect(sync.heard).toContainEqual({ kind: 'reach', trouble: 'disk-full' }));
    answer = () => ({ status: 201, body: {} });
    hello();
    await soon(async () => expect(await left()).toEqual([]));
  }, 120_000);
});
