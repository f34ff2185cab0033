import { createNote } from '@miradero/core/items';
import type { Change, Note } from '@miradero/core/schema';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { soon } from '../test/soon.ts';
import { BoardSession } from './board-session.ts';
import { newGesture } from './steps/index.ts';
import { FakeServer, problem } from './test/fake-server.ts';
import { startTestSync, type TestSync } from './test/start.ts';

const BOARD = 'b0000000-0000-4000-8000-000000000000';
let server: FakeServer;
let sync: TestSync & { store: string };
let session: BoardSession;

const note = (id: string, text = id): Note =>
  createNote({ id, stack: 'a0', centre: { x: 0, y: 0 }, width: 240, height: 51, text });
const made = (...operations: Change['operations']): Change => ({ id: crypto.randomUUID(), operations });
const standing = () => session.standing.map(({ id }) => id).sort();
const textOf = (id: string) => (session.items.get(id) as Note | undefined)?.text;
const tell = (event: object) => sync.channel.post({ kind: 'event', event: event as never });

beforeEach(async () => {
  server = new FakeServer(BOARD);
  server.accept(made({ create: note('a') }, { create: note('b') }));
  sync = await startTestSync();
  session = await BoardSession.open(sync, BOARD);
});
afterEach(() => {
  session.close();
  sync.stop();
  vi.unstubAllGlobals();
});

describe('undo', () => {
  it('takes back what was made with one token, whatever was done between', async () => {
    const drop = newGesture();
    session.commit([{ create: note('p1') }], drop);
    session.commit([{ item: 'a', set: { width: 300 } }]);
    session.commit([{ create: note('p2') }], drop);
    await sync.steps.undo();
    expect(session.items.get('a')?.width).toBe(240);
    expect(standing()).toEqual(['a', 'b', 'p1', 'p2']);
    await sync.steps.undo();
    expect(standing()).toEqual(['a', 'b']);
    await sync.steps.redo();
    expect(standing()).toEqual(['a', 'b', 'p1', 'p2']);
  });

  it('of something else leaves what is still coming in, and its redo', async () => {
    const drop = newGesture();
    session.commit([{ create: note('p1') }], drop);
    session.commit([{ item: 'a', set: { width: 300 } }]);
    await sync.steps.undo();
    session.commit([{ create: note('p2') }], drop);
    expect(standing()).toEqual(['a', 'b', 'p1', 'p2']);
    expect(sync.steps.store.getState().redo).toBeDefined();
    await sync.steps.redo();
    expect(session.items.get('a')?.width).toBe(300);
  });

  it('in the middle of a drop takes back what stood; what comes after is a step again', async () => {
    const drop = newGesture();
    session.commit([{ create: note('p1') }], drop);
    await sync.steps.undo();
    session.commit([{ create: note('p2') }], drop);
    session.commit([{ create: note('p3') }], drop);
    expect(standing()).toEqual(['a', 'b', 'p2', 'p3']);
    await sync.steps.undo();
    expect(standing()).toEqual(['a', 'b']);
  });

  it('takes a burst back as one, however much of it was sent before the rest was done', async () => {
    const burst = newGesture();
    const press = (width: number) => session.commit([{ item: 'a', set: { width } }], burst, true);
    press(250);
    press(260);
    sync.send();
    await soon(() => expect(server.items.get('a')?.width).toBe(260));
    press(270);
    press(280);
    await soon(() => expect(server.items.get('a')?.width).toBe(280));
    await sync.steps.undo();
    expect(session.items.get('a')?.width).toBe(240);
    await soon(() => expect(server.items.get('a')?.width).toBe(240));
    await sync.steps.redo();
    expect(session.items.get('a')?.width).toBe(280);
    await soon(() => expect(server.items.get('a')?.width).toBe(280));
  });

  it('has nothing of a burst when all of it was refused, and the rest of it when a part was', async () => {
    const burst = newGesture();
    session.commit([{ item: 'a', set: { width: 250 } }], burst, true);
    const [first] = await vi.waitUntil(async () => {
      const changes = await sync.outbox.changesOf(BOARD);
      return changes.length === 1 && changes;
    });
    // Taken to be sent: what follows is another change of the same step.
    await sync.database.put('outbox', {
      ...{ kind: 'change', board: BOARD, burst, change: first!, isTaken: true, seq: 1 },
    });
    session.commit([{ item: 'b', set: { width: 300 } }], burst, true);
    const changes = await vi.waitUntil(async () => {
      const kept = await sync.outbox.changesOf(BOARD);
      return kept.length === 2 && kept;
    });
    const refuse = (id: string) =>
      sync.channel.post({
        ...{ kind: 'outcomes', board: BOARD },
        outcomes: [{ id, refused: { code: 'malformed', title: '' } }],
      });
    refuse(first!.id);
    expect(sync.steps.store.getState().undo).toBeDefined();
    expect(session.items.get('a')?.width).toBe(240);
    refuse(changes[1]!.id);
    expect(sync.steps.store.getState().undo).toBeUndefined();
    expect(session.items.get('b')?.width).toBe(240);
  });

  it('has nothing of a burst that was refused as the one change that it had become', async () => {
    server.intercept = (method, path) =>
      method === 'POST' && path.endsWith('/changes') ? problem(400, 'malformed') : undefined;
    const burst = newGesture();
    for (const width of [250, 260, 270]) session.commit([{ item: 'a', set: { width } }], burst, true);
    await soon(async () => expect(await sync.outbox.changesOf(BOARD)).toHaveLength(1));
    sync.send();
    await soon(() => expect(session.items.get('a')?.width).toBe(240));
    expect(sync.steps.store.getState().undo).toBeUndefined();
  });

  it('has nothing of a change that was refused', async () => {
    server.intercept = (method, path) =>
      method === 'POST' && path.endsWith('/changes') ? problem(400, 'malformed') : undefined;
    session.commit([{ create: note('bad') }]);
    sync.send();
    await soon(() => expect(sync.steps.store.getState().undo).toBeUndefined());
    expect(standing()).toEqual(['a', 'b']);
  });
});

