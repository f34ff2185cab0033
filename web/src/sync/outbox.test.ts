import 'fake-indexeddb/auto';
import type { Change, ChangeOutcome } from '@miradero/core/schema';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { soon } from '../test/soon.ts';
import { type BrowserDatabase, openBrowserDatabase } from './browser-database.ts';
import { Channel, type WindowMessage } from './channel.ts';
import { writeTo } from './http.ts';
import { Outbox } from './outbox.ts';
import { SavedState } from './saved-state.ts';
import { Sender } from './sender.ts';

let database: BrowserDatabase;
let channel: Channel;
let outbox: Outbox;
let heard: WindowMessage[];
let ending: AbortController;
let number = 0;

const change = (id: string): Change => ({ id, operations: [{ item: 'n', set: { width: 5 } }] });
const made = (id: string, board = 'b') => outbox.put({ kind: 'change', board, change: change(id) });
const outcomesHeard = () => heard.flatMap((message) => (message.kind === 'outcomes' ? message.outcomes : []));

/** A server whose answers a test decides; records what it was asked. */
function serve(answer: (changes: Change[]) => Response | Promise<Response>): Change[][] {
  const asked: Change[][] = [];
  vi.stubGlobal('fetch', async (_path: string, { body }: { body: string }) => {
    const { changes } = JSON.parse(body) as { changes: Change[] };
    asked.push(changes);
    return answer(changes);
  });
  return asked;
}
const accepted = (changes: Change[]) =>
  Response.json({ outcomes: changes.map(({ id }, index): ChangeOutcome => ({ id, revision: index + 1 })) });

beforeEach(async () => {
  number += 1;
  database = await openBrowserDatabase(`test-${number}`);
  channel = new Channel(`test-${number}`);
  heard = [];
  channel.subscribe((message) => heard.push(message));
  outbox = new Outbox(database, channel);
  ending = new AbortController();
});
afterEach(() => {
  ending.abort();
  vi.unstubAllGlobals();
});
const start = () => void new Sender(database, channel).run(ending.signal);

describe('the outbox', () => {
  it('keeps changes in the order in which they were made, those of one board for its windows', async () => {
    await Promise.all([made('1'), made('2'), made('x', 'other'), made('3')]);
    expect((await outbox.changesOf('b')).map(({ id }) => id)).toEqual(['1', '2', '3']);
  });

  it('counts what is not on the disk yet', async () => {
    const counts: number[] = [];
    outbox.store.subscribe(({ unwritten }) => counts.push(unwritten));
    await made('1');
    expect(counts).toEqual([1, 0]);
  });
});

