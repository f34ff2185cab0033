import { type Item, isOutOfHand, kindOf } from '../items/index.ts';

/** Items by id. */
export type Items = ReadonlyMap<string, Item>;

/** The cluster in which an item lies; undefined for none, and where it was removed. */
export function clusterOf(items: Items, item: Pick<Item, 'cluster'>): Item | undefined {
  const cluster = item.cluster ? items.get(item.cluster) : undefined;
  return cluster?.kind === 'cluster' && !cluster.removed ? cluster : undefined;
}

/** The clusters in which an item lies, the innermost first. Two that were put into each other at once end it. */
export function clustersAround(items: Items, item: Item): Item[] {
  const around: Item[] = [];
  const met = new Set([item.id]);
  for (let at = clusterOf(items, item); at && !met.has(at.id); at = clusterOf(items, at)) {
    met.add(at.id);
    around.push(at);
  }
  return around;
}

/** Whether an item is not seen, since a cluster in which it lies is closed. */
export const isFoldedAway = (items: Items, item: Item): boolean =>
  item.cluster !== undefined &&
  clustersAround(items, item).some((cluster) => cluster.kind === 'cluster' && cluster.form !== 'open');

/** What stands and is seen. */
export const isSeen = (items: Items, item: Item): boolean =>
  !item.removed && !isOutOfHand(item) && !isFoldedAway(items, item);

/** Whether an item is drawn: what stands and is seen, and what lies beneath it all. */
export const isDrawn = (items: Items, item: Item): boolean =>
  kindOf(item).isGround ? !item.removed : isSeen(items, item);

/** What is seen of an item: itself, or the closed cluster in which it is folded away; undefined for what does not stand. */
export function seenAs(items: Items, item: Item): Item | undefined {
  if (item.removed || isOutOfHand(item)) return undefined;
  return [item, ...clustersAround(items, item)]
    .reverse()
    .find((one) => isSeen(items, one) && (one === item || (one.kind === 'cluster' && one.form !== 'open')));
}

/** What lies directly in each cluster, by its id; removed items lie nowhere. */
export function membersByCluster(items: Items): Map<string, Item[]> {
  const members = new Map<string, Item[]>();
  for (const item of items.values()) {
    const cluster = item.removed ? undefined : clusterOf(items, item);
    if (!cluster) continue;
    const known = members.get(cluster.id);
    if (known) known.push(item);
    else members.set(cluster.id, [item]);
  }
  return members;
}

/** Items, and everything that lies in those of them that are clusters; each once. */
export function withMembers(items: Items, given: Iterable<Item>): Item[] {
  const all = new Map<string, Item>();
  const members = [...given].some(({ kind }) => kind === 'cluster') ? membersByCluster(items) : undefined;
  const waiting = [...given];
  for (let item = waiting.pop(); item; item = waiting.pop()) {
    if (all.has(item.id)) continue;
    all.set(item.id, item);
    waiting.push(...(members?.get(item.id) ?? []));
  }
  return [...all.values()];
}

/** Of items those that lie in none of the others: what is moved or laid out as one. */
export function outermost(items: Items, given: Iterable<Item>): Item[] {
  const all = [...given];
  const ids = new Set(all.map(({ id }) => id));
  return all.filter((item) => !clustersAround(items, item).some(({ id }) => ids.has(id)));
}

/** What moves when items are moved: they and what lies in them; what is fixed in place moves only with a cluster around it. */
export const movableOf = (items: Items, given: Iterable<Item>): Item[] =>
  withMembers(
    items,
    outermost(items, given).filter((item) => !item.isFixed),
  );