describe('what is shown', () => {
  it('is what is kept here on top of what the server says, from the first moment', async () => {
    session.commit([{ item: 'a', set: { text: 'mine' } }]);
    session.patchBoard({ surround: 3 });
    session.renamePicture('c0000000-0000-4000-8000-000000000000', 'Lantern');
    await soon(async () => expect(await sync.database.count('outbox')).toBe(3));
    const again = await startTestSync(sync.store);
    const reopened = await BoardSession.open(again, BOARD);
    expect((reopened.items.get('a') as Note).text).toBe('mine');
    expect(reopened.board.surround).toBe(3);
    expect(again.shelf.get('c0000000-0000-4000-8000-000000000000')?.name).toBe('Lantern');
    reopened.close();
  });

  it('keeps own unsent facts of the board when others alter other ones', async () => {
    session.patchBoard({ surround: 4 });
    session.patchBoard({ surround: session.board.surround - 1 });
    session.patchBoard({ surround: session.board.surround - 1 });
    expect(session.board.surround).toBe(2);
    server.board = { ...server.board, name: 'Renamed elsewhere' };
    tell({ kind: 'board-facts', board: BOARD });
    await soon(() => expect(session.board.name).toBe('Renamed elsewhere'));
    expect(session.board.surround).toBe(2);
    sync.send();
    await soon(() => expect(server.board.surround).toBe(2));
    expect(session.board).toMatchObject({ surround: 2, name: 'Renamed elsewhere' });
  });

  it('loses a fact that was refused', async () => {
    server.intercept = (method) => (method === 'PATCH' ? problem(400, 'malformed') : undefined);
    session.patchBoard({ surround: 9 });
    sync.send();
    await soon(() => expect(session.board.surround).toBe(5));
    expect(await sync.database.getAll('refused')).toMatchObject([
      { entry: { kind: 'patch', body: { surround: 9 } } },
    ]);
  });

  it('is never put back by an answer that was asked for before', async () => {
    server.gate.isShut = true;
    tell({ kind: 'board-facts', board: BOARD });
    await soon(() => expect(server.gate.waiting).toBeGreaterThan(0));
    session.patchBoard({ name: 'Mine' });
    sync.send();
    await soon(() => expect(server.board.name).toBe('Mine'));
    const names: string[] = [];
    session.store.subscribe(({ board }) => names.push(board.name));
    await soon(() => expect(sync.heard.some(({ kind }) => kind === 'patch-settled')).toBe(true));
    server.gate.open();
    await soon(() =>
      expect(server.asked.filter((one) => one === 'GET /api/boards').length).toBeGreaterThan(1),
    );
    expect(new Set(names)).toEqual(new Set(['Mine']));
  });
});

