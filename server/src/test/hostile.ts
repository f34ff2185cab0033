import { once } from 'node:events';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

type Answer = (request: IncomingMessage, response: ServerResponse) => void;

/** A web server on loopback that answers each path as it is told, however badly. */
export async function startHostile(answers: Readonly<Record<string, Answer>>): Promise<{
  readonly host: string;
  readonly asked: string[];
  at(path: string): string;
  stop(): Promise<void>;
}> {
  const asked: string[] = [];
  const server = createServer((request, response) => {
    asked.push(request.url ?? '');
    const answer = answers[(request.url ?? '').split('?')[0]!];
    if (answer) answer(request, response);
    else response.writeHead(404).end('nothing');
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  const host = `127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    host,
    asked,
    at: (path) => `http://${host}${path}`,
    async stop() {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
