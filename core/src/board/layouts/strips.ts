import { type Cluster, type Item, isCluster } from '../../items/index.ts';
import type { Operation } from '../../schema/index.ts';
import { clusterOf, type Items, membersByCluster } from '../clusters.ts';
import { rejoin } from '../grouping.ts';
import { applyOperation, itemIdOf } from '../state.ts';
import { layInLine } from './shelves.ts';

/** A board as operations leave it. */
export function boardAfter(items: Items, operations: readonly Operation[]): Map<string, Item> {
  const now = new Map(items);
  for (const operation of operations) {
    const next = applyOperation(now.get(itemIdOf(operation)), operation);
    if (next) now.set(next.id, next);
  }
  return now;
}

const stripsAmong = (clusters: Iterable<Item | undefined>): Cluster[] => {
  const strips = new Map<string, Cluster>();
  for (const cluster of clusters)
    if (cluster && isCluster(cluster) && cluster.isStrip && cluster.form === 'open')
      strips.set(cluster.id, cluster);
  return [...strips.values()];
};

/** Lays strips in their lines again: what came lately is at the head, the rest as it stood. */
export function layStrips(
  items: Items,
  strips: Iterable<Item | undefined>,
  fresh: ReadonlySet<string>,
  gap: number,
): Operation[] {
  const members = membersByCluster(items);
  return stripsAmong(strips).flatMap((strip) => {
    const order = [...(members.get(strip.id) ?? [])].sort(
      (a, b) => Number(fresh.has(b.id)) - Number(fresh.has(a.id)) || a.centre.x - b.centre.x,
    );
    return layInLine(
      items,
      strip,
      order.map(({ id }) => id),
      gap,
    );
  });
}

/**
 * What follows when items were dragged: they join the clusters on whose ground they lie now, and strips are lines again.
 *
 * @param items - the board before
 * @param moves - what the drag did
 */
export function afterDrag(items: Items, moves: readonly Operation[], gap: number): Operation[] {
  const moved = boardAfter(items, moves);
  const dragged = [...new Set(moves.map(itemIdOf))].flatMap((id) => moved.get(id) ?? []);
  const joining = rejoin(moved, dragged);
  const now = boardAfter(moved, joining);
  const joined = new Set(joining.map(itemIdOf));
  const strips = dragged.flatMap((item) => {
    const before = items.get(item.id);
    // What was dragged as a whole stands as it stood.
    if (isCluster(item) && !joined.has(item.id)) return [];
    const cluster = clusterOf(now, now.get(item.id)!);
    const isDragged = cluster !== undefined && dragged.some(({ id }) => id === cluster.id);
    return [
      isDragged ? undefined : cluster,
      before && joined.has(item.id) ? clusterOf(now, before) : undefined,
    ];
  });
  return [...joining, ...layStrips(now, strips, joined, gap)];
}