describe('every way of altering', () => {
  const value = fc.record(
    {
      centre: fc.record({ x: fc.integer({ min: -900, max: 900 }), y: fc.integer({ min: -900, max: 900 }) }),
      width: fc.integer({ min: 1, max: 900 }),
      turn: fc.integer({ min: -180, max: 180 }),
      opacity: fc.constantFrom(0, 0.25, 1),
      stack: fc.constantFrom('a0', 'a1', 'a2'),
      removed: fc.boolean(),
      text: fc.constantFrom('', 'rope', 'knot'),
    },
    { requiredKeys: [] },
  );
  const act = fc.oneof(
    fc.record({ item: fc.constantFrom('a', 'b'), set: value }),
    fc.constant('create' as const),
    fc.constant('undo' as const),
    fc.constant('redo' as const),
  );

  it('is shown in the other windows, saved, kept over a reload, and taken back whole', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(act, { maxLength: 12 }), async (acts) => {
        const own = new FakeServer(BOARD);
        own.accept(made({ create: note('a') }, { create: note('b') }));
        const first = await startTestSync();
        const one = await BoardSession.open(first, BOARD);
        const other = await BoardSession.open(first, BOARD);
        const before = new Map(one.items);
        let created = 0;
        for (const what of acts) {
          if (what === 'undo') await first.steps.undo();
          else if (what === 'redo') await first.steps.redo();
          else if (what === 'create') {
            created += 1;
            one.commit([{ create: note(`n${created}`) }]);
          } else if (Object.keys(what.set).length > 0) one.commit([what]);
          expect(new Map(other.items)).toEqual(new Map(one.items));
        }
        first.send();
        await soon(async () => expect(await first.database.count('outbox')).toBe(0));
        expect(own.items).toEqual(new Map(one.items));
        const reloaded = await BoardSession.open(await startTestSync(first.store), BOARD);
        expect(new Map(reloaded.items)).toEqual(new Map(one.items));
        while (await first.steps.undo()) {
          // Each takes back one more.
        }
        for (const [id, item] of before) expect(one.items.get(id)).toEqual(item);
        expect(one.standing.map(({ id }) => id).sort()).toEqual(['a', 'b']);
        for (const session of [one, other, reloaded]) session.close();
        first.stop();
      }),
      { numRuns: 40 },
    );
  }, 60_000);
});

describe('a server that was put back', () => {
  it('and has moved on since is believed; what is unsent stays on top', async () => {
    for (let index = 0; index < 10; index += 1)
      server.accept(made({ item: 'a', set: { text: `past ${index}` } }));
    tell({ kind: 'board', board: BOARD, revision: 11 });
    await soon(() => expect(textOf('a')).toBe('past 9'));
    session.commit([{ item: 'b', set: { text: 'unsent' } }]);
    server.putBack(5);
    for (let index = 0; index < 12; index += 1)
      server.accept(made({ item: 'a', set: { text: `other ${index}` } }));
    expect(server.log.length).toBeGreaterThan(11);
    tell({ kind: 'hello', databaseId: 'd', build: 'b' });
    await soon(() => expect(textOf('a')).toBe('other 11'));
    expect(textOf('b')).toBe('unsent');
    expect(sync.steps.store.getState().undo).toBeUndefined();
  });

  it('and cannot be asked at once is asked again', async () => {
    server.accept(made({ item: 'a', set: { text: 'lost' } }));
    tell({ kind: 'board', board: BOARD, revision: 2 });
    await soon(() => expect(textOf('a')).toBe('lost'));
    server.putBack(1);
    let failures = 0;
    server.intercept = (method, path) => {
      if (method !== 'GET' || path !== `/api/boards/${BOARD}` || failures >= 2) return undefined;
      failures += 1;
      throw new TypeError('connection refused');
    };
    tell({ kind: 'hello', databaseId: 'd', build: 'b' });
    await soon(() => expect(textOf('a')).toBe('a'));
    expect(failures).toBe(2);
  }, 120_000);
});

describe('a burst of another window', () => {
  const width = (id: string, value: number): Change => ({
    id,
    operations: [{ item: 'a', set: { width: value } }],
  });

  it('is shown as the server has it, also when the window tells of its joining late', async () => {
    for (const change of [width('1', 250), width('2', 260)])
      sync.channel.post({ kind: 'queued', board: BOARD, change });
    // The window that sends was quicker than the one in which the keys were pressed.
    const revision = server.accept(width('1', 260));
    sync.channel.post({ kind: 'outcomes', board: BOARD, outcomes: [{ id: '1', revision }] });
    sync.channel.post({ kind: 'joined', board: BOARD, into: width('1', 260), gone: '2' });
    await soon(() => expect(session.items.get('a')?.width).toBe(260));
    // Nothing of it lies on top of what comes now.
    server.accept(width('3', 400));
    tell({ kind: 'board', board: BOARD, revision: revision + 1 });
    await soon(() => expect(session.items.get('a')?.width).toBe(400));
  });

  it('is one change here, too', async () => {
    for (const change of [width('1', 250), width('2', 260)])
      sync.channel.post({ kind: 'queued', board: BOARD, change });
    sync.channel.post({ kind: 'joined', board: BOARD, into: width('1', 260), gone: '2' });
    expect(session.items.get('a')?.width).toBe(260);
    sync.channel.post({
      ...{ kind: 'outcomes', board: BOARD },
      outcomes: [{ id: '1', refused: { code: 'malformed', title: '' } }],
    });
    expect(session.items.get('a')?.width).toBe(240);
  });
});
