import { addPoints, centreOf, type Point, type Rectangle, unionOf } from '../../geometry/index.ts';
import { type Cluster, createCluster, type Item, isCluster } from '../../items/index.ts';
import type { Operation } from '../../schema/index.ts';
import { freeCentre } from '../arrival.ts';
import { type Items, membersByCluster } from '../clusters.ts';
import { frameAround, titleSizeFor } from '../grouping.ts';
import { boundsOf } from '../item-geometry.ts';
import { keyBelow } from '../stacking.ts';
import { packInOrder, packRowsWithin } from './in-order.ts';
import { areaOf } from './packing.ts';
import { othersThan } from './settle.ts';
import { placeUnits, type Unit, unitsOf } from './units.ts';

/** Items that stand together, under a heading. */
export interface Shelf {
  /** Of the cluster to make. */
  readonly id: string;
  readonly heading: string;
  readonly items: readonly string[];
}

export interface ShelvesWanted {
  /** Space between items, board units. */
  readonly gap: number;
  /** Width by height of the whole. */
  readonly aspect: number;
}

/** Headings and the ends of rows take about so much of the whole. */
const SPARE = 1.3;

interface Laid {
  readonly centres: readonly Point[];
  readonly frame: Pick<Cluster, 'centre' | 'width' | 'height'>;
}

/** Lays units in rows inside a cluster whose upper left corner is `corner`. */
function layInFrame(
  units: readonly Unit[],
  width: number,
  corner: Point,
  { gap, titleSize }: { readonly gap: number; readonly titleSize: number },
): Laid {
  const sizes = units.map(({ bounds }) => ({ width: bounds.width + gap, height: bounds.height + gap }));
  const packing = packRowsWithin(sizes, width);
  const inner = { x: 0, y: 0, width: packing.width - gap, height: packing.height - gap };
  const frame = frameAround(inner, titleSize);
  const shift = {
    x: corner.x - (frame.centre.x - frame.width / 2),
    y: corner.y - (frame.centre.y - frame.height / 2),
  };
  const centres = packing.at.map(({ x, y }, index) => ({
    x: x + shift.x + units[index]!.bounds.width / 2,
    y: y + shift.y + units[index]!.bounds.height / 2,
  }));
  return {
    centres,
    frame: { ...frame, centre: { x: frame.centre.x + shift.x, y: frame.centre.y + shift.y } },
  };
}

/** Clusters that hold nothing any more once `gone` have left them, and those that then hold only such. */
export function emptiedBy(items: Items, gone: Iterable<string>): Item[] {
  const members = membersByCluster(items);
  const left = new Set(gone);
  const emptied: Item[] = [];
  for (let isMore = true; isMore; ) {
    isMore = false;
    for (const [id, within] of members) {
      if (left.has(id) || !within.every((item) => left.has(item.id))) continue;
      left.add(id);
      emptied.push(items.get(id)!);
      isMore = true;
    }
  }
  return emptied.filter(isCluster);
}

/** The units of each shelf, each of them once; shelves without any are left out. */
function filledShelves(items: Items, shelves: readonly Shelf[]) {
  const met = new Set<string>();
  return shelves.flatMap((shelf) => {
    const fresh = shelf.items.filter((id) => !met.has(id));
    const units = unitsOf(
      items,
      fresh.flatMap((id) => items.get(id) ?? []),
    );
    for (const { item } of units) met.add(item.id);
    const order = new Map(fresh.map((id, index) => [id, index]));
    units.sort((a, b) => order.get(a.item.id)! - order.get(b.item.id)!);
    return units.length > 0 ? [{ ...shelf, units }] : [];
  });
}

/**
 * Puts items on shelves, one below the other, each a cluster with its heading. Clusters that are emptied by it go; what is
 * fixed in place stays, and stands on none.
 *
 * @param shelves - an item stands on the first that names it, in the order in which it names them
 */
export function shelve(items: Items, shelves: readonly Shelf[], { gap, aspect }: ShelvesWanted): Operation[] {
  const filled = filledShelves(items, shelves);
  const units = filled.flatMap((shelf) => shelf.units);
  const whole: Rectangle | undefined = unionOf(units.map(({ bounds }) => bounds));
  if (!whole) return [];
  const titleSize = titleSizeFor(units.map(({ item }) => item));
  const sizes = units.map(({ bounds }) => ({ width: bounds.width + gap, height: bounds.height + gap }));
  const width = Math.max(Math.sqrt(areaOf(sizes) * aspect * SPARE), ...sizes.map((size) => size.width));
  const laid = filled.map((shelf) => layInFrame(shelf.units, width, { x: 0, y: 0 }, { gap, titleSize }));
  const packing = packInOrder(
    laid.map(({ frame }) => ({ width: frame.width + gap, height: frame.height + gap })),
    aspect,
  );
  const free = freeCentre(
    centreOf(whole),
    packing,
    othersThan(items, units).map(({ bounds }) => bounds),
    gap / 2,
  );
  const places: { centre: Point }[] = [];
  const made: Operation[] = [];
  for (const [index, shelf] of filled.entries()) {
    const { centres, frame } = laid[index]!;
    const corner = packing.at[index]!;
    const shift = { x: free.x - packing.width / 2 + corner.x, y: free.y - packing.height / 2 + corner.y };
    for (const centre of centres) places.push({ centre: addPoints(centre, shift) });
    const ids = shelf.units.map(({ item }) => item.id);
    const { key, rekeyed } = keyBelow(items.values(), new Set(ids));
    const centre = addPoints(frame.centre, shift);
    const title = { title: shelf.heading, titleSize };
    made.push({ create: createCluster({ id: shelf.id, stack: key, ...frame, centre, ...title }) });
    for (const item of ids) made.push({ item, set: { cluster: shelf.id } });
    made.push(...rekeyed);
  }
  const gone = emptiedBy(
    items,
    units.map(({ item }) => item.id),
  );
  return [
    ...placeUnits(items, units, places),
    ...made,
    ...gone.map(({ id }) => ({ item: id, set: { removed: true } })),
  ];
}

/**
 * Lays what lies in a cluster in one line, in an order, and makes the cluster as large as that; its upper left corner stays.
 *
 * @param order - ids, from the left
 */
export function layInLine(
  items: Items,
  cluster: Cluster,
  order: readonly string[],
  gap: number,
): Operation[] {
  const units = filledShelves(items, [{ id: cluster.id, heading: '', items: order }])[0]?.units ?? [];
  if (units.length === 0) return [];
  const bounds = boundsOf(cluster);
  const height = Math.max(...units.map((unit) => unit.bounds.height));
  const { titleSize } = cluster;
  const { centres, frame } = layInFrame(units, Number.POSITIVE_INFINITY, bounds, { gap, titleSize });
  const top = centres[0]!.y - units[0]!.bounds.height / 2;
  const places = centres.map(({ x }) => ({ centre: { x, y: top + height / 2 } }));
  return [...placeUnits(items, units, places), { item: cluster.id, set: { ...frame } }];
}
