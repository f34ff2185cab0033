import { randomUUID } from 'node:crypto';
import { createNote, createPlacement } from '@miradero/core/items';
import type {
  Board,
  BoardSnapshot,
  Change,
  ChangeOutcome,
  FoundItem,
  LoggedChange,
  Placement,
} from '@miradero/core/schema';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

async function newBoard(name = 'Ferry: form'): Promise<Board> {
  const response = await server.send('POST', '/api/boards', { name });
  return ((await response.json()) as { board: Board }).board;
}
const snapshotOf = async (id: string) =>
  (await (await server.ask(`/api/boards/${id}`)).json()) as BoardSnapshot;
async function change(board: string, ...changes: unknown[]): Promise<ChangeOutcome[]> {
  const response = await server.send('POST', `/api/boards/${board}/changes`, { changes });
  expect(response.status).toBe(200);
  return ((await response.json()) as { outcomes: ChangeOutcome[] }).outcomes;
}
const note = (id: string, text = '') =>
  createNote({ id, stack: 'a0', centre: { x: 0, y: 0 }, width: 240, height: 51, text });
const placement = (id: string, picture: string): Placement =>
  createPlacement({
    ...{ id, stack: 'a1', picture, pictureWidth: 1600, pictureHeight: 1000 },
    centre: { x: 1, y: 2 },
    width: 300,
    flipY: true,
    trim: { x: 0, y: 0.25, width: 1, height: 0.5 },
  });
const made = (...operations: Change['operations']): Change => ({ id: randomUUID(), operations });
const codeOf = (outcome: ChangeOutcome | undefined) =>
  outcome && 'refused' in outcome && outcome.refused.code;

describe('what is written on boards', () => {
  const find = async (words: string, more = '') =>
    (
      (await (await server.ask(`/api/boards/items?words=${encodeURIComponent(words)}${more}`)).json()) as {
        items: FoundItem[];
      }
    ).items;

  it('is found by its words, wherever it stands, as long as it stands', async () => {
    const tar = await newBoard('Tar and hemp');
    const away = await newBoard('Away');
    const long = `Soak  the fibre\n${'in tar '.repeat(40)}`;
    await change(tar.id, made({ create: note('n1', 'Marlinspike "hitch", 100 % of the time') }));
    await change(tar.id, made({ create: note('n2', long) }, { create: note('gone', 'Marlinspike removed') }));
    await change(tar.id, made({ item: 'gone', set: { removed: true } }));
    await change(away.id, made({ create: note('n3', 'Marlinspike put away') }));
    await server.send('PATCH', `/api/boards/${away.id}`, { putAway: true });
    expect(await find('marlinspike')).toEqual([
      {
        ...{ board: tar.id, boardName: 'Tar and hemp', item: 'n1' },
        said: 'Marlinspike "hitch", 100 % of the time',
      },
    ]);
    expect((await find('HITCH spike')).map(({ item }) => item)).toEqual(['n1']);
    expect((await find('"hitch" 100 %')).map(({ item }) => item)).toEqual(['n1']);
    expect((await find('soak fibre'))[0]!.said).toMatch(/^Soak the fibre in tar/);
    expect((await find('soak fibre'))[0]!.said.length).toBeLessThanOrEqual(120);
    expect(await find('soak', '&limit=1')).toHaveLength(1);
  });

  it('is not found by signs that stand for others, nor by names of properties', async () => {
    const board = await newBoard('Signs');
    await change(board.id, made({ create: note('n1', 'Quaternion') }));
    for (const words of ['qua_ernion', 'qua%ion', 'quaternion opacity', '\\'])
      expect(await find(words), words).toEqual([]);
    expect((await server.ask('/api/boards/items?words=')).status).toBe(400);
    expect((await server.ask('/api/boards/items?words=%00')).status).toBe(400);
  });
});

