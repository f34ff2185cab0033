import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { isRoot, run } from './run.mjs';

export const POSTGRES_BIN = '/usr/lib/postgresql/15/bin';
export const CHROMIUM = '/usr/bin/chromium';

/** What Debian must have installed: package → a file that shows it is there. */
const PACKAGES = { 'postgresql-15': `${POSTGRES_BIN}/postgres`, chromium: CHROMIUM };

async function aptGet(...args) {
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  return isRoot()
    ? run('apt-get', args, { env: environment })
    : run('sudo', ['DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args]);
}

/** Installs those of the named Debian packages that are missing. */
export async function installPackages(...names) {
  const missing = names.filter((name) => !existsSync(PACKAGES[name]));
  if (missing.length === 0) return;
  console.log(`installing ${missing.join(', ')} …`);
  // Debian's package would otherwise start a cluster of its own, which nobody here needs.
  const quiet = ['-y', '-qq', '-o', 'Dpkg::Use-Pty=0', '--no-install-recommends'];
  if ((await aptGet('install', ...quiet, ...missing)) === 0) return;
  await aptGet('update', '-qq');
  if ((await aptGet('install', ...quiet, ...missing)) !== 0) {
    throw new Error(
      `Could not install ${missing.join(', ')}. Install them by hand (apt-get install ${missing.join(' ')}) and start again.`,
    );
  }
}

/** Runs `npm ci` when the lockfile is not the one that was installed last. */
export async function installModules(root) {
  const stamp = join(root, 'node_modules', '.installed-from');
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('installing npm packages …');
  if ((await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: root })) !== 0) {
    throw new Error('npm ci did not succeed; what it printed above says why.');
  }
  mkdirSync(join(root, 'node_modules'), { recursive: true });
  writeFileSync(stamp, lock);
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    throw new Error(`Node.js 20.19 or newer is needed; this is ${process.versions.node}.`);
  }
}
