import { createNote } from '@miradero/core/items';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { soon } from '../../test/soon.ts';
import { BoardSession } from '../board-session.ts';
import { patchPicture } from '../patch-picture.ts';
import { FakeServer } from '../test/fake-server.ts';
import { startTestSync, type TestSync } from '../test/start.ts';
import { StepStore, Steps } from './index.ts';

const BOARD = 'b0000000-0000-4000-8000-000000000000';
const PICTURE = 'c0000000-0000-4000-8000-000000000000';
let server: FakeServer;
let sync: TestSync & { store: string };
/** What the server knows of the one picture. */
let facts: Record<string, unknown>;

const json = (body: unknown) =>
  new Response(JSON.stringify(body), { headers: { 'Content-Type': 'application/json' } });
const note = (id: string) =>
  createNote({ id, stack: 'a0', centre: { x: 0, y: 0 }, width: 240, height: 51, text: id });
const bodies = async () =>
  (await sync.database.getAll('outbox')).flatMap((entry) => (entry.kind === 'patch' ? [entry.body] : []));

beforeEach(async () => {
  server = new FakeServer(BOARD);
  facts = {
    id: PICTURE,
    name: 'Lantern',
    note: '',
    tags: [],
    source: { page: null, creator: 'Oskin' },
    views: {},
  };
  server.intercept = (method, path) =>
    method === 'GET' && path.startsWith(`/api/pictures/${PICTURE}`) ? json({ picture: facts }) : undefined;
  sync = await startTestSync();
});
afterEach(() => {
  sync.stop();
  vi.unstubAllGlobals();
});

const say = (patch: object, more: object = {}) =>
  patchPicture(sync, PICTURE, patch, { known: facts as never, at: '/library/c', isArriving: false, ...more });

describe('a step', () => {
  it('takes facts back as they were, part by part, and makes them again', async () => {
    await say({ note: 'bail casts', source: { creator: 'Wren' } });
    expect(await sync.steps.undo()).toMatchObject({ side: 'undo', at: '/library/c', skipped: 0 });
    expect((await bodies()).at(-1)).toEqual({ note: '', source: { creator: 'Oskin' } });
    expect(await sync.steps.redo()).toMatchObject({ side: 'redo', skipped: 0 });
    expect((await bodies()).at(-1)).toEqual({ note: 'bail casts', source: { creator: 'Wren' } });
  });

  it('leaves what somebody else set since, and says how much that is', async () => {
    await say({ note: 'bail casts', name: 'Lamp' });
    // The server took it; then another window named the picture.
    await sync.database.clear('outbox');
    for (const entry of sync.heard.filter(({ kind }) => kind === 'patch-queued'))
      sync.channel.post({ ...(entry as { id: string; path: string }), kind: 'patch-settled', isTaken: true });
    facts = { ...facts, note: 'bail casts', name: 'By somebody else' };
    expect(await sync.steps.undo()).toMatchObject({ skipped: 1 });
    expect(await bodies()).toEqual([{ note: '' }]);
  });

  it('is of all that one gesture touched: a board and a picture together', async () => {
    const session = await BoardSession.open(sync, BOARD);
    session.commit([{ create: note('n') }], 'one gesture');
    await say({ name: 'Lamp' }, { gesture: 'one gesture' });
    session.commit([{ create: note('m') }]);
    await sync.steps.undo();
    expect(session.standing.map(({ id }) => id)).toEqual(['n']);
    await sync.steps.undo();
    expect(session.standing).toEqual([]);
    expect((await bodies()).at(-1)).toEqual({ name: 'Lantern' });
    expect(await sync.steps.undo()).toBeUndefined();
    session.close();
  });

  it('of a board that is not open is taken back all the same, with what is unsent on top', async () => {
    const session = await BoardSession.open(sync, BOARD);
    session.commit([{ create: note('n') }]);
    await soon(async () => expect(await sync.database.count('outbox')).toBe(1));
    session.close();
    expect(await sync.steps.undo()).toMatchObject({ at: `/boards/${BOARD}` });
    const again = await BoardSession.open(sync, BOARD);
    expect(again.standing).toEqual([]);
    await sync.steps.redo();
    expect(again.standing.map(({ id }) => id)).toEqual(['n']);
    again.close();
  });

  it('that only the server can take back stays one while that is away', async () => {
    sync.steps.record(
      { kind: 'bulk', before: [{ picture: PICTURE }], after: [{ picture: PICTURE }] },
      { at: '/library' },
    );
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('away')));
    await expect(sync.steps.undo()).rejects.toThrow();
    expect(sync.steps.store.getState().undo).toBeDefined();
    expect(sync.steps.store.getState().redo).toBeUndefined();
  });

  it('is taken back once however fast the key comes, in the order of the presses', async () => {
    for (const name of ['one', 'two', 'three']) {
      await say({ name });
      facts = { ...facts, name };
    }
    const turned = await Promise.all([
      sync.steps.undo(),
      sync.steps.undo(),
      sync.steps.undo(),
      sync.steps.undo(),
    ]);
    expect(turned.map((one) => one?.words)).toEqual([
      'A picture: name “three”',
      'A picture: name “two”',
      'A picture: name “one”',
      undefined,
    ]);
    expect((await bodies()).slice(-3)).toEqual([{ name: 'two' }, { name: 'one' }, { name: 'Lantern' }]);
  });
});

