import {
  boundsOf,
  compareStacking,
  duplicate,
  isSeen,
  keysOnTop,
  withMarks,
  withMembers,
} from '@miradero/core/board';
import { addPoints, type Point, unionOf } from '@miradero/core/geometry';
import type { Item } from '@miradero/core/schema';
import { whyOf } from '@miradero/core/text';
import { commitElsewhere } from '../sync/index.ts';
import type { Desk } from './desk.ts';

/**
 * Lets copies of what is selected stand on another board, with everything they carry; here it stays.
 *
 * @param at - where their middle comes to lie there, board units; without it they stand beside what stands there
 */
export async function copyToBoard(desk: Desk, board: string, name: string, at?: Point): Promise<void> {
  const within = withMembers(desk.session.items, desk.selected);
  const items = withMarks(desk.session.items, within).sort(compareStacking);
  const own = unionOf(within.map(boundsOf));
  if (!own) return;
  const ids = new Set(items.map(({ id }) => id));
  // What lay in a cluster that stays here lies in none.
  const freed = items.map((item) =>
    item.cluster && !ids.has(item.cluster) ? { ...item, cluster: null } : item,
  );
  const made = (there: readonly Item[], offset: Point) => {
    const stacks = keysOnTop(there, freed.length);
    return duplicate(freed, offset, () => crypto.randomUUID(), stacks).map((create) => ({ create }));
  };
  try {
    const make = (there: readonly Item[]) => {
      const standing = new Map(there.map((item) => [item.id, item]));
      const around = unionOf(there.filter((item) => isSeen(standing, item)).map(boundsOf));
      const middle = { x: -own.x - own.width / 2, y: -own.y - own.height / 2 };
      if (at) return made(there, addPoints(middle, at));
      const offset = around ? { x: around.x + around.width + desk.gap - own.x, y: around.y - own.y } : middle;
      return made(there, offset);
    };
    await commitElsewhere(desk.sync, board, make, desk.session.id);
    const what = within.length === 1 ? 'A copy stands' : `Copies of ${within.length} things stand`;
    desk.say(`${what} on “${name}”, too.`, ['Undo takes it back from there.']);
  } catch (error) {
    desk.say(`Nothing was copied to “${name}”.`, [whyOf(error)]);
  }
}