describe('boards', () => {
  it('are created, listed, renamed, put away and brought back', async () => {
    const board = await newBoard('Light on the marsh');
    expect(board).toMatchObject({ name: 'Light on the marsh', surround: 5, putAway: false, revision: 0 });
    const path = `/api/boards/${board.id}`;
    await server.send('PATCH', path, { name: 'Light', surround: 3, putAway: true });
    expect((await snapshotOf(board.id)).board).toMatchObject({ name: 'Light', surround: 3, putAway: true });
    // What it is for; a copy is for the same.
    expect(board).toMatchObject({ forWhom: '', question: '', due: null });
    const brief = { forWhom: 'Page 7', question: 'How dark is the hull at dawn?', due: '2026-12-03' };
    await server.send('PATCH', path, brief);
    expect((await snapshotOf(board.id)).board).toMatchObject(brief);
    await server.send('PATCH', path, { due: null });
    expect((await snapshotOf(board.id)).board).toMatchObject({ ...brief, due: null });
    await server.send('PATCH', path, { putAway: false });
    const { boards } = (await (await server.ask('/api/boards')).json()) as { boards: Board[] };
    expect(boards.find(({ id }) => id === board.id)).toMatchObject({ putAway: false });
  });

  it('need a name, and values that make sense', async () => {
    const board = await newBoard();
    for (const body of [
      { name: '' },
      { name: ' \u202E' },
      {},
      { surround: 11 },
      { due: 'soon' },
      { question: 'x'.repeat(501) },
      { surround: 4.5 },
      { owner: 'me' },
    ]) {
      const response = await server.send('PATCH', `/api/boards/${board.id}`, body);
      expect([response.status, JSON.stringify(body)]).toEqual([400, JSON.stringify(body)]);
    }
    expect((await server.send('POST', '/api/boards', { name: '   ' })).status).toBe(400);
    expect((await server.ask(`/api/boards/${randomUUID()}`)).status).toBe(404);
    expect((await server.ask('/api/boards/nonsense')).status).toBe(404);
  });

  it('are created once when the same request comes twice', async () => {
    const id = randomUUID();
    expect((await server.send('POST', '/api/boards', { id, name: 'Once' })).status).toBe(201);
    expect((await server.send('POST', '/api/boards', { id, name: 'Once' })).status).toBe(200);
  });
});

