import type { IntakeAnswer } from '@miradero/core/schema';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const patch = (id: string, body: object) => server.send('PATCH', `/api/pictures/${id}`, body);

/** Brings a picture of one colour in. @returns its id */
async function bring(background: string): Promise<string> {
  const bytes = await sharp({ create: { width: 300, height: 200, channels: 3, background } })
    .png()
    .toBuffer();
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), 'counted.png');
  const answer = await server.ask('/api/pictures', { method: 'POST', body: form });
  return ((await answer.json()) as IntakeAnswer).pictures[0]!.id;
}

describe('words in use', () => {
  it('count parts, purposes and tags, and what lies on the landing', async () => {
    const words = async () =>
      (await (await server.ask('/api/library/words')).json()) as {
        parts: { id: string; count: number }[];
        purposes: { name: string; isNot: boolean; count: number }[];
      };
    const landed = async () => ((await (await server.ask('/api/landing')).json()) as { count: number }).count;
    const before = await landed();
    const ids = [await bring('#335588'), await bring('#885533')];
    expect(await landed()).toBe(before + 2);
    const subject = crypto.randomUUID();
    const part = crypto.randomUUID();
    await server.send('PATCH', `/api/subjects/${subject}`, {
      name: 'Counted',
      parts: [{ id: part, name: 'rail', parts: [] }],
    });
    const region = { x: 0, y: 0, width: 0.5, height: 0.5 };
    for (const id of ids)
      await patch(id, {
        parts: [part],
        purposes: [
          { purpose: 'effect', isNot: true, region: null },
          { purpose: 'effect', isNot: true, region },
        ],
      });
    const { parts, purposes } = await words();
    expect(parts.find(({ id }) => id === part)).toEqual({ id: part, count: 2 });
    // A picture that is here for it twice counts once.
    expect(purposes.find(({ name, isNot }) => name === 'effect' && isNot)?.count).toBe(2);
    // What was sorted lies there no more.
    expect(await landed()).toBe(before);
    await patch(ids[0]!, { isPutAway: true });
    expect((await words()).parts.find(({ id }) => id === part)?.count).toBe(1);
  });
});
