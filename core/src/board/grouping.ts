import { centreOf, containsPoint, inflate, type Point, type Rectangle } from '../geometry/index.ts';
import { type Cluster, createCluster, isCluster, picturesOf, stripHeight } from '../items/index.ts';
import type { Item, Operation } from '../schema/index.ts';
import { boundsOfItems } from './altering.ts';
import {
  clusterOf,
  clustersAround,
  type Items,
  isSeen,
  membersByCluster,
  outermost,
  withMembers,
} from './clusters.ts';
import { boundsOf } from './item-geometry.ts';
import { compareStacking, keyBelow, keysOnTop } from './stacking.ts';

/** Space between the edge of a cluster and what lies in it, by the shorter side of that. */
const MARGIN = 0.04;
const marginAround = ({ width, height }: { width: number; height: number }): number =>
  Math.min(60, Math.max(4, Math.min(width, height) * MARGIN));

/** Where an open cluster stands that holds all within `bounds`, board units. */
export function frameAround(
  bounds: Rectangle,
  titleSize: number,
): Pick<Cluster, 'centre' | 'width' | 'height'> {
  const margin = marginAround(bounds);
  const height = bounds.height + 2 * margin + stripHeight({ titleSize });
  const bottom = bounds.y + bounds.height + margin;
  return {
    centre: { x: bounds.x + bounds.width / 2, y: bottom - height / 2 },
    width: bounds.width + 2 * margin,
    height,
  };
}

/** Size of a title's type, by the usual height of what lies below it. */
const TITLE_BY_ITEM = 0.13;

/** Type of a title by what lies below it, board units: read where the pictures are made out. */
export const titleSizeFor = (items: readonly Item[]): number => {
  const heights = items.map((item) => boundsOf(item).height).sort((a, b) => a - b);
  return Math.min(2_000, Math.max(0.5, TITLE_BY_ITEM * heights[Math.floor((heights.length - 1) / 2)]!));
};

/** The cluster in which all of some lie; null where they lie in several, or in none. */
function commonCluster(items: Items, given: readonly Item[]): string | null {
  const ids = new Set(given.map((item) => clusterOf(items, item)?.id ?? null));
  const [only] = ids;
  return ids.size === 1 ? (only ?? null) : null;
}

/** The first picture among some and what lies in them, lowest first. */
function coverOf(items: Items, given: readonly Item[]) {
  const sorted = withMembers(items, given).sort(compareStacking);
  const cover = sorted.find((item) => picturesOf(item).length > 0);
  if (!cover || !('picture' in cover) || cover.picture === null) return undefined;
  const { picture, pictureWidth, pictureHeight } = cover;
  return { picture, pictureWidth, pictureHeight };
}

/** Puts items into a new cluster around them. @returns no operations for none */
export function group(items: Items, given: Iterable<Item>, id: string): Operation[] {
  const members = outermost(items, given);
  if (members.length === 0) return [];
  const { key, rekeyed } = keyBelow(items.values(), new Set(members.map((item) => item.id)));
  const titleSize = titleSizeFor(members);
  const create = createCluster({
    ...{ id, stack: key, cluster: commonCluster(items, members) },
    ...{ ...frameAround(boundsOfItems(members), titleSize), titleSize },
  });
  return [{ create }, ...joining(members, id), ...rekeyed];
}

const joining = (members: readonly Item[], cluster: string | null): Operation[] =>
  members.map((item) => ({ item: item.id, set: { cluster } }));

/** Takes clusters away around what lies in them; what was folded away is seen again. */
export function ungroup(items: Items, clusters: Iterable<Item>): Operation[] {
  const members = membersByCluster(items);
  return [...clusters]
    .filter(isCluster)
    .flatMap((cluster): Operation[] => [
      ...joining(members.get(cluster.id) ?? [], clusterOf(items, cluster)?.id ?? null),
      { item: cluster.id, set: { removed: true } },
    ]);
}

/** A folded cluster is so wide, by the longer side of the open one. */
const FOLDED = 0.22;
/** Its height by its width, the title among it. */
const FOLDED_SHAPE = 1.16;

