import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { POSTGRES_BIN } from './install.mjs';
import { isRoot, pause } from './run.mjs';

/** After SIGKILL a start fails for some seconds (lock file, shared memory); it is tried again for so long. */
const START_PATIENCE_MS = 20_000;

/** PostgreSQL refuses to run as root: step down to the user that Debian's package made. */
function asPostgres(folder, command, args) {
  if (!isRoot())
    return [command, args, { env: { ...process.env, PATH: `${POSTGRES_BIN}:${process.env.PATH}` } }];
  const step = ['--reuid=postgres', '--regid=postgres', '--init-groups', '--inh-caps=-all', '--'];
  const environment = ['env', '-i', `PATH=${POSTGRES_BIN}:/usr/bin:/bin`, `HOME=${folder}`, 'LANG=C.UTF-8'];
  return ['setpriv', [...step, ...environment, command, ...args], {}];
}

function runAs(folder, command, args) {
  const [name, list, options] = asPostgres(folder, command, args);
  const result = spawnSync(name, list, { cwd: '/', encoding: 'utf8', ...options });
  if (result.error) throw result.error;
  return result;
}

/** Can the user that runs PostgreSQL enter this folder? As root it may not, below a folder that only root may enter. */
export function canHold(folder) {
  mkdirSync(folder, { recursive: true });
  return runAs('/', 'test', ['-x', folder]).status === 0;
}

export function freePort() {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.once('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

/** Creates the cluster in `folder` unless it is there. With a password, connections must give it. */
function createCluster(folder, { password, throwaway }) {
  mkdirSync(folder, { recursive: true });
  if (isRoot()) spawnSync('chown', ['postgres:postgres', folder]);
  chmodSync(folder, 0o700);
  if (existsSync(join(folder, 'data', 'PG_VERSION'))) return;
  rmSync(join(folder, 'data'), { recursive: true, force: true });
  const access = password ? ['-A', 'scram-sha-256', `--pwfile=${join(folder, 'pw')}`] : ['-A', 'trust'];
  if (password) {
    writeFileSync(join(folder, 'pw'), password, { mode: 0o600 });
    if (isRoot()) spawnSync('chown', ['postgres:postgres', join(folder, 'pw')]);
  }
  const result = runAs(folder, 'initdb', [
    ...['-D', join(folder, 'data'), '-U', 'app', '-E', 'UTF8', '--locale=C.UTF-8', ...access],
    ...(throwaway ? ['--no-sync'] : []),
  ]);
  rmSync(join(folder, 'pw'), { force: true });
  if (result.status !== 0) {
    rmSync(join(folder, 'data'), { recursive: true, force: true });
    throw new Error(`initdb did not succeed: ${result.stderr}`);
  }
}

/** A password made once and kept in the data folder, readable by its owner alone. */
export function keptPassword(folder) {
  mkdirSync(folder, { recursive: true });
  const path = join(folder, 'password');
  if (!existsSync(path)) writeFileSync(path, randomBytes(24).toString('hex'), { mode: 0o600 });
  return readFileSync(path, 'utf8').trim();
}

/**
 * Starts PostgreSQL in `folder` on loopback and keeps it running: when it dies, it is started again.
 *
 * @param options.settings - more `name=value` settings
 * @param options.restart - false leaves a dead server dead (tests that kill it start it themselves)
 * @returns {Promise<{url: string, pid(): number, start(): Promise<void>, stop(): Promise<void>}>}
 */
export async function startPostgres(
  folder,
  { port, password, throwaway = false, settings = [], restart = true, say = () => {} },
) {
  createCluster(folder, { password, throwaway });
  const data = join(folder, 'data');
  const url = `postgres://app${password ? `:${password}` : ''}@127.0.0.1:${port}/postgres`;
  let child;
  let isStopping = false;

  const isReady = () =>
    runAs(folder, 'pg_isready', ['-q', '-h', '127.0.0.1', '-p', String(port), '-U', 'app']).status === 0;
  const launch = () => {
    const flags = ['listen_addresses=127.0.0.1', 'unix_socket_directories=', `port=${port}`, ...settings];
    const args = ['-D', data, ...flags.flatMap((flag) => ['-c', flag])];
    const [name, list, options] = asPostgres(folder, 'postgres', args);
    // Its own session: Ctrl-C in the terminal must reach the server before its database.
    const started = spawn(name, list, {
      cwd: '/',
      stdio: ['ignore', 'ignore', 'pipe'],
      detached: true,
      ...options,
    });
    let log = '';
    started.stderr.on('data', (text) => {
      log = (log + text).slice(-4000);
    });
    started.on('exit', () => {
      started.isGone = true;
    });
    started.lastWords = () => log;
    return started;
  };
  const start = async () => {
    const until = Date.now() + START_PATIENCE_MS;
    for (;;) {
      const started = launch();
      while (!started.isGone && Date.now() < until && !isReady()) await pause(100);
      if (!started.isGone && isReady()) {
        child = started;
        if (restart) {
          child.on('exit', () => {
            if (isStopping) return;
            say('PostgreSQL ended; starting it again …');
            start().catch((error) => say(error.message));
          });
        }
        return;
      }
      if (Date.now() > until) throw new Error(`PostgreSQL did not start: ${started.lastWords()}`);
      await pause(500);
    }
  };
  await start();
  return {
    url,
    pid: () => Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[0]),
    start,
    async stop() {
      isStopping = true;
      if (!child || child.isGone) return;
      // SIGINT is PostgreSQL's fast shutdown: open sessions end, everything is written.
      const ended = new Promise((resolve) => child.once('exit', resolve));
      process.kill(Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[0]), 'SIGINT');
      await ended;
    },
  };
}

/**
 * Makes one empty cluster that throwaway ones are copied from: copying takes a tenth of making.
 * @returns its folder, to be told to every process that starts some, and to be removed in the end
 */
export function makeThrowawayTemplate() {
  const folder = mkdtempSync(join(tmpdir(), 'miradero-pg-template-'));
  createCluster(folder, { throwaway: true });
  return folder;
}

/** Where the template lies, for processes below the one that made it. */
export const TEMPLATE_VARIABLE = 'MIRADERO_PG_TEMPLATE';

function copyTemplate(folder, template) {
  if (template) spawnSync('cp', ['-a', join(template, 'data'), join(folder, 'data')]);
}

/**
 * A cluster for tests in a fresh folder, gone when stopped. `durable` ones survive being killed.
 *
 * @param options.template - folder of a stopped cluster to start from; without one, an empty cluster
 * @returns what `startPostgres` does; `stop(keptIn)` moves the stopped cluster there, as a template for others
 */
export async function startThrowawayPostgres({ durable = false, template } = {}) {
  const folder = mkdtempSync(join(tmpdir(), 'miradero-pg-'));
  copyTemplate(folder, template ?? process.env[TEMPLATE_VARIABLE]);
  const settings = durable
    ? ['synchronous_commit=on']
    : ['fsync=off', 'full_page_writes=off', 'synchronous_commit=off'];
  const postgres = await startPostgres(folder, {
    port: await freePort(),
    throwaway: true,
    settings,
    restart: false,
  });
  return {
    ...postgres,
    async stop(keptIn) {
      await postgres.stop().catch(() => {});
      if (keptIn) renameSync(join(folder, 'data'), join(keptIn, 'data'));
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
