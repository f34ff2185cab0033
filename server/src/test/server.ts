import { createServer } from 'node:net';
import type { ServerEvent } from '@miradero/core/schema';
import pg from 'pg';
import sharp, { type Sharp } from 'sharp';
import { inject } from 'vitest';
import { type RunningServer, startServer } from '../server.ts';

export interface TestServer extends RunningServer {
  readonly databaseUrl: string;
  ask(path: string, options?: RequestInit): Promise<Response>;
  /** Sends JSON. */
  send(method: string, path: string, body: unknown): Promise<Response>;
}

export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

/** The real server on a fresh, migrated database. */
export async function startTestServer(fetchesFrom: readonly string[] = []): Promise<TestServer> {
  const name = `t${Date.now()}${Math.floor(Math.random() * 1e6)}`;
  const client = new pg.Client({ connectionString: inject('databaseUrl') });
  await client.connect();
  await client.query(`create database ${name}`);
  await client.end();
  const databaseUrl = inject('databaseUrl').replace(/\/postgres$/, `/${name}`);
  const settings = {
    databaseUrl,
    host: '127.0.0.1',
    port: await freePort(),
    webFolder: undefined,
    logLevel: 'silent',
    fetchesFrom,
    checksAnswers: true,
  };
  const server = await startServer(settings);
  const ask = (path: string, options?: RequestInit) => fetch(`${server.address}${path}`, options);
  return {
    ...server,
    databaseUrl,
    ask,
    send: (method, path, body) =>
      ask(path, { method, body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  };
}

/** Reads a stream of events until stopped. */
export async function listenTo(
  server: Pick<TestServer, 'ask'>,
  topics = '',
): Promise<{ readonly events: ServerEvent[]; stop(): void }> {
  const stopping = new AbortController();
  const response = await server.ask(`/api/events${topics}`, { signal: stopping.signal });
  const events: ServerEvent[] = [];
  const read = async () => {
    let text = '';
    for await (const piece of response.body!.pipeThrough(new TextDecoderStream() as never)) {
      text += piece;
      const parts = text.split('\n\n');
      text = parts.pop()!;
      for (const part of parts) if (part.startsWith('data: ')) events.push(JSON.parse(part.slice(6)));
    }
  };
  void read().catch(() => {});
  return { events, stop: () => stopping.abort() };
}

/** Waits until `look` gives something, for as long as a slow machine may need. */
export async function until<T>(look: () => Promise<T | undefined | false>, patienceMs = 55_000): Promise<T> {
  const end = Date.now() + patienceMs;
  for (;;) {
    const found = await look();
    if (found) return found;
    if (Date.now() > end) throw new Error('waited in vain');
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** A picture of noise that compresses badly, so that it has the bytes of a photograph. */
export function noisePicture(width: number, height: number, seed: number): Sharp {
  const data = Buffer.alloc(width * height * 3);
  let state = seed + 1;
  for (let index = 0; index < data.length; index += 1) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    data[index] = (index % (width * 3)) / ((width * 3) / 200) + (state >>> 27);
  }
  return sharp(data, { raw: { width, height, channels: 3 } });
}
