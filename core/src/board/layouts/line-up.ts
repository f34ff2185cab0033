import { centreOf, type Rectangle, unionOf } from '../../geometry/index.ts';
import type { Item } from '../../items/index.ts';
import type { Operation } from '../../schema/index.ts';
import type { Items } from '../clusters.ts';
import { placeUnits, unitsOf } from './units.ts';

/** What of each lies on one line: an edge, or its middle on an upright (`middle-x`) or level (`middle-y`) line. */
export type LineUpEdge = 'left' | 'right' | 'top' | 'bottom' | 'middle-x' | 'middle-y';

function centreAt(bounds: Rectangle, whole: Rectangle, edge: LineUpEdge) {
  const { x, y } = centreOf(bounds);
  switch (edge) {
    case 'left':
      return { x: whole.x + bounds.width / 2, y };
    case 'right':
      return { x: whole.x + whole.width - bounds.width / 2, y };
    case 'top':
      return { x, y: whole.y + bounds.height / 2 };
    case 'bottom':
      return { x, y: whole.y + whole.height - bounds.height / 2 };
    case 'middle-x':
      return { x: centreOf(whole).x, y };
    case 'middle-y':
      return { x, y: centreOf(whole).y };
  }
}

/** Moves items so that an edge, or the middle, of each lies on one line: that of all of them together. */
export function lineUp(items: Items, chosen: Iterable<Item>, edge: LineUpEdge): Operation[] {
  const units = unitsOf(items, chosen);
  const whole = unionOf(units.map(({ bounds }) => bounds));
  if (!whole || units.length < 2) return [];
  return placeUnits(
    items,
    units,
    units.map(({ bounds }) => ({ centre: centreAt(bounds, whole, edge) })),
  );
}

/** Whether items lie rather beside each other (`x`) than above each other (`y`). */
export function axisOf(items: Items, chosen: Iterable<Item>): 'x' | 'y' {
  const centres = unitsOf(items, chosen).map(({ item }) => item.centre);
  const spread = (values: readonly number[]) => Math.max(...values) - Math.min(...values);
  return spread(centres.map(({ x }) => x)) >= spread(centres.map(({ y }) => y)) ? 'x' : 'y';
}

/**
 * Makes the gaps between items along an axis the same: the first and the last stay. Where there is not so much room, they
 * overlap by the same.
 */
export function spaceEvenly(items: Items, chosen: Iterable<Item>, axis: 'x' | 'y'): Operation[] {
  const side = axis === 'x' ? 'width' : 'height';
  const units = unitsOf(items, chosen).sort(
    (a, b) => a.item.centre[axis] - b.item.centre[axis] || (a.item.id < b.item.id ? -1 : 1),
  );
  if (units.length < 3) return [];
  const start = units[0]!.bounds[axis];
  const last = units.at(-1)!.bounds;
  const filled = units.reduce((sum, { bounds }) => sum + bounds[side], 0);
  const gap = (last[axis] + last[side] - start - filled) / (units.length - 1);
  let next = start;
  const places = units.map(({ item, bounds }) => {
    const centre = { ...item.centre, [axis]: next + bounds[side] / 2 };
    next += bounds[side] + gap;
    return { centre };
  });
  return placeUnits(items, units, places);
}
