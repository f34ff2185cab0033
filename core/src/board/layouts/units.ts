import type { Point, Rectangle } from '../../geometry/index.ts';
import { type Item, kindOf } from '../../items/index.ts';
import type { Operation } from '../../schema/index.ts';
import { type Items, isSeen, membersByCluster, outermost } from '../clusters.ts';
import { boundsOf } from '../item-geometry.ts';

/** What is laid out as one: an item that lies in no other of them, with its upright bounds, whose middle is the item's. */
export interface Unit {
  readonly item: Item;
  readonly bounds: Rectangle;
}

/** What of some can be laid out: seen, and not fixed in place. */
export const unitsOf = (items: Items, chosen: Iterable<Item>): Unit[] =>
  outermost(
    items,
    [...chosen].filter((item) => isSeen(items, item)),
  )
    .filter((item) => !item.isFixed)
    .map((item) => ({ item, bounds: boundsOf(item) }));

/** Where the middle of a unit comes to lie, and by how much it is sized. */
export interface Place {
  readonly centre: Point;
  readonly scale?: number;
}

/** Less than this, board units, nobody sees: laid out again, nothing alters, and there is nothing to take back. */
const TRIFLE = 1e-7;
const isNear = (a: number, b: number): boolean => Math.abs(a - b) <= TRIFLE;

/** Moves and sizes units with all that lies in them; what is there and as large already is left alone. */
export function placeUnits(items: Items, units: readonly Unit[], places: readonly Place[]): Operation[] {
  const members = units.some(({ item }) => item.kind === 'cluster') ? membersByCluster(items) : undefined;
  const operations: Operation[] = [];
  for (const [index, { item }] of units.entries()) {
    const { centre, scale: wanted = 1 } = places[index]!;
    const scale = isNear(wanted, 1) ? 1 : wanted;
    const from = item.centre;
    const met = new Set<string>();
    const waiting = [item];
    for (let one = waiting.pop(); one; one = waiting.pop()) {
      if (met.has(one.id)) continue;
      met.add(one.id);
      const at = {
        x: centre.x + (one.centre.x - from.x) * scale,
        y: centre.y + (one.centre.y - from.y) * scale,
      };
      const sized = scale === 1 ? {} : { width: one.width * scale, ...kindOf(one).sized?.(one, scale) };
      if (scale !== 1 || !isNear(at.x, one.centre.x) || !isNear(at.y, one.centre.y))
        operations.push({ item: one.id, set: { centre: at, ...sized } });
      waiting.push(...(members?.get(one.id) ?? []));
    }
  }
  return operations;
}