/** Folds open clusters to their covers, which lie on top, and opens others, which lie below what they hold; the upper left corner stays. */
export function foldOrOpen(items: Items, clusters: Iterable<Item>): Operation[] {
  const members = membersByCluster(items);
  return [...clusters].filter(isCluster).flatMap((cluster): Operation[] => {
    const within = members.get(cluster.id) ?? [];
    const before = { width: cluster.width, height: cluster.height };
    if (cluster.form === 'open') {
      const width = FOLDED * Math.max(before.width, before.height);
      const size = { width, height: width * FOLDED_SHAPE };
      const cover = cluster.picture === null ? coverOf(items, within) : {};
      const stack = keysOnTop(items.values(), 1)[0]!;
      return [resized(cluster, size, { form: 'folded', openSize: before, stack, ...cover })];
    }
    const ids = new Set(within.map(({ id }) => id));
    const { key: stack, rekeyed } =
      within.length > 0 ? keyBelow(items.values(), ids) : { key: cluster.stack, rekeyed: [] };
    const opened = { form: 'open', openSize: null, stack };
    if (cluster.form === 'folded' || within.length === 0)
      return [...rekeyed, resized(cluster, cluster.openSize ?? before, opened)];
    const titleSize = titleSizeFor(within);
    return [
      ...rekeyed,
      { item: cluster.id, set: { ...opened, titleSize, ...frameAround(boundsOfItems(within), titleSize) } },
    ];
  });
}

const resized = (
  { id, centre, width, height }: Cluster,
  size: { readonly width: number; readonly height: number },
  set: Readonly<Record<string, unknown>>,
): Operation => ({
  item: id,
  set: {
    ...set,
    ...size,
    centre: { x: centre.x + (size.width - width) / 2, y: centre.y + (size.height - height) / 2 },
  },
});

/** Makes open clusters as large as what lies in them. */
export function fitToContent(items: Items, clusters: Iterable<Item>): Operation[] {
  const members = membersByCluster(items);
  return [...clusters].filter(isCluster).flatMap((cluster): Operation[] => {
    const within = members.get(cluster.id) ?? [];
    if (cluster.form !== 'open' || within.length === 0) return [];
    return [{ item: cluster.id, set: frameAround(boundsOfItems(within), cluster.titleSize) }];
  });
}

/**
 * Puts items away as spares: a small stack is seen in their place. They join a stack that lies there already.
 *
 * @param side - of a new stack, board units
 */
export function putAside(items: Items, given: Iterable<Item>, id: string, side: number): Operation[] {
  const members = outermost(items, given).filter((item) => !(isCluster(item) && item.form === 'spares'));
  if (members.length === 0) return [];
  const centre = centreOf(boundsOfItems(members));
  const chosen = new Set(members.map((item) => item.id));
  const known = [...items.values()].find(
    (item) =>
      isCluster(item) &&
      item.form === 'spares' &&
      isSeen(items, item) &&
      !chosen.has(item.id) &&
      containsPoint(inflate(boundsOf(item), side / 2), centre),
  );
  if (known) return joining(members, known.id);
  const create = createCluster({
    ...{ id, stack: keysOnTop(items.values(), 1)[0]!, cluster: commonCluster(items, members) },
    ...{ centre, width: side, height: side, titleSize: side * 0.1, form: 'spares' as const },
    ...coverOf(items, members),
  });
  return [{ create }, ...joining(members, id)];
}

/** Open clusters that are seen, the topmost first. */
const openClusters = (items: Items): Cluster[] =>
  [...items.values()]
    .filter(isCluster)
    .filter((item) => item.form === 'open' && isSeen(items, item))
    .sort((a, b) => compareStacking(b, a));

/** The innermost open cluster on whose ground a point lies; none of `without`, nor what lies in them. */
export function clusterAt(
  items: Items,
  at: Point,
  without: ReadonlySet<string>,
  among: readonly Cluster[] = openClusters(items),
): Cluster | undefined {
  return among.find(
    (cluster) =>
      !without.has(cluster.id) &&
      containsPoint(boundsOf(cluster), at) &&
      !clustersAround(items, cluster).some(({ id }) => without.has(id)),
  );
}

/**
 * Lets what was moved join the cluster on whose ground its middle lies now, and leave the one from which it was taken.
 *
 * @param moved - as it stands now
 */
export function rejoin(items: Items, moved: Iterable<Item>): Operation[] {
  const outer = outermost(items, moved);
  const ids = new Set(outer.map(({ id }) => id));
  // Looked for once: thousands may have been moved.
  const open = openClusters(items);
  const joined = outer.flatMap((item) => {
    const to = clusterAt(items, item.centre, ids, open);
    return to?.id === clusterOf(items, item)?.id ? [] : [{ item, to }];
  });
  const below = joined
    .flatMap(({ item, to }) => (to && compareStacking(item, to) < 0 ? [item] : []))
    .sort(compareStacking);
  const keys = keysOnTop(items.values(), below.length);
  const stackOf = new Map(below.map(({ id }, index) => [id, { stack: keys[index]! }]));
  return joined.map(({ item, to }) => ({
    item: item.id,
    set: { cluster: to?.id ?? null, ...stackOf.get(item.id) },
  }));
}
