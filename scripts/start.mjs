import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build, SERVER } from './build.mjs';
import { checkNode, installModules, installPackages } from './install.mjs';
import { canHold, freePort, keptPassword, startPostgres } from './postgres.mjs';
import { isRoot, pause, run } from './run.mjs';

/**
 * `npm start` and `npm run demo`: installs what is missing, starts PostgreSQL and the server, and stops both on Ctrl-C.
 *
 *   --demo         demo data in a data folder of its own
 *   --port N       serve at this port from now on
 *   DATABASE_URL   use this database instead of an own cluster
 */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const FIRST_PORT = { demo: 4860, own: 4870 };
const RESTART_MS = 1_000;

const isDemo = process.argv.includes('--demo');
const kind = isDemo ? 'demo' : 'own';
const say = (text) => console.log(text);

function portArgument() {
  const index = process.argv.indexOf('--port');
  if (index < 0) return undefined;
  const port = Number(process.argv[index + 1]);
  if (!Number.isInteger(port) || port < 1024 || port > 65_535) {
    throw new Error('--port needs a number from 1024 to 65535.');
  }
  return port;
}

/** The project's own folder, or one that user postgres can enter. */
function dataFolder() {
  const own = join(ROOT, '.data', kind);
  if (process.env.DATABASE_URL) {
    mkdirSync(own, { recursive: true });
    return own;
  }
  // What was begun in one place goes on there.
  const fallback = join('/var/lib/miradero', kind);
  if (existsSync(join(own, 'postgres', 'data')) || canHold(own)) return own;
  if (!isRoot()) throw new Error(`The data folder ${own} cannot be used.`);
  mkdirSync(fallback, { recursive: true });
  say(`PostgreSQL cannot enter ${own}: the data is kept in ${fallback}.`);
  return fallback;
}

/** Settings of the data folder: ports stay the same, because what a browser keeps belongs to its address. */
async function pinnedSettings(folder) {
  const path = join(folder, 'settings.json');
  const known = existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : {};
  const settings = {
    port: portArgument() ?? known.port ?? FIRST_PORT[kind],
    databasePort: known.databasePort ?? (await freePort()),
  };
  writeFileSync(path, `${JSON.stringify(settings, null, 2)}\n`);
  return settings;
}

function isFree(port) {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });
}

/** Keeps the server running; one that ends by itself is started again. */
function keepServer(environment, onServing) {
  let child;
  let isStopping = false;
  let failures = 0;
  const start = () => {
    child = spawn(process.execPath, ['--enable-source-maps', SERVER], {
      cwd: ROOT,
      env: { ...process.env, ...environment },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    child.on('message', (message) => {
      if (!message.serving) return;
      failures = 0;
      onServing(message.serving);
    });
    child.on('exit', async (code) => {
      if (isStopping) return;
      failures += 1;
      say(`The server ended (${code ?? 'killed'}); starting it again …`);
      await pause(Math.min(RESTART_MS * failures, 10_000));
      if (!isStopping) start();
    });
  };
  start();
  return {
    async stop() {
      isStopping = true;
      if (child.exitCode !== null || child.signalCode !== null) return;
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      const isLate = await Promise.race([ended.then(() => false), pause(8_000).then(() => true)]);
      if (isLate) child.kill('SIGKILL');
      await ended;
    },
  };
}

/** The stand-in web of the demo, on the port after its own or any free one. */
async function startCommons(ownPort) {
  const wanted = ownPort + 1;
  const port = (await isFree(wanted)) ? wanted : 0;
  const child = spawn(process.execPath, ['--import', 'tsx', 'demo/commons/main.ts', String(port)], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  const address = await Promise.race([
    new Promise((resolve) => child.once('message', (message) => resolve(message.serving))),
    ended.then(() => undefined),
  ]);
  return {
    address,
    async stop() {
      if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
      await ended;
    },
  };
}

async function loadDemo(address, commons, databaseUrl) {
  const status = await run(process.execPath, ['--import', 'tsx', 'demo/load.ts', address, commons ?? ''], {
    cwd: ROOT,
    env: { ...process.env, DATABASE_URL: databaseUrl },
  });
  if (status !== 0) say('The demo could not be loaded whole; what was printed above says why.');
}

async function main() {
  checkNode();
  if (!process.env.DATABASE_URL) await installPackages('postgresql-15');
  await installModules(ROOT);
  const folder = dataFolder();
  const settings = await pinnedSettings(folder);
  if (!(await isFree(settings.port))) {
    throw new Error(
      `Port ${settings.port} is taken by another program. Stop that program, or start with --port and another number (what this browser has not sent yet stays with the old address).`,
    );
  }
  await build(ROOT, say);

  const stops = [];
  let isStopping = false;
  const stop = async (code) => {
    if (isStopping) return;
    isStopping = true;
    say('\nstopping …');
    for (const end of stops.reverse()) await end().catch((error) => say(error.message));
    process.exit(code);
  };
  process.on('SIGINT', () => stop(0));
  process.on('SIGTERM', () => stop(0));

  try {
    let databaseUrl = process.env.DATABASE_URL;
    if (!databaseUrl) {
      say('starting PostgreSQL …');
      const password = isDemo ? undefined : keptPassword(folder);
      const options = { port: settings.databasePort, password, say };
      const postgres = await startPostgres(join(folder, 'postgres'), options);
      stops.push(() => postgres.stop());
      databaseUrl = postgres.url;
    }
    let isFirst = true;
    const commons = isDemo ? await startCommons(settings.port) : undefined;
    if (commons) stops.push(() => commons.stop());
    const environment = {
      DATABASE_URL: databaseUrl,
      PORT: String(settings.port),
      WEB_FOLDER: join(ROOT, 'web/dist'),
      // The stand-in web lies on loopback, where nothing else is asked.
      ...(commons?.address ? { FETCHES_FROM: new URL(commons.address).host } : {}),
    };
    const server = keepServer({ LOG_LEVEL: 'warn', ...environment }, async (address) => {
      if (isFirst && isDemo) await loadDemo(address, commons?.address, databaseUrl);
      if (isFirst) say(`\nMiradero is at ${address}`);
      if (isFirst && commons?.address)
        say(`Tidewrack Commons, an invented site to gather from, is at ${commons.address}`);
      if (isFirst) say('Ctrl-C stops all of it.');
      isFirst = false;
    });
    stops.push(() => server.stop());
  } catch (error) {
    console.error(error.message);
    await stop(1);
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  main().catch((error) => {
    console.error(error.message);
    process.exit(1);
  });
}
