import { randomUUID } from 'node:crypto';
import { LEAST_BYTES, stateAt } from '@miradero/core/history';
import { createNote, createPlacement } from '@miradero/core/items';
import type {
  Board,
  BoardNews,
  BoardSnapshot,
  Change,
  History,
  Item,
  LoggedChange,
  Operation,
  PastSegment,
} from '@miradero/core/schema';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { acceptChanges } from '../boards/accept-changes.ts';
import { removePutAway } from '../database/bulk.ts';
import { createQueue } from '../jobs/queue.ts';
import { startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const at = { centre: { x: 0, y: 0 }, width: 240 };
const note = (id: string, text = '') => createNote({ ...at, id, stack: 'a0', height: 51, text });
const placement = (id: string, picture: string) =>
  createPlacement({ ...at, id, stack: 'a1', picture, pictureWidth: 1600, pictureHeight: 1000 });
const made = (...operations: Change['operations']): Change => ({ id: randomUUID(), operations });

async function newBoard(name = 'Ferry: form'): Promise<Board> {
  const response = await server.send('POST', '/api/boards', { name });
  return ((await response.json()) as { board: Board }).board;
}
async function change(board: string, ...changes: Change[]): Promise<void> {
  const response = await server.send('POST', `/api/boards/${board}/changes`, { changes });
  const { outcomes } = (await response.json()) as { outcomes: object[] };
  for (const outcome of outcomes) expect(outcome).toHaveProperty('revision');
}
const read = async <T>(path: string): Promise<T> => {
  const response = await server.ask(path);
  expect(response.status, path).toBe(200);
  return (await response.json()) as T;
};
const historyOf = (id: string) => read<History>(`/api/boards/${id}/history`);
const segmentAt = (id: string, revision: number) =>
  read<PastSegment>(`/api/boards/${id}/history/segment?revision=${revision}`);
const newsOf = (id: string, since: number, more = '') =>
  read<BoardNews>(`/api/boards/${id}/history/news?since=${since}${more}`);
const byId = (items: Iterable<Item>) => new Map([...items].map((item) => [item.id, item]));

describe('the past of a board', () => {
  it('tells every state as it was', async () => {
    const { id } = await newBoard();
    const states: Map<string, Item>[] = [new Map()];
    for (let index = 0; index < 12; index += 1) {
      await change(
        id,
        index % 3 === 2
          ? made({ item: `n${index - 1}`, set: { text: `altered ${index}`, removed: index % 2 === 0 } })
          : made({ create: note(`n${index}`, `“${index}” \\ \u{1F58C}`) }),
      );
      states.push(byId((await read<BoardSnapshot>(`/api/boards/${id}`)).items));
    }
    for (const [revision, truth] of states.entries())
      expect(stateAt(await segmentAt(id, revision), revision)).toEqual(truth);
    expect((await server.ask(`/api/boards/${id}/history/segment?revision=13`)).status).toBe(409);
    expect((await server.ask(`/api/boards/${id}/history/segment?revision=-1`)).status).toBe(400);
    expect((await server.ask(`/api/boards/${randomUUID()}/history`)).status).toBe(404);
  });

  it('keeps states between, so that none is put together from many changes', async () => {
    const { id } = await newBoard('Long');
    const many = Array.from({ length: 400 }, (_, index) => note(`n${index}`, 'hemp '.repeat(20)));
    await change(id, made(...many.map((create) => ({ create }))));
    const moves = Array.from({ length: 300 }, (_, index) =>
      made(
        ...Array.from({ length: index % 50 === 7 ? 300 : 2 }, (_, item) => ({
          item: `n${item}`,
          set: { centre: { x: index, y: item } },
        })),
      ),
    );
    for (let index = 0; index < moves.length; index += 50)
      await change(id, ...moves.slice(index, index + 50));
    await until(async () => {
      const { base } = await segmentAt(id, 301);
      return base > 200;
    });
    const truth = byId(many);
    for (let revision = 1; revision <= 301; revision += 1) {
      for (const operation of moves[revision - 2]?.operations ?? [])
        if ('item' in operation)
          truth.set(operation.item, { ...truth.get(operation.item)!, ...operation.set } as Item);
      if (revision % 23 !== 1) continue;
      const segment = await segmentAt(id, revision);
      expect(stateAt(segment, revision)).toEqual(truth);
      const weight = (value: unknown) => JSON.stringify(value).length;
      const most = Math.max(LEAST_BYTES, 0.25 * weight([...truth.values()]));
      expect(weight(segment.changes)).toBeLessThan(1.1 * most);
    }
  });

  it('is told in stretches: what was done, when, and by whom', async () => {
    const { id } = await newBoard();
    await change(id, made({ create: placement('p', randomUUID()) }, { create: note('n') }));
    await change(id, made({ item: 'n', set: { text: 'x' } }));
    const queue = await createQueue(server.databaseUrl);
    await acceptChanges(server.knex, queue, server.owner, id, [made({ create: note('m') })], 'Mara Quill');
    await queue.stop();
    await server
      .knex('board_changes')
      .where({ board: id, revision: 1 })
      .update({ made_at: '2026-11-20T08:00Z' });
    const { stretches, revision } = await historyOf(id);
    expect(revision).toBe(3);
    expect(stretches.map(({ from, to, by, gist }) => ({ from, to, by, gist }))).toEqual([
      {
        ...{ from: 1, to: 1, by: null },
        gist: {
          placement: { added: 1, removed: 0, altered: 0 },
          note: { added: 1, removed: 0, altered: 0 },
        },
      },
      { from: 2, to: 2, by: null, gist: { note: { added: 0, removed: 0, altered: 1 } } },
      { from: 3, to: 3, by: 'Mara Quill', gist: { note: { added: 1, removed: 0, altered: 0 } } },
    ]);
    expect(stretches[0]!.begunAt).toBe('2026-11-20T08:00:00.000Z');
  });

  it('tells what is new since a visit, each thing once and as it stands', async () => {
    const { id } = await newBoard();
    await change(id, made({ create: note('old') }, { create: note('away') }));
    await change(id, made({ create: placement('p', randomUUID()) }, { create: note('brief') }));
    await change(id, made({ item: 'brief', set: { removed: true } }, { item: 'old', set: { text: 'y' } }));
    await change(id, made({ item: 'away', set: { removed: true } }, { item: 'p', set: { width: 9 } }));
    const news = await newsOf(id, 1);
    expect(news).toEqual({
      revision: 4,
      items: ['old', 'p'],
      by: [
        {
          name: null,
          gist: {
            note: { added: 0, removed: 1, altered: 1 },
            placement: { added: 1, removed: 0, altered: 0 },
          },
        },
      ],
    });
    expect(await newsOf(id, 4)).toEqual({ revision: 4, items: [], by: [] });
    expect((await server.ask(`/api/boards/${id}/history/news?since=5`)).status).toBe(409);
  });

  it('is no news to the browser in which it was made', async () => {
    const { id } = await newBoard();
    const [here, there] = [randomUUID(), randomUUID()];
    const madeIn = (browser: string, ...operations: Operation[]) => ({ ...made(...operations), browser });
    await change(id, madeIn(here, { create: note('a') }, { create: note('b') }));
    await change(id, madeIn(there, { item: 'b', set: { text: 'theirs' } }));
    await change(id, made({ create: note('c') }));
    const itemsFor = async (browser: string) => (await newsOf(id, 0, `&browser=${browser}`)).items;
    expect(await itemsFor(here)).toEqual(['b', 'c']);
    expect(await itemsFor(there)).toEqual(['a', 'b', 'c']);
    expect((await newsOf(id, 0)).items).toEqual(['a', 'b', 'c']);
    expect((await server.ask(`/api/boards/${id}/history/news?since=0&browser=x`)).status).toBe(400);
    // It goes to the server alone: nobody who reads the log learns it.
    const log = await read<{ changes: LoggedChange[] }>(`/api/boards/${id}/changes?since=0`);
    expect(log.changes.map((entry) => Object.keys(entry.change).sort())).toEqual(
      log.changes.map(() => ['id', 'operations']),
    );
  });
});

describe('states', () => {
  const put = (state: string, body: object) => server.send('PATCH', `/api/named-states/${state}`, body);

  it('are named, once or at the moment, renamed and put away', async () => {
    const { id } = await newBoard();
    await change(id, made({ create: note('n') }), made({ item: 'n', set: { text: 'x' } }));
    const [first, now] = [randomUUID(), randomUUID()];
    expect((await put(first, { board: id, revision: 1, name: ' Before the fog ' })).status).toBe(204);
    expect((await put(now, { board: id, name: 'Sent to the printer' })).status).toBe(204);
    await put(now, { board: id, name: 'Sent to the printer' });
    expect((await historyOf(id)).named.map(({ name, revision }) => [name, revision])).toEqual([
      ...[
        ['Before the fog', 1],
        ['Sent to the printer', 2],
      ],
    ]);
    await put(first, { board: id, revision: 2, name: 'Before it all' });
    await put(now, { board: id, isPutAway: true });
    expect((await historyOf(id)).named.map(({ name, revision }) => [name, revision])).toEqual([
      ['Before it all', 1],
    ]);
  });

  it('are refused where there is none, no name, or another board', async () => {
    const [{ id }, other] = [await newBoard(), await newBoard()];
    const state = randomUUID();
    expect((await put(state, { board: id, revision: 1, name: 'Later' })).status).toBe(409);
    expect((await put(state, { board: id, name: ' \u202e ' })).status).toBe(400);
    expect((await put(state, { board: id, isPutAway: true })).status).toBe(404);
    expect((await put(state, { board: randomUUID(), name: 'x' })).status).toBe(404);
    await put(state, { board: id, name: 'Here' });
    expect((await put(state, { board: other.id, name: 'There' })).status).toBe(404);
    expect((await historyOf(other.id)).named).toEqual([]);
  });
});

describe('a picture', () => {
  it('that the past of a board names is not swept, however long it was put away', async () => {
    const { knex, owner } = server;
    const [named, exchanged, never] = [randomUUID(), randomUUID(), randomUUID()];
    for (const [index, id] of [named, exchanged, never].entries()) {
      const hash = String(index).repeat(64);
      await knex('blobs').insert({ hash, bytes: 0, type: 'image/png' });
      await knex('pictures').insert({
        ...{ id, owner, name: 'x', file_name: 'x', type: 'image/png', bytes: 0, sha256: hash },
        ...{ width: 1, height: 1, is_put_away: true, put_away_at: '2026-01-01T00:00Z' },
      });
    }
    const { id } = await newBoard();
    await change(id, made({ create: placement('p', named) }));
    await change(id, made({ item: 'p', set: { picture: exchanged } }));
    await change(id, made({ item: 'p', set: { picture: named } }, { item: 'p', set: { removed: true } }));
    expect(await removePutAway(knex, '30 days')).toBe(1);
    expect((await server.ask(`/api/pictures/${never}`)).status).toBe(404);
    for (const kept of [named, exchanged])
      expect((await server.ask(`/api/pictures/${kept}`)).status).toBe(200);
  });
});
