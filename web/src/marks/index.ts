import type { Desk } from '../desk/index.ts';

export * from './commands.ts';

/** Strokes that were cut off on this board, by a browser that ended in the middle of them, come onto it. */
export async function takeUpStrokes(desk: Desk): Promise<void> {
  if ((await desk.sync.database.count('strokes')) === 0) return;
  const { takeUpUnfinished } = await import('./unfinished.ts');
  await takeUpUnfinished(desk);
}
