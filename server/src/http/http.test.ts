import { randomUUID } from 'node:crypto';
import { request } from 'node:http';
import { PROBLEM_CODES } from '@miradero/core/contracts';
import { DATABASE_HEADER, type Health, type Session } from '@miradero/core/schema';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createConnection } from '../database/connection.ts';
import { problemOf } from '../requests/problem.ts';
import { listenTo, startTestServer, type TestServer, until } from '../test/server.ts';
import { healthOf } from './health.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** fetch sets Host and Origin itself; this does not. */
function raw(
  path: string,
  headers: Record<string, string>,
  method = 'GET',
): Promise<{ status: number; location?: string }> {
  const { hostname, port } = new URL(server.address);
  return new Promise((resolve, reject) => {
    const asked = request({ hostname, port, path, method, headers }, (response) => {
      response.resume();
      const { location } = response.headers;
      resolve({ status: response.statusCode!, ...(location ? { location } : {}) });
    });
    asked.on('error', reject);
    asked.end();
  });
}

describe('the guard', () => {
  it('refuses other hosts, and sends localhost to the canonical address', async () => {
    const { port } = new URL(server.address);
    expect(await raw('/api/session', { host: 'evil.example' })).toMatchObject({ status: 421 });
    const redirect = await raw('/boards', { host: `localhost:${port}` });
    expect(redirect).toEqual({ status: 308, location: `${server.address}/boards` });
  });

  it('refuses requests from other sites', async () => {
    const host = server.address.slice('http://'.length);
    expect(await raw('/api/boards', { host, origin: 'http://evil.example' }, 'POST')).toMatchObject({
      status: 403,
    });
    expect(await raw('/api/boards', { host, 'sec-fetch-site': 'cross-site' })).toMatchObject({ status: 403 });
    expect(await raw('/api/boards', { host, origin: server.address })).toMatchObject({ status: 200 });
  });

  it('sets a strict policy with a fresh nonce', async () => {
    const policies = await Promise.all(
      [1, 2].map(async () => (await server.ask('/api/session')).headers.get('content-security-policy')!),
    );
    expect(policies[0]).toContain("script-src 'self';");
    expect(policies[0]).toMatch(/style-src 'self' 'nonce-[A-Za-z0-9+/=]{20,}'/);
    expect(policies[0]).not.toContain('unsafe');
    expect(policies[0]).not.toBe(policies[1]);
  });
});

describe('a write that names the database it is meant for', () => {
  it('is taken by that one alone, and reading is free', async () => {
    const { databaseId } = (await (await server.ask('/api/session')).json()) as Session;
    const create = (headers: Record<string, string>) =>
      server.ask('/api/boards', {
        method: 'POST',
        body: JSON.stringify({ name: 'Meant' }),
        headers: { 'Content-Type': 'application/json', ...headers },
      });
    expect((await create({ [DATABASE_HEADER]: databaseId })).status).toBe(201);
    expect((await create({})).status).toBe(201);
    const foreign = await create({ [DATABASE_HEADER]: randomUUID() });
    expect(foreign.status).toBe(409);
    expect(await foreign.json()).toMatchObject({ code: 'foreign-database' });
    const read = await server.ask('/api/boards', { headers: { [DATABASE_HEADER]: randomUUID() } });
    expect(read.status).toBe(200);
  });
});

describe('errors', () => {
  it('are problem documents with a status, a code and words', () => {
    for (const code of PROBLEM_CODES) {
      const problem = problemOf(code);
      expect(problem).toMatchObject({ code, type: `urn:miradero:problem:${code}` });
      expect(problem.status).toBeGreaterThanOrEqual(400);
      expect(problem.title).toMatch(/^[A-Z].*\.$/);
    }
  });

  it('say so when nothing is there or the body is no JSON', async () => {
    const missing = await server.ask('/api/nothing');
    expect([missing.status, missing.headers.get('content-type')]).toEqual([
      404,
      'application/problem+json; charset=utf-8',
    ]);
    const garbled = await server.ask('/api/boards', {
      method: 'POST',
      body: '{',
      headers: { 'Content-Type': 'application/json' },
    });
    expect(garbled.status).toBe(400);
  });
});

describe('events', () => {
  it('greet with the id of the database and tell of boards, by topic', async () => {
    const all = await listenTo(server);
    const pictures = await listenTo(server, '?topics=pictures');
    await until(async () => all.events.length > 0 && pictures.events.length > 0);
    expect(all.events[0]).toMatchObject({ kind: 'hello' });
    const created = await server.send('POST', '/api/boards', { name: 'Told' });
    const { board } = (await created.json()) as { board: { id: string } };
    await until(async () =>
      all.events.some((event) => event.kind === 'board-facts' && event.board === board.id),
    );
    expect(pictures.events.some((event) => event.kind === 'board-facts')).toBe(false);
    all.stop();
    pictures.stop();
    expect((await server.ask('/api/events?topics=weather')).status).toBe(400);
  });

  it('are heard again after the database closed the connection', async () => {
    const listener = await listenTo(server);
    await until(async () => listener.events.length > 0);
    await server.knex.raw(
      "select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'miradero news' and datname = current_database()",
    );
    await until(async () => listener.events.some((event) => event.kind === 'compare'));
    const created = await server.send('POST', '/api/boards', { name: 'After' });
    const { board } = (await created.json()) as { board: { id: string } };
    await until(async () =>
      listener.events.some((event) => event.kind === 'board-facts' && event.board === board.id),
    );
    listener.stop();
  });
});

describe('health', () => {
  it('is ready with a database and a job process, and says what is away', async () => {
    const health = await until(async () => {
      const answer = await server.ask('/api/health');
      return answer.status === 200 && ((await answer.json()) as Health);
    });
    expect(health).toEqual({
      isReady: true,
      database: 'ready',
      jobs: 'ready',
      waitingJobs: expect.any(Number),
    });
    const away = createConnection('postgres://127.0.0.1:1/nothing');
    expect(await healthOf(away)).toEqual({
      ...{ isReady: false, database: 'away', jobs: 'unknown', waitingJobs: null },
    });
    await away.destroy();
  });
});
