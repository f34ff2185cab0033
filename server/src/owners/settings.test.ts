import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const settings = async () => (await server.ask('/api/settings')).json();

describe('settings', () => {
  it('are none at first, are set whole by name, and stay', async () => {
    expect(await settings()).toEqual({ settings: {} });
    await server.send('PATCH', '/api/settings', { keys: { flip: ['t'], trim: [] } });
    expect(await settings()).toEqual({ settings: { keys: { flip: ['t'], trim: [] } } });
    await server.send('PATCH', '/api/settings', { keys: {} });
    expect(await settings()).toEqual({ settings: { keys: {} } });
  });

  it.each([
    [{ keys: { flip: 't' } }],
    [{ keys: { flip: ['a', 'b', 'c', 'd', 'e'] } }],
    [{ keys: { 'no such <name>': ['a'] } }],
    [{ other: 1 }],
  ])('refuse what makes no sense: %j', async (body) => {
    expect((await server.send('PATCH', '/api/settings', body)).status).toBe(400);
  });

  it('belong to their owner', async () => {
    const [other] = await server.knex('owners').insert({ name: 'somebody else' }).returning('id');
    await server.knex('owner_settings').insert({ owner: other.id, name: 'keys', value: '{"flip": ["q"]}' });
    expect(await settings()).toEqual({ settings: { keys: {} } });
  });
});
