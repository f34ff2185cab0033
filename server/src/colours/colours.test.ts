import { randomUUID } from 'node:crypto';
import type { CmykAnswer, Guess, KeptPalette, PutPalette } from '@miradero/core/schema';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

describe('inks', () => {
  const inks = async (hex: string) =>
    ((await (await server.ask(`/api/colours/cmyk?hex=${hex}`)).json()) as CmykAnswer).inks;

  it('of white are none, of black are much of it, of a strong yellow are yellow', async () => {
    expect(Math.max(...(await inks('ffffff')))).toBeLessThan(0.02);
    const [, , , black] = await inks('000000');
    expect(black).toBeGreaterThan(0.8);
    const [cyan, magenta, yellow] = await inks('ffe000');
    expect(yellow).toBeGreaterThan(0.8);
    expect(cyan).toBeLessThan(0.2);
    expect(magenta).toBeLessThan(0.25);
  });

  it('are of a colour alone', async () => {
    for (const hex of ['', '12345', 'zzzzzz', '%2300ff00'])
      expect((await server.ask(`/api/colours/cmyk?hex=${hex}`)).status).toBe(400);
  });
});

describe('guesses', () => {
  const guesses = async () =>
    ((await (await server.ask('/api/guesses')).json()) as { guesses: Guess[] }).guesses;

  it('are kept in their order, each once, and belong to their owner', async () => {
    const first = { id: randomUUID(), truth: '#7e6650', guess: '#8a6a4a' };
    const second = { id: randomUUID(), truth: '#143ca0', guess: '#1040a0' };
    for (const one of [first, second, first])
      expect((await server.send('POST', '/api/guesses', one)).status).toBe(204);
    const [other] = await server.knex('owners').insert({ name: 'somebody else' }).returning('id');
    await server.knex('guesses').insert({ ...first, id: randomUUID(), owner: other.id });
    expect((await guesses()).map(({ id }) => id)).toEqual([first.id, second.id]);
  });

  it.each([
    [{ truth: '#7e6650' }],
    [{ truth: 'red', guess: '#000000' }],
    [{ truth: '#7e6650', guess: '#00000' }],
  ])('refuse what is none: %j', async (body) => {
    expect((await server.send('POST', '/api/guesses', { id: randomUUID(), ...body })).status).toBe(400);
  });
});

describe('palettes on the shelf', () => {
  const kept = async () =>
    ((await (await server.ask('/api/palettes')).json()) as { palettes: KeptPalette[] }).palettes;
  const palette = (more: Partial<PutPalette> = {}): PutPalette => ({
    ...{ title: 'Reeds', subject: null, viewpoint: null, isPutAway: false },
    swatches: [{ hex: '#7e6650', share: 1, name: 'dull umber' }],
    ...more,
  });

  it('are kept, altered and put away, the latest first, each for its owner', async () => {
    const [one, two] = [randomUUID(), randomUUID()];
    const subject = randomUUID();
    expect((await server.send('PATCH', `/api/subjects/${subject}`, { name: 'the ferry' })).ok).toBe(true);
    for (const [id, more] of [
      [one, {}],
      [two, { subject, viewpoint: { sector: 3, band: 1 } }],
      [one, { title: 'Reeds at noon' }],
    ] as const)
      expect((await server.send('POST', `/api/palettes/${id}`, palette(more))).status).toBe(204);
    expect(await kept()).toMatchObject([
      { id: two, subject, viewpoint: { sector: 3, band: 1 } },
      { id: one, title: 'Reeds at noon', subject: null, viewpoint: null },
    ]);
    await server.send('POST', `/api/palettes/${two}`, palette({ isPutAway: true }));
    expect((await kept()).map(({ id }) => id)).toEqual([one]);
    const [other] = await server.knex('owners').insert({ name: 'somebody else' }).returning('id');
    await server.knex('palettes').where({ id: one }).update({ owner: other.id });
    expect(await kept()).toEqual([]);
    expect((await server.send('POST', `/api/palettes/${one}`, palette())).status).toBe(404);
  });

  it.each([
    [{ swatches: [] }, 400],
    [{ swatches: [{ hex: 'red', share: 1, name: '' }] }, 400],
    [{ subject: '5ea00001-0000-4000-8000-0000000000ff' }, 404],
    [{ viewpoint: { sector: 12, band: 0 } }, 400],
  ] as const)('refuse what is none: %j', async (more, status) => {
    const answer = await server.send('POST', `/api/palettes/${randomUUID()}`, palette(more as never));
    expect(answer.status).toBe(status);
  });
});
