import { randomUUID } from 'node:crypto';
import { Agent } from 'node:http';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type FuzzAnswer, type FuzzRequest, type OpenApi, requestsTo, sendFuzz } from '../test/fuzz.ts';
import { noisePicture, startTestServer, type TestServer } from '../test/server.ts';

/** `npm run soak` asks for more, and for other seeds. */
const COUNT = Number(process.env.FUZZ_REQUESTS ?? 3_000);
const SEED = Number(process.env.FUZZ_SEED ?? 1);
const AT_ONCE = 6;
const MOST_MS = 3_000;

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** A board with a picture and a note, and a subject, so that requests meet something. */
async function furnish(): Promise<{ ids: string[]; hashes: string[] }> {
  const form = new FormData();
  const bytes = await noisePicture(300, 200, 5).jpeg().toBuffer();
  form.append('file', new Blob([new Uint8Array(bytes)]), 'reed.jpg');
  const taken = await (await server.ask('/api/pictures', { method: 'POST', body: form })).json();
  const [picture] = (taken as { pictures: { id: string; sha256: string }[] }).pictures;
  const [board, subject] = [randomUUID(), randomUUID()];
  await server.send('POST', '/api/boards', { id: board, name: 'Fuzzed' });
  await server.send('PATCH', `/api/subjects/${subject}`, { name: 'The ferry', parts: [] });
  return { ids: [board, subject, picture!.id], hashes: [picture!.sha256] };
}

it(`answers ${COUNT} requests of any kind with sense, none with a 5xx, none after more than 3 s`, {
  timeout: COUNT * 60 + 60_000,
}, async () => {
  const { ids, hashes } = await furnish();
  const document = (await (await server.ask('/api/openapi.json')).json()) as OpenApi;
  const requests = fc.sample(requestsTo(document, ids, hashes), { numRuns: COUNT, seed: SEED });
  const agent = new Agent({ keepAlive: true, maxSockets: AT_ONCE });
  const bad: { one: FuzzRequest; answer: FuzzAnswer }[] = [];
  const byStatus = new Map<number, number>();
  let next = 0;
  const worker = async () => {
    for (let one = requests[next++]; one; one = requests[next++]) {
      const answer = await sendFuzz(server.address, agent, one);
      byStatus.set(answer.status, (byStatus.get(answer.status) ?? 0) + 1);
      // That something is away is the very thing that is asked there.
      const isFailure = answer.status >= 500 && one.path !== '/api/health';
      if (answer.status === 0 || isFailure || answer.ms > MOST_MS) bad.push({ one, answer });
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  agent.destroy();
  console.log(`fuzz, seed ${SEED}:`, Object.fromEntries(byStatus));
  const shown = bad.slice(0, 8).map(({ one, answer }) => ({
    ...{ status: answer.status, ms: Math.round(answer.ms), method: one.method, path: one.path.slice(0, 200) },
    ...{
      headers: JSON.stringify(one.headers),
      body: one.body?.slice(0, 400),
      text: answer.text.slice(0, 200),
    },
  }));
  expect(shown).toEqual([]);
  // Not everything may be refused at the door: half of what is sent is meant to be good.
  expect((byStatus.get(200) ?? 0) + (byStatus.get(204) ?? 0)).toBeGreaterThan(COUNT / 5);
  expect((await server.ask('/api/session')).status).toBe(200);
});

it('is a document that names every route', async () => {
  const { paths } = (await (await server.ask('/api/openapi.json')).json()) as OpenApi;
  const named = Object.entries(paths).flatMap(([path, item]) =>
    Object.keys(item)
      .filter((key) => key !== 'parameters')
      .map((method) => `${method.toUpperCase()} ${path}`),
  );
  expect(named.toSorted()).toEqual([...server.routes].toSorted());
});
