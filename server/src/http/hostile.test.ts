import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { connect } from 'node:net';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { startTestServer, type TestServer } from '../test/server.ts';
import { guardProcess } from './last-guard.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** Writes pieces to the server one by one, as they are. @returns the first line of its answer and the rest */
async function raw(pieces: readonly (string | Buffer)[], isEnded = true): Promise<string> {
  const { hostname, port } = new URL(server.address);
  const socket = connect(Number(port), hostname);
  let text = '';
  socket.setEncoding('latin1');
  socket.on('data', (piece) => {
    text += piece;
  });
  socket.on('error', () => {});
  const closed = once(socket, 'close');
  await once(socket, 'connect');
  for (const piece of pieces) {
    if (socket.destroyed) break;
    socket.write(piece);
    await pause(20);
  }
  if (isEnded) await Promise.race([closed, pause(5_000)]);
  socket.destroy();
  return text;
}

const host = () => new URL(server.address).host;
const isAlive = async () => (await server.ask('/api/session')).status === 200;

function upload(head: string, length = 20_000): (string | Buffer)[] {
  const form = Buffer.from(`--x\r\n${head}\r\n\r\nbytes\r\n--x--\r\n`);
  const pieces = [];
  for (let at = 0; at < form.length; at += 4_000) pieces.push(form.subarray(at, at + 4_000));
  return [
    `POST /api/pictures HTTP/1.1\r\nHost: ${host()}\r\nConnection: close\r\nContent-Type: multipart/form-data; boundary=x\r\nContent-Length: ${Math.min(form.length, length)}\r\n\r\n`,
    ...pieces,
  ];
}

