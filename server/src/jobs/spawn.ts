import { type ChildProcess, fork } from 'node:child_process';
import { once } from 'node:events';
import { programOf } from '../programs.ts';

const RESTART_MS = 1_000;
const HEARD_WITHIN_MS = 1_000;
/** A process that fails again and again starts again ever later: it must not keep a core busy with starting. */
const LONGEST_RESTART_MS = 30_000;
/** One that ran so long is thought to be well. */
const WELL_AFTER_MS = 60_000;

/** Keeps one job process running until stopped. */
export function keepJobProcess(databaseUrl: string): { stop(): Promise<void> } {
  let isStopped = false;
  let child: ChildProcess | undefined;
  let failures = 0;
  const start = () => {
    if (isStopped) return;
    const startedMs = Date.now();
    const { path, execArgv } = programOf('jobs');
    // In a session of its own: see `yieldToOthers`.
    child = fork(path, [], {
      ...{ execArgv, detached: true },
      env: { ...process.env, DATABASE_URL: databaseUrl },
    });
    child.on('exit', () => {
      failures = Date.now() - startedMs > WELL_AFTER_MS ? 0 : failures + 1;
      setTimeout(start, Math.min(LONGEST_RESTART_MS, RESTART_MS * 2 ** Math.min(failures, 6) * 0.5)).unref();
    });
    child.on('error', () => {});
  };
  start();
  return {
    async stop() {
      isStopped = true;
      if (!child || child.exitCode !== null || child.signalCode !== null) return;
      const ended = once(child, 'exit');
      // It ends its decoders and itself; whatever they do is begun anew. One that does not hear is ended from here.
      child.kill('SIGTERM');
      const timer = setTimeout(() => child?.kill('SIGKILL'), HEARD_WITHIN_MS);
      await ended;
      clearTimeout(timer);
    },
  };
}