describe('a burst of keys', () => {
  const press = (id: string, width: number, burst = 'one') =>
    outbox.put({
      ...{ kind: 'change', board: 'b', burst },
      change: { id, operations: [{ item: 'n', set: { width } }] },
    });
  const kept = async () =>
    (await database.getAll('outbox')).flatMap((entry) => (entry.kind === 'change' ? [entry.change] : []));
  const joined = () =>
    heard.flatMap((message) => (message.kind === 'joined' ? [[message.into.id, message.gone]] : []));

  it('is one change as long as nothing of it is sent, and the windows are told', async () => {
    await press('1', 5);
    await Promise.all([press('2', 6), press('3', 7)]);
    expect(await kept()).toEqual([{ id: '1', operations: [{ item: 'n', set: { width: 7 } }] }]);
    expect(joined()).toEqual([
      ['1', '2'],
      ['1', '3'],
    ]);
  });

  it('ends with another burst, with something else, and with anything made between', async () => {
    await press('1', 5);
    await press('2', 6, 'another');
    await made('3');
    await press('4', 7, 'another');
    await Promise.all([press('5', 8, 'another'), made('6'), press('7', 9, 'another')]);
    expect((await kept()).map(({ id }) => id)).toEqual(['1', '2', '3', '4', '6', '7']);
  });

  it('goes on as another change once the first was taken to be sent', async () => {
    await press('1', 5);
    const answers: (() => void)[] = [];
    const asked = serve(async (changes) => {
      await new Promise<void>((resolve) => answers.push(resolve));
      return accepted(changes);
    });
    start();
    await soon(() => expect(asked).toHaveLength(1));
    await press('2', 6);
    await press('3', 7);
    answers.shift()!();
    await soon(() => expect(asked).toHaveLength(2));
    answers.shift()!();
    await soon(() => expect(outcomesHeard().map(({ id }) => id)).toEqual(['1', '2']));
    expect(asked.map(([change]) => change)).toMatchObject([
      { id: '1', operations: [{ item: 'n', set: { width: 5 } }] },
      { id: '2', operations: [{ item: 'n', set: { width: 7 } }] },
    ]);
    expect(await kept()).toEqual([]);
  });

  it('waits as one change while the server is away, which is not asked at each of its presses', async () => {
    let isAway = true;
    const asked = serve((changes) => {
      if (isAway) throw new TypeError('connection refused');
      return accepted(changes);
    });
    start();
    for (let width = 1; width <= 40; width += 1) {
      await press(String(width), width);
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
    expect(asked.length).toBeLessThan(4);
    // What was taken once stays as it is: there are as many as there were tries, not as there were presses.
    expect((await kept()).length).toBeLessThanOrEqual(asked.length + 1);
    isAway = false;
    channel.post({ kind: 'event', event: { kind: 'hello', databaseId: 'd', build: 'b' } });
    await soon(async () => expect(await kept()).toEqual([]));
    expect(asked.at(-1)!.at(-1)!.operations).toEqual([{ item: 'n', set: { width: 40 } }]);
  });

  it('loses nothing, however presses and sending fall together', async () => {
    const told: number[] = [];
    serve(async (changes) => {
      for (const { operations } of changes)
        told.push(
          ...operations.map((one) => ('set' in one ? Number((one.set as { width: number }).width) : 0)),
        );
      await new Promise((resolve) => setTimeout(resolve, (told.length * 7) % 5));
      return accepted(changes);
    });
    start();
    for (let width = 1; width <= 60; width += 1) {
      void press(String(width), width);
      await new Promise((resolve) => setTimeout(resolve, (width * 13) % 4));
    }
    await soon(async () => {
      expect(told.at(-1)).toBe(60);
      expect(await kept()).toEqual([]);
    });
    expect(told).toEqual([...told].sort((a, b) => a - b));
    const gone = new Set(joined().map(([, id]) => id));
    expect(outcomesHeard().filter(({ id }) => gone.has(id))).toEqual([]);
    expect(outcomesHeard().length + gone.size).toBe(60);
  });
});

describe('the sender', () => {
  it('sends what is kept, in order, and empties the outbox by the answer', async () => {
    await made('1');
    await made('2');
    const asked = serve(accepted);
    start();
    await soon(() => expect(outcomesHeard()).toHaveLength(2));
    expect(asked[0]!.map(({ id }) => id)).toEqual(['1', '2']);
    expect(await database.count('outbox')).toBe(0);
  });

  it('keeps everything while the server is away, and sends the same ids again when it is back', async () => {
    await made('1');
    let isAway = true;
    const asked = serve((changes) => {
      if (isAway) throw new TypeError('connection refused');
      return accepted(changes);
    });
    start();
    await soon(() => expect(asked.length).toBeGreaterThan(1));
    expect(await database.count('outbox')).toBe(1);
    await made('2');
    isAway = false;
    await soon(async () => expect(await database.count('outbox')).toBe(0));
    expect(asked[asked.length - 1]!.map(({ id }) => id)).toEqual(['1', '2']);
  });

  it('lists a refused change and goes on with the later ones', async () => {
    await made('good');
    await made('bad');
    await made('later');
    serve((changes) =>
      Response.json({
        outcomes: changes.map(({ id }) =>
          id === 'bad' ? { id, refused: { code: 'malformed', title: 'No.' } } : { id, revision: 1 },
        ),
      }),
    );
    start();
    await soon(async () => expect(await database.count('outbox')).toBe(0));
    expect(await database.getAll('refused')).toMatchObject([{ id: 'bad', title: 'No.', board: 'b' }]);
  });

  it('asks for each alone when a request as a whole is refused', async () => {
    await made('good');
    await made('bad');
    await made('later');
    serve((changes) =>
      changes.some(({ id }) => id === 'bad')
        ? Response.json({ code: 'too-large', status: 413, title: 'Too large.' }, { status: 413 })
        : accepted(changes),
    );
    start();
    await soon(() => expect(outcomesHeard()).toHaveLength(3));
    expect(outcomesHeard().filter((outcome) => 'refused' in outcome)).toMatchObject([{ id: 'bad' }]);
    expect(await database.count('outbox')).toBe(0);
  });

  it('holds a name back until its picture has arrived, and lets changes pass', async () => {
    await outbox.put({ kind: 'patch', path: '/api/pictures/p', body: {}, awaits: 'p' });
    await database.put('files', {
      ...{
        id: 'p',
        fileName: 'p',
        name: 'p',
        type: 'image/png',
        width: 1,
        height: 1,
        bytes: new Blob(),
        addedAt: '',
      },
    });
    await made('1');
    const paths: string[] = [];
    vi.stubGlobal('fetch', async (path: string, { body }: { body: string }) => {
      paths.push(path);
      return path.includes('pictures') ? Response.json({}) : accepted(JSON.parse(body).changes);
    });
    start();
    await soon(async () => expect(await database.count('outbox')).toBe(1));
    expect(paths).toEqual(['/api/boards/b/changes']);
    await database.delete('files', 'p');
    channel.post({ kind: 'file-settled', picture: 'p' });
    await soon(async () => expect(await database.count('outbox')).toBe(0));
  });
});

const FAILED = { type: '', code: 'unexpected', status: 500, title: 'Something went wrong.' };

describe('a change at which the server fails', () => {
  /** Fails at what holds a change with this id, and answers everything else. */
  const failAt = (bad: string, isFailing = () => true) => {
    const asked: string[] = [];
    vi.stubGlobal('fetch', async (path: string, { body }: { body?: string } = {}) => {
      if (path === '/api/settings') return Response.json({ settings: {} });
      const { changes } = JSON.parse(body!) as { changes: Change[] };
      asked.push(changes.map(({ id }) => id).join(' '));
      return isFailing() && changes.some(({ id }) => id === bad)
        ? Response.json(FAILED, { status: 500 })
        : accepted(changes);
    });
    return asked;
  };

  it('is set aside after three answers with all that it held, and later ones of every board go on', async () => {
    for (const id of ['good', 'bad', 'later']) await made(id);
    await made('elsewhere', 'other');
    const asked = failAt('bad');
    start();
    await soon(async () => expect(await database.count('outbox')).toBe(0));
    expect(asked.filter((one) => one === 'bad')).toHaveLength(3);
    const [refused, ...more] = await database.getAll('refused');
    expect(more).toEqual([]);
    expect(refused).toMatchObject({ id: 'bad', entry: { kind: 'change', change: change('bad') } });
    expect(outcomesHeard().filter((one) => 'revision' in one)).toHaveLength(3);
  });

  it('that was meant for three others is not taken for them: a batch is asked for one by one', async () => {
    for (const id of ['1', '2', 'bad']) await made(id);
    const asked = failAt('bad');
    start();
    await soon(async () => expect(await database.count('outbox')).toBe(0));
    expect(asked.slice(0, 4)).toEqual(['1 2 bad', '1', '2', 'bad']);
  });

  it('is not set aside while the server fails at everything', async () => {
    await made('1');
    let isFailing = true;
    vi.stubGlobal('fetch', async (path: string, { body }: { body?: string } = {}) => {
      if (isFailing) return Response.json(FAILED, { status: 500 });
      return path === '/api/settings' ? Response.json({}) : accepted(JSON.parse(body!).changes);
    });
    start();
    await new Promise((resolve) => setTimeout(resolve, 2_500));
    expect(await database.count('refused')).toBe(0);
    isFailing = false;
    channel.post({ kind: 'event', event: { kind: 'hello', databaseId: 'd', build: 'b' } });
    await soon(async () => expect(await database.count('outbox')).toBe(0));
    expect(await database.count('refused')).toBe(0);
  }, 120_000);

  it('and was set aside can be tried again, as a change of its own', async () => {
    await made('bad');
    let isFailing = true;
    failAt('bad', () => isFailing);
    const saved = new SavedState(database, outbox, channel);
    start();
    await soon(() => expect(saved.report.refused).toBe(1));
    expect(await saved.refusals()).toMatchObject([{ about: 'One thing altered: size' }]);
    isFailing = false;
    await saved.tryAgain();
    await soon(() => expect(saved.report).toMatchObject({ state: 'saved', refused: 0 }));
    const queued = heard.flatMap((message) => (message.kind === 'queued' ? [message.change] : []));
    expect(queued).toMatchObject([{ operations: change('bad').operations }]);
    expect(queued[0]!.id).not.toBe('bad');
  });
});

describe('a server with another database', () => {
  it('takes nothing, and nothing is thought refused', async () => {
    await made('1');
    await outbox.put({ kind: 'patch', path: '/api/boards/b', body: { name: 'x' } });
    let isOther = true;
    const meant: unknown[] = [];
    writeTo('mine');
    vi.stubGlobal('fetch', async (path: string, { body, headers }: { body: string; headers: object }) => {
      meant.push((headers as Record<string, string>)['x-miradero-database']);
      if (isOther)
        return Response.json({ ...FAILED, code: 'foreign-database', status: 409 }, { status: 409 });
      return path.endsWith('changes') ? accepted(JSON.parse(body).changes) : Response.json({});
    });
    start();
    await soon(() => expect(meant.length).toBeGreaterThan(1));
    expect(await database.count('outbox')).toBe(2);
    expect(await database.count('refused')).toBe(0);
    expect(heard).toContainEqual({ kind: 'reach', trouble: 'other-database' });
    isOther = false;
    await soon(async () => expect(await database.count('outbox')).toBe(0));
    expect(new Set(meant)).toEqual(new Set(['mine']));
  }, 120_000);
});

describe('what waits for pictures', () => {
  const file = (id: string) => ({
    ...{ id, fileName: id, name: id, type: 'image/png', width: 1, height: 1, bytes: new Blob(), addedAt: '' },
  });

  it('holds nothing else up, however much it is, and keeps its own order', async () => {
    await database.put('files', file('p'));
    for (let index = 0; index < 450; index += 1)
      void outbox.put({ kind: 'patch', path: '/api/pictures/p', body: { name: `${index}` }, awaits: 'p' });
    // Said later, and of itself waiting for nothing: it must not overtake what was said before it.
    await outbox.put({ kind: 'patch', path: '/api/pictures/p', body: { name: 'last' } });
    await made('1');
    const bodies: unknown[] = [];
    vi.stubGlobal('fetch', async (path: string, { body }: { body: string }) => {
      if (path.endsWith('changes')) return accepted(JSON.parse(body).changes);
      bodies.push(JSON.parse(body).name);
      return Response.json({});
    });
    start();
    await soon(() => expect(outcomesHeard()).toHaveLength(1));
    expect(bodies).toEqual([]);
    await database.delete('files', 'p');
    channel.post({ kind: 'file-settled', picture: 'p' });
    await soon(async () => expect(await database.count('outbox')).toBe(0));
    expect(bodies).toEqual([...Array.from({ length: 450 }, (_, index) => `${index}`), 'last']);
  }, 120_000);
});

describe('what is said of a file that was refused', () => {
  it('waits with it, also when it is said later, and nothing is left to send', async () => {
    const bytes = new Blob();
    await database.put('files', {
      ...{ id: 'p', fileName: 'p', name: 'Torn', type: 'image/png', width: 1, height: 1, bytes, addedAt: '' },
      refusal: 'It is damaged.',
    });
    await outbox.put({ kind: 'patch', path: '/api/pictures/p', body: { name: 'Reed' }, awaits: 'p' });
    await made('1');
    serve(accepted);
    start();
    await soon(async () => expect(await database.count('outbox')).toBe(0));
    expect(await database.getAll('refused')).toMatchObject([
      { title: '“Torn”, which it is about, was not taken.', entry: { body: { name: 'Reed' } } },
    ]);
  });
});

describe('the saved state', () => {
  it('says saved only when nothing is kept, and kept only when it is on the disk', async () => {
    const saved = new SavedState(database, outbox, channel);
    const states: string[] = [];
    await soon(() => expect(saved.report.state).toBe('saved'));
    saved.store.subscribe(() => {
      if (saved.report.state !== states[states.length - 1]) states.push(saved.report.state);
    });
    await made('1');
    await soon(() => expect(saved.report.state).toBe('kept'));
    serve(accepted);
    start();
    await soon(() => expect(saved.report.state).toBe('saved'));
    expect(states).toEqual(['keeping', 'kept', 'saved']);
  });

  it('says so when the disk of the browser takes nothing more, and keeps all of it in order once it does', async () => {
    const saved = new SavedState(database, outbox, channel);
    const transaction = database.transaction.bind(database);
    const full = vi.spyOn(database, 'transaction').mockImplementation(((
      stores: never,
      mode: never,
      options: never,
    ) => {
      if (mode === 'readwrite') throw new DOMException('full', 'QuotaExceededError');
      return transaction(stores, mode, options);
    }) as never);
    const kept = [made('1'), made('2')];
    await soon(() => expect(saved.report).toMatchObject({ state: 'unkept', keeping: 'no-room' }));
    full.mockRestore();
    await Promise.all(kept);
    expect((await outbox.changesOf('b')).map(({ id }) => id)).toEqual(['1', '2']);
    await soon(() => expect(saved.report).toMatchObject({ state: 'kept', keeping: undefined }));
  });

  it('says so when the server serves another version of the interface', async () => {
    const saved = new SavedState(database, outbox, channel, 'mine');
    channel.post({ kind: 'event', event: { kind: 'hello', databaseId: 'd', build: 'mine' } });
    expect(saved.report.isOutdated).toBe(false);
    channel.post({ kind: 'event', event: { kind: 'hello', databaseId: 'd', build: 'theirs' } });
    expect(saved.report.isOutdated).toBe(true);
  });
});