describe('a form that is none', () => {
  it.each([
    ['a junk line', 'junk'],
    ['NUL in a name', 'Content-Disposition: form-data; name="file"; filename="a\0b.png"'],
    ['a name of 17 kB', `Content-Disposition: form-data; name="file"; filename="${'n'.repeat(17_000)}.png"`],
  ])('with %s is refused in words, in pieces and whole, and the server goes on', async (_, head) => {
    for (const pieces of [upload(head), [Buffer.concat(upload(head).map((one) => Buffer.from(one)))]]) {
      const answer = await raw(pieces);
      expect(answer).toMatch(/^HTTP\/1.1 4\d\d/);
      expect(answer).toMatch(/"title":"[A-Z]/);
    }
    expect(await isAlive()).toBe(true);
  });

  it('or breaks off anywhere leaves the server as it was', async () => {
    const whole = Buffer.concat(
      upload('Content-Disposition: form-data; name="file"; filename="a.png"').map((one) => Buffer.from(one)),
    );
    for (let at = 150; at < whole.length; at += 17) await raw([whole.subarray(0, at)], false);
    expect(await isAlive()).toBe(true);
  });

  it('without a boundary is refused', async () => {
    const headers = { 'Content-Type': 'multipart/form-data' };
    expect((await server.ask('/api/pictures', { method: 'POST', headers, body: 'x' })).status).toBe(400);
  });
});

describe('requests that name their server twice', () => {
  it('or in an absolute form are refused', async () => {
    const two = await raw([
      `GET /api/session HTTP/1.1\r\nHost: ${host()}\r\nHost: evil.example\r\nConnection: close\r\n\r\n`,
    ]);
    expect(two).toMatch(/^HTTP\/1.1 4\d\d/);
    const absolute = await raw([
      `GET http://evil.example/api/session HTTP/1.1\r\nHost: ${host()}\r\nConnection: close\r\n\r\n`,
    ]);
    expect(absolute).toMatch(/^HTTP\/1.1 421/);
  });
});

const JSON_TYPE = { 'Content-Type': 'application/json' };
const HALF = '\ud83d';

describe('what the database could not keep', () => {
  it.each([
    '/api/library?tag=%00',
    '/api/library?licence=a%00',
    '/api/library?creator=%00b',
    '/api/library?words=%00',
    '/api/library?offset=1e308',
    '/api/library?leastPx=1e15',
    '/api/library?mostPx=9223372036854775807',
    '/api/library?from=0000-01-01',
    '/api/library?like=urn:uuid:8f14e45f-ceea-467f-a8f4-0d9c7ad3b3c0',
    '/api/pictures?board=urn:uuid:8f14e45f-ceea-467f-a8f4-0d9c7ad3b3c0',
    `/api/boards/${randomUUID()}/changes?since=1e308`,
  ])('is refused in a query: %s', async (path) => {
    const answer = await server.ask(path);
    expect([400, 404]).toContain(answer.status);
    expect(await answer.json()).toMatchObject({ title: expect.stringMatching(/^[A-Z]/) });
  });

  const texts = ['a\0b', `cut${HALF}`, 'e\u0301', '\u200e'];
  const id = randomUUID();
  it.each(
    texts.flatMap((text): [string, string, unknown][] => [
      ['POST', '/api/boards', { name: text }],
      ['PATCH', `/api/pictures/${id}`, { name: text }],
      ['PATCH', `/api/pictures/${id}`, { tags: [text] }],
      ['PATCH', `/api/subjects/${id}`, { name: text, parts: [] }],
      ['PATCH', '/api/library/tags', { name: text, colour: null }],
      ['PATCH', '/api/settings', { searches: [{ name: text, query: '' }] }],
      ['POST', '/api/library/bulk', { pictures: [id], series: text }],
      ['POST', '/api/library/restore', { before: [{ picture: id, name: text }] }],
    ]),
  )('is refused in a body: %s %s %j', async (method, path, body) => {
    expect((await server.send(method, path, body)).status).toBe(400);
  });

  it('is refused in notes, sources and titles of what is gathered', async () => {
    for (const text of texts.slice(0, 3)) {
      const asked = [
        server.send('PATCH', `/api/pictures/${id}`, { note: text }),
        server.send('PATCH', `/api/pictures/${id}`, { source: { title: text } }),
        server.send('PATCH', `/api/pictures/${id}`, { views: { [text]: null } }),
        server.send('POST', '/api/gathering/pictures', { address: 'http://127.0.0.1:1/', title: text }),
      ];
      expect((await Promise.all(asked)).map(({ status }) => status)).toEqual([400, 400, 400, 400]);
    }
  });

  it('refuses its own change alone; those beside it are accepted', async () => {
    const { board } = (await (await server.send('POST', '/api/boards', { name: 'Kept' })).json()) as {
      board: { id: string };
    };
    const note = (text: string) => ({
      id: randomUUID(),
      operations: [
        {
          create: {
            ...{ id: randomUUID(), kind: 'note', stack: 'a0', removed: false, centre: { x: 0, y: 0 } },
            ...{ width: 240, height: 51, turn: 0, opacity: 1, text },
          },
        },
      ],
    });
    const changes = [note('one'), note(`half ${HALF}`), note('NUL \0'), note('two')];
    const answer = await server.send('POST', `/api/boards/${board.id}/changes`, { changes });
    const { outcomes } = (await answer.json()) as { outcomes: { refused?: { code: string } }[] };
    expect(outcomes.map(({ refused }) => refused?.code)).toEqual([
      undefined,
      'malformed',
      'malformed',
      undefined,
    ]);
  });
});

describe('odd requests', () => {
  it.each([
    ['an unknown charset', { 'Content-Type': 'application/json; charset=utf-99' }, 415],
    ['an unknown content encoding', { ...JSON_TYPE, 'Content-Encoding': 'odd' }, 415],
    ['what only says that it is packed', { ...JSON_TYPE, 'Content-Encoding': 'gzip' }, 400],
  ])('with %s are refused', async (_, headers, status) => {
    const answer = await server.ask('/api/boards', { method: 'POST', headers, body: '{"name":"x"}' });
    expect(answer.status).toBe(status);
  });

  it('with paths that climb find nothing', async () => {
    for (const path of [
      '/assets/%2e%2e%2f%2e%2e%2fpackage.json',
      '/%2e%2e%2f%2e%2e%2fetc/passwd',
      '/%ff',
      '/%',
    ])
      expect(
        (await raw([`GET ${path} HTTP/1.1\r\nHost: ${host()}\r\nConnection: close\r\n\r\n`])).slice(9, 12),
      ).toMatch(/^4/);
  });
});

describe('the last guard', () => {
  it('answers what no route caught, and the process goes on', async () => {
    const heard: unknown[] = [];
    const unguard = guardProcess((error) => heard.push(error));
    // Vitest ends a run at what nobody caught; here that is what is looked at.
    const others = (['uncaughtException', 'unhandledRejection'] as const).map((name) => {
      const listeners = process.listeners(name as 'uncaughtException').slice(0, -1);
      for (const one of listeners) process.off(name, one as never);
      return () => {
        for (const one of listeners) process.on(name, one as never);
      };
    });
    const query = vi.spyOn(server.knex.client, 'acquireConnection').mockImplementation(
      () =>
        new Promise(() => {
          setTimeout(() => {
            throw new Error('thrown where nobody stands');
          }, 5);
        }),
    );
    try {
      const answer = await server.ask('/api/boards');
      expect(answer.status).toBe(500);
      expect(await answer.json()).toMatchObject({ code: 'unexpected' });
      expect(heard).toHaveLength(1);
      query.mockImplementation(() => {
        void Promise.reject(new Error('nobody waits for this'));
        return new Promise(() => {});
      });
      expect((await server.ask('/api/subjects')).status).toBe(500);
      query.mockImplementation(() => {
        throw 'a text';
      });
      for (const route of server.routes.filter((one) => one.startsWith('GET') && !one.includes('events'))) {
        const path = route.slice(4).replace('{id}', randomUUID()).replace('{hash}', '0'.repeat(64));
        const { status } = await server.ask(path.endsWith('previews') ? `${path}?address=x.example` : path);
        expect(status, path).toBeLessThan(600);
      }
    } finally {
      query.mockRestore();
      for (const back of others) back();
      unguard();
    }
    expect(await isAlive()).toBe(true);
  });
});
