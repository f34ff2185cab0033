import { spawn, spawnSync } from 'node:child_process';

/** Runs a command to its end, its output shown. @returns its exit status */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: 'inherit', ...options });
    child.on('error', reject);
    child.on('exit', (code, signal) => resolve(code ?? (signal ? 1 : 0)));
  });
}

/** Runs a command quietly. @returns its output; throws with it when the command fails */
export function read(command, args, options = {}) {
  const result = spawnSync(command, args, { encoding: 'utf8', ...options });
  if (result.error) throw result.error;
  if (result.status !== 0) throw new Error(`${command} ${args.join(' ')}: ${result.stderr || result.stdout}`);
  return result.stdout;
}

export const isRoot = () => process.getuid?.() === 0;

export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
