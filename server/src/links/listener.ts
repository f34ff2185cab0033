import { readFile, stat } from 'node:fs/promises';
import { createServer as createPlainServer, type Server } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import type { LinkListenerSettings, LinkListening } from '@miradero/core/schema';
import { type LookingParts, lookingApp } from './looking-app.ts';

/** Requests that are open when it stops may end so long, ms. */
const END_MS = 1_000;

/** Whoever begins a secure connection and says nothing more holds no place for long, ms. */
const HANDSHAKE_MS = 10_000;
const MOST_PEM_BYTES = 1_000_000;

const WHYS: Readonly<Record<string, string>> = {
  EADDRINUSE: 'Another program has that port.',
  EADDRNOTAVAIL: 'This computer has no such address.',
  EACCES: 'That port may not be opened, or a file may not be read.',
  ENOENT: 'The certificate or its key is not where it should be.',
};

function why(error: unknown): string {
  const { code = '', message } = error as NodeJS.ErrnoException;
  if (code.startsWith('ERR_OSSL'))
    return 'The certificate and its key cannot be read, or do not belong together.';
  return WHYS[code] ?? `It cannot be served: ${message}.`;
}

/** @throws Error for what is no file, or far larger than a certificate is */
async function readPem(path: string): Promise<Buffer> {
  const facts = await stat(path);
  if (!facts.isFile() || facts.size > MOST_PEM_BYTES)
    throw new Error('the certificate or its key is no such file');
  return readFile(path);
}

/** Serves links on an address of its own, as its owner says; off until then. One thing at a time. */
export class LinkListener {
  readonly #parts: LookingParts;
  #server: Server | undefined;
  #settings: LinkListenerSettings | undefined;
  #why: string | null = null;
  #last: Promise<void> = Promise.resolve();

  constructor(parts: LookingParts) {
    this.#parts = parts;
  }

  get now(): LinkListening {
    const { host, port, address, certificate } = this.#settings ?? {};
    const isOn = this.#server !== undefined;
    const own = `${certificate ? 'https' : 'http'}://${host?.includes(':') ? `[${host}]` : host}:${port}`;
    return { isOn, address: isOn ? address || own : null, why: this.#why };
  }

  /** Serves as is said from now on; what is wrong is told by `now`. */
  apply(settings: LinkListenerSettings | undefined): Promise<void> {
    this.#last = this.#last.then(() => this.#apply(settings));
    return this.#last;
  }

  async stop(): Promise<void> {
    await this.apply(undefined);
  }

  async #apply(settings: LinkListenerSettings | undefined): Promise<void> {
    if (JSON.stringify(settings) === JSON.stringify(this.#settings) && this.#why === null) return;
    await this.#close();
    this.#settings = settings;
    this.#why = null;
    if (!settings?.isOn) return;
    try {
      this.#server = await this.#open(settings);
    } catch (error) {
      this.#why = why(error);
    }
  }

  async #open({ host, port, certificate, key }: LinkListenerSettings): Promise<Server> {
    const app = lookingApp(this.#parts);
    const server: Server =
      certificate && key
        ? createSecureServer(
            { cert: await readPem(certificate), key: await readPem(key), handshakeTimeout: HANDSHAKE_MS },
            app,
          )
        : createPlainServer(app);
    // Whoever sends nothing holds no place for long.
    Object.assign(server, { headersTimeout: 10_000, requestTimeout: 30_000, keepAliveTimeout: 5_000 });
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, host, resolve);
    });
    server.on('error', () => {});
    return server;
  }

  async #close(): Promise<void> {
    const server = this.#server;
    this.#server = undefined;
    if (!server) return;
    const closed = new Promise((resolve) => server.close(resolve));
    server.closeIdleConnections();
    const timer = setTimeout(() => server.closeAllConnections(), END_MS);
    await closed;
    clearTimeout(timer);
  }
}