describe('steps of a window', () => {
  const stepsOf = (window: string) => new Steps(sync, new StepStore(sync.database, Promise.resolve(window)));

  it('outlive a reload, each window its own', async () => {
    const before = stepsOf('w1');
    for (const at of ['/a', '/b', '/c'])
      before.record(
        { kind: 'copies', picture: PICTURE, other: BOARD, isSettled: true },
        { at, words: `at ${at}` },
      );
    server.intercept = () => json({});
    await before.undo();
    await soon(async () => expect(await sync.database.count('steps')).toBe(3));
    const after = stepsOf('w1');
    await after.read();
    expect([after.store.getState().undo, after.store.getState().redo]).toEqual(['at /b', 'at /c']);
    const other = stepsOf('w2');
    await other.read();
    expect(other.store.getState().undo).toBeUndefined();
    // What is made after that is no step of the past.
    after.record(
      { kind: 'copies', picture: PICTURE, other: BOARD, isSettled: true },
      { at: '/d', words: 'at /d' },
    );
    expect([after.store.getState().undo, after.store.getState().redo]).toEqual(['at /d', undefined]);
    await soon(async () => expect(await sync.database.count('steps')).toBe(3));
  });

  it('are taken back also when it is asked for before they were read', async () => {
    const copies = { kind: 'copies', picture: PICTURE, other: BOARD, isSettled: true } as const;
    server.intercept = () => json({});
    const before = stepsOf('w5');
    for (const at of ['/a', '/b']) before.record(copies, { at, words: `at ${at}` });
    await before.undo();
    await soon(async () => expect(await sync.database.count('steps')).toBe(2));
    let name!: (window: string) => void;
    const window = new Promise<string>((resolve) => (name = resolve));
    const after = new Steps(sync, new StepStore(sync.database, window));
    void after.read();
    after.record(copies, { at: '/c', words: 'at /c' });
    const turned = [after.undo(), after.undo(), after.undo()];
    expect(after.store.getState().isTurning).toBe(true);
    name('w5');
    expect((await Promise.all(turned)).map((one) => one?.words)).toEqual(['at /c', 'at /a', undefined]);
    expect(after.store.getState().isTurning).toBe(false);
    // What had been taken back before is nothing that can be made again after something new.
    expect(await Promise.all([after.redo(), after.redo(), after.redo()])).toMatchObject([
      { words: 'at /a' },
      { words: 'at /c' },
      undefined,
    ]);
  });

  it('are 200 at most, and 16 MB', async () => {
    const many = stepsOf('w3');
    for (let index = 0; index < 230; index += 1)
      many.record(
        { kind: 'copies', picture: PICTURE, other: BOARD, isSettled: true },
        { at: '/', words: `${index}` },
      );
    await soon(async () => expect(await sync.database.count('steps')).toBe(200));
    const large = stepsOf('w4');
    for (let index = 0; index < 10; index += 1)
      large.record(
        { kind: 'facts', path: '/x', before: { note: 'x'.repeat(2_000_000) }, after: { note: '' } },
        { at: '/', words: `${index}` },
      );
    await soon(async () => {
      const kept = (await sync.database.getAll('steps')).filter(({ window }) => window === 'w4');
      expect(kept.map(({ step }) => step.words)).toEqual(['6', '7', '8', '9']);
    });
  });
});
