import { type Item, isPictureMark, isPlacement, markInMirror, type PictureMark } from '../items/index.ts';
import type { Operation } from '../schema/index.ts';
import type { Items } from './clusters.ts';
import { compareStacking } from './stacking.ts';

/** What hands drew on pictures, by the placement, lowest first. */
export function marksByPicture(items: Items): Map<string, PictureMark[]> {
  const marks = new Map<string, PictureMark[]>();
  for (const item of items.values()) {
    if (!isPictureMark(item) || item.removed) continue;
    const known = marks.get(item.on);
    if (known) known.push(item);
    else marks.set(item.on, [item]);
  }
  for (const some of marks.values()) some.sort(compareStacking);
  return marks;
}

/** Items, and what hands drew on those of them that are pictures: what is copied with them. */
export function withMarks(items: Items, given: readonly Item[]): Item[] {
  if (!given.some(isPlacement)) return [...given];
  const marks = marksByPicture(items);
  const ids = new Set(given.map(({ id }) => id));
  const onThem = given.flatMap(({ id }) => marks.get(id) ?? []);
  return [...given, ...onThem.filter(({ id }) => !ids.has(id))];
}

/** Mirrors what hands drew on some pictures, whose placements are exchanged for their mirror images. */
export function marksInMirror(items: Items, placements: ReadonlySet<string>): Operation[] {
  return [...items.values()].flatMap((mark) => {
    if (!isPictureMark(mark) || !placements.has(mark.on)) return [];
    const placement = items.get(mark.on);
    return placement && isPlacement(placement)
      ? [{ item: mark.id, set: { ...markInMirror(mark, placement) } }]
      : [];
  });
}
