import pMap from 'p-map';
import type { Sync } from '../../sync/index.ts';
import type { BroughtFile } from '../reading/brought.ts';
import { nameFor } from './arrive.ts';
import { gatheringOf } from './gathering.ts';
import { giveToAim } from './give-to-aim.ts';
import { keepFile, shapeOrWhy, whyNot } from './keep-file.ts';
import { placeOnBoard } from './place-on-board.ts';

const AT_ONCE = 2;

/**
 * Brings files in where no board is in front: they lie on the landing, or stand on the board that is named.
 * @returns the names under which they came in
 */
export async function land(
  sync: Sync,
  brought: readonly BroughtFile[],
  board?: { readonly id: string; readonly name: string },
): Promise<string[]> {
  const gathering = gatheringOf(sync);
  gathering.begin(brought.length);
  const taken = new Set(sync.shelf.names());
  const names: string[] = [];
  let known = 0;
  const keep = async (one: BroughtFile) => {
    const shape = await shapeOrWhy(one.file);
    if (typeof shape === 'string') {
      gathering.end({ what: one.file.name, why: shape });
      return;
    }
    const name = nameFor(one, board?.name ?? 'Landing', taken);
    const { picture, isKnown } = await keepFile(sync, one.file, shape, name, one);
    await giveToAim(sync, picture);
    if (board) await placeOnBoard(sync, board.id, [{ ...shape, id: picture }]);
    else if (isKnown) known += 1;
    names.push(name);
    gathering.end();
  };
  const keepOrSay = async (one: BroughtFile) => {
    if (gathering.report.isStopped) gathering.end();
    else await keep(one).catch((error) => gathering.end({ what: one.file.name, why: whyNot(error) }));
  };
  await pMap(brought, keepOrSay, { concurrency: AT_ONCE });
  if (known > 0)
    gathering.say(known === 1 ? 'One of them was here already.' : `${known} of them were here already.`);
  return names;
}
