import { heightOf, type Item } from '../../items/index.ts';
import type { Operation } from '../../schema/index.ts';
import type { Items } from '../clusters.ts';
import { placeUnits, unitsOf } from './units.ts';

/** What is made the same. */
export const EVEN_MEASURES = ['height', 'width', 'area', 'longest'] as const;
export type EvenMeasure = (typeof EVEN_MEASURES)[number];

/** As a length, board units: of an item's own sides, however it is turned. */
function lengthOf(item: Item, measure: EvenMeasure): number {
  const height = heightOf(item);
  if (measure === 'height') return height;
  if (measure === 'width') return item.width;
  return measure === 'area' ? Math.sqrt(item.width * height) : Math.max(item.width, height);
}

/** Sizes each about its own middle, so that all have the median of a measure. */
export function evenOut(items: Items, chosen: Iterable<Item>, measure: EvenMeasure): Operation[] {
  const units = unitsOf(items, chosen);
  if (units.length < 2) return [];
  const lengths = units.map(({ item }) => lengthOf(item, measure));
  const median = [...lengths].sort((a, b) => a - b)[Math.floor((lengths.length - 1) / 2)]!;
  return placeUnits(
    items,
    units,
    units.map(({ item }, index) => ({ centre: item.centre, scale: median / lengths[index]! })),
  );
}
