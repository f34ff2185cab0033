import { parentPort } from 'node:worker_threads';
import { renderMaster } from './master.ts';
import { SHOTS } from './shots/index.ts';

/** A worker that renders what it is told, one shot at a time. */
parentPort?.on('message', async ({ id, scale }: { id: string; scale: number }) => {
  const shot = SHOTS.find((one) => one.id === id);
  if (!shot) throw new Error(`there is no shot ${id}`);
  await renderMaster(shot, scale);
  parentPort?.postMessage(id);
});
