import { Worker } from 'node:worker_threads';

/**
 * The signal by which a process ends itself for want of memory, so that its parent knows why: nothing else sends it.
 * Its default action ends a process at once, also one that is deep in a library.
 */
export const MEMORY_SIGNAL = 'SIGUSR2';
const LOOK_MS = 200;

/** Plain JavaScript, so that no loader has to come with it. */
const WATCH = `
const { workerData: { parent, mostBytes, everyMs, memorySignal } } = require('node:worker_threads');
setInterval(() => {
  if (process.ppid !== parent) process.kill(process.pid, 'SIGKILL');
  if (mostBytes !== null && process.memoryUsage.rss() > mostBytes) process.kill(process.pid, memorySignal);
}, everyMs);
`;

/**
 * Watches this process from a thread of its own, which goes on while the others are held by a long computation: it ends
 * when its parent is gone, however that went, and when it needs more memory than it may.
 *
 * @param mostBytes - resident; null for no limit
 */
export function watchOverSelf(mostBytes: number | null): void {
  const workerData = {
    parent: process.ppid,
    mostBytes,
    everyMs: LOOK_MS,
    memorySignal: MEMORY_SIGNAL,
  };
  new Worker(WATCH, { eval: true, workerData, execArgv: [] }).unref();
}

/** Ends this process at once: `process.exit` would wait for a picture that is being decoded. */
export function endAtOnce(): never {
  process.kill(process.pid, 'SIGKILL');
  throw new Error('still here after SIGKILL');
}
