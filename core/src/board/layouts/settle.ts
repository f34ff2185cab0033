import Flatbush from 'flatbush';
import { centreOf, inflate, overlaps, type Point, type Rectangle, unionOf } from '../../geometry/index.ts';
import type { Item } from '../../items/index.ts';
import type { Operation } from '../../schema/index.ts';
import { freeCentre } from '../arrival.ts';
import { clustersAround, type Items, isSeen, outermost, withMembers } from '../clusters.ts';
import { boundsOf } from '../item-geometry.ts';
import { rowsOf } from '../reading-order.ts';
import { packInOrder } from './in-order.ts';
import { areaOf, pack, type ScaledPacking, type Size, unscaled } from './packing.ts';
import { placeUnits, type Unit, unitsOf } from './units.ts';
import { packWithoutHoles } from './without-holes.ts';

/** `tight`: in any order; `in-order`: read as before; `without-holes`: each size may vary a little. */
export type SettleForm = 'tight' | 'in-order' | 'without-holes';

export interface SettleWanted {
  readonly form: SettleForm;
  /** Space between items, board units. */
  readonly gap: number;
  /** Width by height of the whole. */
  readonly aspect: number;
  /** Where the middle of the whole shall lie; that of what is settled where it is missing. Board units. */
  readonly centre?: Point;
}

/** What stands beside what is settled; what lies under or over any of it is meant to, and is in nobody's way. */
export function othersThan(items: Items, units: readonly Unit[]): { bounds: Rectangle; isFixed: boolean }[] {
  const own = new Set(
    withMembers(
      items,
      units.map(({ item }) => item),
    ).map(({ id }) => id),
  );
  for (const { item } of units) for (const { id } of clustersAround(items, item)) own.add(id);
  const others = outermost(
    items,
    [...items.values()].filter((item) => !own.has(item.id) && isSeen(items, item)),
  );
  const index = new Flatbush(units.length);
  for (const { bounds: r } of units) index.add(r.x, r.y, r.x + r.width, r.y + r.height);
  index.finish();
  return others.flatMap((item) => {
    const bounds = boundsOf(item);
    const touched = index.search(bounds.x, bounds.y, bounds.x + bounds.width, bounds.y + bounds.height);
    const isUnder = touched.some((unit) => overlaps(units[unit]!.bounds, bounds));
    return isUnder && !item.isFixed ? [] : [{ bounds, isFixed: item.isFixed === true }];
  });
}

/** The units as they are read. */
function inReadingOrder(units: readonly Unit[]): Unit[] {
  const byId = new Map(units.map((unit) => [unit.item.id, unit]));
  return rowsOf(units.map(({ item }) => item))
    .flat()
    .map((id) => byId.get(id)!);
}

const cornerOf = (centre: Point, { width, height }: Size): Point => ({
  x: centre.x - width / 2,
  y: centre.y - height / 2,
});

/** A packing and where its corner lies on the board. */
function packAround(
  sizes: readonly Size[],
  { form, gap, aspect }: SettleWanted,
  centre: Point,
  others: readonly { bounds: Rectangle; isFixed: boolean }[],
): { packing: ScaledPacking; corner: Point } {
  if (form === 'tight') {
    const width = Math.sqrt(areaOf(sizes) * aspect);
    const about = { width, height: width / aspect };
    const corner = cornerOf(centre, about);
    const near = others.filter(({ bounds }) =>
      overlaps(bounds, inflate({ ...corner, ...about }, Math.max(about.width, about.height))),
    );
    const isAround = near.some(({ bounds, isFixed }) => isFixed && overlaps(bounds, { ...corner, ...about }));
    if (isAround) {
      const obstacles = near.map(({ bounds }) => {
        const grown = inflate(bounds, gap / 2);
        return { ...grown, x: grown.x - corner.x, y: grown.y - corner.y };
      });
      return { packing: unscaled(pack(sizes, { aspect, obstacles })), corner };
    }
  }
  const packing =
    form === 'without-holes'
      ? packWithoutHoles(sizes, aspect)
      : unscaled(form === 'tight' ? pack(sizes, { aspect }) : packInOrder(sizes, aspect));
  // Half the gap on each side is part of the packing.
  const free = freeCentre(
    centre,
    packing,
    others.map(({ bounds }) => bounds),
    gap / 2,
  );
  return { packing, corner: cornerOf(free, packing) };
}

/**
 * Lays items out tightly, their turns kept: where they are, or in the nearest free space. What is fixed in place stays, and
 * nothing lies on it.
 *
 * @returns no operations for fewer than two
 */
export function settle(items: Items, chosen: Iterable<Item>, wanted: SettleWanted): Operation[] {
  const given = unitsOf(items, chosen);
  const units = wanted.form === 'in-order' ? inReadingOrder(given) : given;
  const whole = unionOf(units.map(({ bounds }) => bounds));
  if (!whole || units.length < 2) return [];
  const gap = wanted.form === 'without-holes' ? gapBeside(units, wanted.gap) : wanted.gap;
  const sizes = units.map(({ bounds }) => ({ width: bounds.width + gap, height: bounds.height + gap }));
  const { packing, corner } = packAround(
    sizes,
    { ...wanted, gap },
    wanted.centre ?? centreOf(whole),
    othersThan(items, units),
  );
  const places = packing.at.map(({ x, y, scale }, index) => {
    const { width, height } = sizes[index]!;
    return {
      centre: { x: corner.x + x + (width * scale) / 2, y: corner.y + y + (height * scale) / 2 },
      scale: scaleWithin(units[index]!.bounds, { width: width * scale, height: height * scale }, gap),
    };
  });
  return placeUnits(items, units, places);
}

/** Cells are scaled and gaps are not: beside a gap that is large for it an item would vary by more than its cell. */
function gapBeside(units: readonly Unit[], gap: number): number {
  const sides = units.map(({ bounds }) => Math.min(bounds.width, bounds.height)).sort((a, b) => a - b);
  return Math.min(gap, sides[Math.floor(sides.length / 2)]! / 4);
}

/** The scale at which an item fills its cell but for the gap: the gap itself is not sized. */
const scaleWithin = ({ width, height }: Size, cell: Size, gap: number): number => {
  const scale = Math.min((cell.width - gap) / width, (cell.height - gap) / height);
  // Unscaled cells leave rounding alone.
  return Math.abs(scale - 1) < 1e-9 ? 1 : Math.max(0.01, scale);
};
