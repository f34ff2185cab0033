import { existsSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { Worker } from 'node:worker_threads';
import { build } from 'esbuild';
import { MASTERS, masterOf } from './master.ts';
import { isShipped } from './ship/pictures.ts';
import { SHOTS } from './shots/index.ts';
import type { Shot } from './shots/shot.ts';

/**
 * Renders the masters that are missing, on all cores: `render.ts [--only text] [--scale 0.25] [--workers 2]`;
 * what is shipped already, only with `--again`.
 * May run for hours; ended at any time, it goes on where it was.
 */
const { values } = parseArgs({
  options: {
    only: { type: 'string', default: '' },
    again: { type: 'boolean', default: false },
    scale: { type: 'string', default: '1' },
    workers: { type: 'string', default: String(availableParallelism()) },
  },
});
const LARGE_PIXELS = 4_000_000;
const scale = Number(values.scale);
await mkdir(MASTERS, { recursive: true });
const wanted = SHOTS.filter((shot) => new RegExp(values.only).test(shot.id));
const pixels = ({ width, height }: Shot) => width * height;
/** Large ones last, so that there soon is much to look at. */
const missing = wanted
  .filter((shot) => !existsSync(masterOf(shot, scale)) && (values.again || scale < 1 || !isShipped(shot)))
  .sort((one, other) => Number(pixels(one) > LARGE_PIXELS) - Number(pixels(other) > LARGE_PIXELS));
console.log(`${wanted.length - missing.length} of ${wanted.length} are there, ${missing.length} to render`);

const bundle = `${MASTERS}darkroom-${process.pid}.mjs`;
await build({
  ...{ entryPoints: [fileURLToPath(new URL('darkroom.ts', import.meta.url))], outfile: bundle },
  ...{ bundle: true, platform: 'node', format: 'esm', packages: 'external', logLevel: 'warning' },
});

function tend(worker: Worker): Promise<void> {
  return new Promise((resolve, reject) => {
    let started = 0;
    const next = () => {
      const shot = missing.shift();
      if (!shot) {
        resolve(worker.terminate().then(() => undefined));
        return;
      }
      started = Date.now();
      worker.postMessage({ id: shot.id, scale });
    };
    worker.on('message', (id: string) => {
      console.log(`${id}: ${Math.round((Date.now() - started) / 1000)} s, ${missing.length} left`);
      next();
    });
    worker.on('error', reject);
    next();
  });
}

await Promise.all(
  Array.from({ length: Math.max(1, Number(values.workers)) }, () => tend(new Worker(bundle))),
);
