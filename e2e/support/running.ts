import { type ChildProcess, spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));

interface Throwaway {
  readonly url: string;
  pid(): number;
  start(): Promise<void>;
  /** @param keptIn - folder that the stopped cluster is moved to, as a template for others */
  stop(keptIn?: string): Promise<void>;
}

export interface RunningOptions {
  /** The database survives SIGKILL (`synchronous_commit=on`). */
  readonly isDurable?: boolean;
  /** Hosts on this computer that may be asked for pictures. */
  readonly fetchesFrom?: readonly string[];
  /** Folder of a stopped cluster to start from; without one, an empty database. */
  readonly template?: string;
}

/** A real server on a throwaway PostgreSQL, which tests may kill and start again. */
export interface Running {
  readonly address: string;
  readonly databaseUrl: string;
  readonly postgres: Throwaway;
  /** SIGKILL: no chance to write anything. */
  killServer(): Promise<void>;
  startServer(): Promise<void>;
  killPostgres(): Promise<void>;
  /** @param keptIn - see `Throwaway` */
  stop(keptIn?: string): Promise<void>;
}

async function startThrowaway({ isDurable = false, template }: RunningOptions): Promise<Throwaway> {
  const path = new URL('../../scripts/postgres.mjs', import.meta.url).href;
  const { startThrowawayPostgres } = (await import(path)) as {
    startThrowawayPostgres(options: { durable: boolean; template?: string }): Promise<Throwaway>;
  };
  return startThrowawayPostgres({ durable: isDurable, ...(template ? { template } : {}) });
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

function launch(
  databaseUrl: string,
  port: number,
  { fetchesFrom = [] }: RunningOptions,
): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['--enable-source-maps', 'server/dist/main.js'], {
    cwd: ROOT,
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      PORT: String(port),
      WEB_FOLDER: process.env.WEB_FOLDER ?? `${ROOT}web/dist`,
      LOG_LEVEL: 'error',
      FETCHES_FROM: fetchesFrom.join(),
    },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  return new Promise((resolve, reject) => {
    child.on('message', () => resolve(child));
    child.on('exit', (code) => reject(new Error(`the server ended: ${code}`)));
  });
}

/** A server that was asked to end and did not within so long is ended. */
const HEARD_WITHIN_MS = 15_000;

const gone = (child: ChildProcess) => new Promise((resolve) => child.once('exit', resolve));

export async function startRunning(options: RunningOptions = {}): Promise<Running> {
  const postgres = await startThrowaway(options);
  const port = await freePort();
  let server = await launch(postgres.url, port, options);
  const end = async (signal: NodeJS.Signals) => {
    if (server.exitCode !== null || server.signalCode !== null) return;
    const ended = gone(server);
    server.kill(signal);
    // On a busy machine one that is asked may not come to it: tests must not wait for that.
    const timer = setTimeout(() => server.kill('SIGKILL'), HEARD_WITHIN_MS);
    await ended;
    clearTimeout(timer);
  };
  return {
    address: `http://127.0.0.1:${port}`,
    databaseUrl: postgres.url,
    postgres,
    killServer: () => end('SIGKILL'),
    async startServer() {
      server = await launch(postgres.url, port, options);
    },
    async killPostgres() {
      process.kill(postgres.pid(), 'SIGKILL');
    },
    async stop(keptIn) {
      await end('SIGTERM');
      await postgres.stop(keptIn);
    },
  };
}
