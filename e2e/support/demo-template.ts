import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import type { LibraryAnswer } from '@miradero/core/schema';
import { loadDemo } from '../../demo/load.ts';
import { type RunningOptions, startRunning } from './running.ts';

/** Where the clusters lie that a run's tests are started from. */
const FOLDER_VARIABLE = 'MIRADERO_DEMO_TEMPLATE';
/** Alone it takes two to three minutes; tests run beside it, and machines are slow at times. */
const PATIENCE_MS = 1_400_000;
/** Below the tests that run beside it: it has time until the first of them needs it. */
const NICENESS = 2;

async function waitForMeasures(address: string): Promise<void> {
  for (const until = Date.now() + PATIENCE_MS; Date.now() < until; await pause(1_000)) {
    const response = await fetch(`${address}/api/library?limit=500`);
    const { pictures, total } = (await response.json()) as LibraryAnswer;
    if (pictures.length === total && pictures.every(({ measures }) => measures)) return;
  }
  throw new Error('the demo was not measured in time');
}

/** Tells the processes below this one where the template is to lie. */
export function announceDemoTemplate(folder: string): void {
  process.env[FOLDER_VARIABLE] = folder;
}

async function make(folder: string): Promise<void> {
  const running = await startRunning({ niceness: NICENESS });
  try {
    await loadDemo(running.address, undefined, running.databaseUrl);
    await waitForMeasures(running.address);
  } catch (error) {
    await running.stop();
    throw error;
  }
  await running.stop(folder);
}

/**
 * A cluster with the whole demo taken in through the real intake, its levels made, its pictures measured: made once a run
 * by whoever asks first; whoever asks meanwhile waits for it.
 */
export async function demoTemplate(): Promise<Required<Pick<RunningOptions, 'template'>>> {
  const folder = process.env[FOLDER_VARIABLE];
  if (!folder) throw new Error('the run has no folder for the template');
  const [making, made, failed] = ['making', 'made', 'failed'].map((name) => join(folder, name));
  try {
    mkdirSync(making!);
  } catch {
    for (const until = Date.now() + PATIENCE_MS; !existsSync(made!); await pause(500)) {
      if (existsSync(failed!)) throw new Error(readFileSync(failed!, 'utf8'));
      if (Date.now() > until) throw new Error('the template was not made in time');
    }
    return { template: folder };
  }
  try {
    await make(folder);
    writeFileSync(made!, '');
  } catch (error) {
    writeFileSync(failed!, String(error));
    throw error;
  }
  return { template: folder };
}
