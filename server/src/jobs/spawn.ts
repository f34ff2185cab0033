import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const RESTART_MS = 1_000;

/** Keeps one job process running until stopped. */
export function keepJobProcess(databaseUrl: string): { stop(): void } {
  let isStopped = false;
  let child: ChildProcess | undefined;
  const start = () => {
    if (isStopped) return;
    child = fork(fileURLToPath(new URL('./process.ts', import.meta.url)), [], {
      env: { ...process.env, DATABASE_URL: databaseUrl },
      execArgv: ['--import', import.meta.resolve('tsx')],
    });
    child.on('exit', () => setTimeout(start, RESTART_MS).unref());
    child.on('error', () => {});
  };
  start();
  return {
    stop() {
      isStopped = true;
      child?.kill('SIGTERM');
    },
  };
}
