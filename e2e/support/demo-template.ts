import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import type { LibraryAnswer } from '@miradero/core/schema';
import { loadDemo } from '../../demo/load.ts';
import { type RunningOptions, startRunning } from './running.ts';

/** Where the clusters lie that a run's tests are started from. */
const FOLDER_VARIABLE = 'MIRADERO_DEMO_TEMPLATE';
/** Alone it takes two to three minutes; tests run beside it, and machines are slow at times: who waits for it waits so long. */
const PATIENCE_MS = 1_400_000;
/** In so long at least one more picture is measured, however slow the machine is; the largest takes longest. */
const STANDS_STILL_MS = 420_000;

async function waitForMeasures(address: string): Promise<void> {
  let waiting = Number.POSITIVE_INFINITY;
  for (let since = Date.now(); Date.now() - since < STANDS_STILL_MS; await pause(1_000)) {
    const response = await fetch(`${address}/api/library?limit=500`);
    const { pictures, total } = (await response.json()) as LibraryAnswer;
    const missing = pictures.filter(({ measures }) => !measures);
    if (pictures.length === total && missing.length === 0) return;
    if (missing.length < waiting) since = Date.now();
    waiting = missing.length;
  }
  throw new Error(`the demo was not measured: ${waiting} pictures stood still`);
}

/** Tells the processes below this one where the template is to lie. */
export function announceDemoTemplate(folder: string): void {
  process.env[FOLDER_VARIABLE] = folder;
}

async function make(folder: string): Promise<void> {
  const running = await startRunning();
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