describe('changes', () => {
  it('alter items, one revision each, and come back whole', async () => {
    const { id } = await newBoard();
    const picture = randomUUID();
    const outcomes = await change(
      id,
      made({ create: note('n', 'Hull goes to value 3') }, { create: placement('p', picture) }),
      made({ item: 'n', set: { text: 'never black', centre: { x: 5, y: 6 } } }),
    );
    expect(outcomes.map((outcome) => 'revision' in outcome && outcome.revision)).toEqual([1, 2]);
    const snapshot = await snapshotOf(id);
    expect(snapshot.revision).toBe(2);
    expect(snapshot.items).toHaveLength(2);
    expect(snapshot.items).toContainEqual({ ...note('n', 'never black'), centre: { x: 5, y: 6 } });
    expect(snapshot.items).toContainEqual(placement('p', picture));
    expect(snapshot.board.pictures).toBe(1);
  });

  it('with one id are one change, in one request and in two', async () => {
    const { id } = await newBoard();
    const once = made({ create: note('n') });
    const [first, second] = await change(id, once, once);
    expect(second).toEqual(first);
    expect(await change(id, once)).toEqual([first]);
    expect((await snapshotOf(id)).revision).toBe(1);
  });

  it('are refused each alone, with a code, and leave nothing half done', async () => {
    const { id } = await newBoard();
    const taken = (await newBoard()).id;
    await change(taken, made({ create: note('other') }));
    const outcomes = await change(
      id,
      made({ create: note('a') }),
      made({ create: note('b') }, { item: 'nobody', set: { width: 3 } }),
      made({ item: 'a', set: { flipX: true } }),
      made({ item: 'a', set: { width: 1e300 } }),
      made({ item: 'a', set: { width: null } }),
      made({ item: 'a', set: { id: 'z' } }),
      made({ create: { ...note('c'), kind: 'poster' } as never }),
      made({ create: note('a') }),
      made({ item: 'other', set: { width: 9 } }),
      { id: 'no uuid', operations: [] },
      { operations: 'none' },
      made({ item: 'a', set: { text: 'still here' } }),
    );
    expect(outcomes.map((outcome) => codeOf(outcome))).toEqual([
      false,
      'unknown-item',
      'malformed',
      'malformed',
      'malformed',
      'malformed',
      'malformed',
      'item-exists',
      'unknown-item',
      'malformed',
      'malformed',
      false,
    ]);
    const { items, revision } = await snapshotOf(id);
    expect(items).toEqual([note('a', 'still here')]);
    expect(revision).toBe(2);
  });

  it('may place a picture that is awaited, but not one that belongs to somebody else', async () => {
    const { id } = await newBoard();
    const foreign = randomUUID();
    const hash = 'f'.repeat(64);
    await server.knex('blobs').insert({ hash, bytes: 0, type: 'image/png' });
    const [other] = await server.knex('owners').insert({ name: 'somebody else' }).returning('id');
    await server.knex('pictures').insert({
      ...{ id: foreign, owner: other.id, name: 'x', file_name: 'x', type: 'image/png', bytes: 0 },
      ...{ sha256: hash, width: 1, height: 1 },
    });
    const outcomes = await change(
      id,
      made({ create: placement('a', foreign) }),
      made({ create: placement('b', randomUUID()) }),
    );
    expect(outcomes.map((outcome) => codeOf(outcome))).toEqual(['foreign-picture', false]);
    expect((await server.ask(`/api/pictures/${foreign}`)).status).toBe(404);
  });

  it('take revisions without a gap when many come at once', async () => {
    const { id } = await newBoard();
    const all = await Promise.all(
      Array.from({ length: 40 }, (_, index) => change(id, made({ create: note(`n${index}`) }))),
    );
    const revisions = all.flat().map((outcome) => ('revision' in outcome ? outcome.revision : -1));
    expect(revisions.sort((a, b) => a - b)).toEqual(Array.from({ length: 40 }, (_, index) => index + 1));
  });

  it('are one when the same comes many times at once, beside such as are refused', async () => {
    const { id } = await newBoard();
    const same = made({ create: note('n') });
    const bad = () => made({ item: 'nothing', set: { width: 5 } });
    const all = await Promise.all(
      Array.from({ length: 12 }, (_, index) => change(id, index % 3 === 1 ? bad() : same)),
    );
    const outcomes = all.flat();
    expect(outcomes.filter((outcome) => codeOf(outcome) === 'unknown-item')).toHaveLength(4);
    expect(outcomes.flatMap((outcome) => ('revision' in outcome ? [outcome.revision] : []))).toEqual(
      Array.from({ length: 8 }, () => 1),
    );
    const { board, items } = await snapshotOf(id);
    expect([board.revision, items.length]).toEqual([1, 1]);
  });

  it('are read back after a revision, in order; asking ahead is said to be so', async () => {
    const { id } = await newBoard();
    const changes = [
      made({ create: note('n') }),
      made({ item: 'n', set: { width: 5 } }),
      made({ item: 'n', set: { width: 6 } }),
    ];
    await change(id, ...changes);
    const answer = (await (await server.ask(`/api/boards/${id}/changes?since=1`)).json()) as {
      changes: LoggedChange[];
      revision: number;
    };
    expect(answer).toEqual({
      changes: [
        { revision: 2, change: changes[1] },
        { revision: 3, change: changes[2] },
      ],
      revision: 3,
    });
    const ahead = await server.ask(`/api/boards/${id}/changes?since=9`);
    expect(ahead.status).toBe(409);
    expect(await ahead.json()).toMatchObject({ code: 'ahead' });
    expect((await server.ask(`/api/boards/${id}/changes?since=x`)).status).toBe(400);
  });

  it('of another past with the same revisions are told from one’s own', async () => {
    const board = await newBoard();
    const first = made({ create: note('a') });
    await change(board.id, first, made({ item: 'a', set: { width: 300 } }));
    const snapshot = await snapshotOf(board.id);
    const ask = (since: number, last: string | null) =>
      server.ask(`/api/boards/${board.id}/changes?since=${since}${last ? `&last=${last}` : ''}`);
    expect((await ask(2, snapshot.lastChange)).status).toBe(200);
    expect((await ask(1, first.id)).status).toBe(200);
    const other = await ask(2, randomUUID());
    expect([other.status, ((await other.json()) as { code: string }).code]).toEqual([409, 'ahead']);
    expect((await snapshotOf((await newBoard()).id)).lastChange).toBeNull();
  });

  it('order stacking keys by code unit, whatever the language of the database', async () => {
    const { id } = await newBoard();
    await change(
      id,
      ...['a0', 'Zz', 'aB', 'ab'].map((stack, index) => made({ create: { ...note(`n${index}`), stack } })),
    );
    const rows = await server.knex('board_items').where({ board: id }).orderBy('stack').select('stack');
    expect(rows.map((row) => row.stack)).toEqual(['Zz', 'a0', 'aB', 'ab']);
  });

  it('of 5,000 items are taken as one', async () => {
    const { id } = await newBoard();
    await change(id, made(...Array.from({ length: 5000 }, (_, index) => ({ create: note(`n${index}`) }))));
    const moves = Array.from({ length: 5000 }, (_, index) => ({
      item: `n${index}`,
      set: { centre: { x: index, y: 1 } },
    }));
    const [outcome] = await change(id, made(...moves));
    expect(outcome).toMatchObject({ revision: 2 });
    const { items } = await snapshotOf(id);
    expect(items.every((item) => item.centre.x === Number(item.id.slice(1)))).toBe(true);
  });
});
