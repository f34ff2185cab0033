import type { Sync } from '../sync/index.ts';
import { nameFor } from './arrive.ts';
import type { BroughtFile } from './brought.ts';
import { gatheringOf } from './gathering.ts';
import { keepFile, shapeOrWhy, whyNot } from './keep-file.ts';

const AT_ONCE = 2;

/** Brings files in without a board: they lie on the landing. */
export async function land(sync: Sync, brought: readonly BroughtFile[]): Promise<void> {
  const gathering = gatheringOf(sync);
  gathering.begin(brought.length);
  const taken = new Set(sync.shelf.names());
  const queue = [...brought];
  let known = 0;
  const work = async () => {
    for (let next = queue.shift(); next; next = queue.shift()) {
      const shape = await shapeOrWhy(next.file);
      if (typeof shape === 'string') {
        gathering.end({ what: next.file.name, why: shape });
        continue;
      }
      try {
        if (!gathering.report.isStopped) {
          const name = nameFor(next, 'Landing', taken);
          const { isKnown } = await keepFile(sync, next.file, shape, name, next);
          if (isKnown) known += 1;
        }
        gathering.end();
      } catch (error) {
        gathering.end({ what: next.file.name, why: whyNot(error) });
      }
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  if (known > 0)
    gathering.say(known === 1 ? 'One of them was here already.' : `${known} of them were here already.`);
}
