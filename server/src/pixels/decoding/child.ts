import { constants, setPriority } from 'node:os';
import sharp from 'sharp';
import { TASKS, type TaskName } from '../tasks.ts';
import { endAtOnce, watchOverSelf } from './watchdog.ts';

/**
 * A process that decodes and does nothing else: what a file does to it, it does to nobody else. It has no database, and
 * reads and writes only the paths that it is given.
 */
export interface ChildSettings {
  readonly mostBytes: number;
  readonly isPatient: boolean;
}
export interface Asked {
  readonly id: number;
  readonly name: TaskName;
  readonly input: unknown;
}
export type Answered =
  | { readonly id: number; readonly value: unknown }
  | { readonly id: number; readonly error: string };

const settings = JSON.parse(process.argv[2] ?? '{}') as ChildSettings;
watchOverSelf(settings.mostBytes);
// Requests, and the browser on the same computer, come first.
if (settings.isPatient) setPriority(constants.priority.PRIORITY_LOW);
sharp.cache(false);
sharp.concurrency(1);

process.on('message', async ({ id, name, input }: Asked) => {
  let answer: Answered;
  try {
    answer = { id, value: await (TASKS[name] as (given: unknown) => Promise<unknown>)(input) };
  } catch (cause) {
    const message = cause instanceof Error ? cause.message : String(cause);
    answer = { id, error: message.split('\n')[0] ?? '' };
  }
  process.send?.(answer);
});
process.on('disconnect', endAtOnce);
// A parent that is going away takes no more answers.
process.on('error', endAtOnce);
process.on('SIGINT', () => {});
process.on('SIGTERM', endAtOnce);
process.send?.('ready');
