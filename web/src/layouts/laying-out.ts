import {
  axisOf,
  boardAfter,
  boundsOf,
  type EvenMeasure,
  evenOut,
  fitToContent,
  isSeen,
  itemIdOf,
  type LineUpEdge,
  lineUp,
  membersByCluster,
  type SettleForm,
  type SettleWanted,
  type ShelvesBy,
  sameValue,
  shelfGroups,
  shelve,
  spaceEvenly,
} from '@miradero/core/board';
import { centreOf, type Rectangle, unionOf } from '@miradero/core/geometry';
import { isCluster, isPlacement } from '@miradero/core/items';
import type { Item, Operation } from '@miradero/core/schema';
import { type Desk, NOTHING_HERE } from '../desk/index.ts';
import { askPictures, newGesture } from '../sync/index.ts';
import { settleAside } from './settle-aside.ts';
import { namesOfParts, shelvedFactsOf } from './shelved-facts.ts';

/** Makes a layout one change, and shows for a moment how everything goes there. */
export function lay(desk: Desk, operations: readonly Operation[], gesture = newGesture()): void {
  const { items } = desk.session;
  const before = new Map<string, Item>();
  for (const operation of operations) {
    const item = 'item' in operation ? items.get(operation.item) : undefined;
    if (item && isSeen(items, item)) before.set(item.id, item);
  }
  desk.session.commit(operations, gesture);
  desk.view?.glide(before);
}

/**
 * What is laid out: what is selected; of one cluster, what lies in it; of nothing, all that stands. One thing alone cannot be
 * laid out.
 */
function chosenOn(desk: Desk): readonly Item[] {
  const { items, standing } = desk.session;
  const { selected } = desk;
  const [only] = selected;
  if (only && selected.length === 1)
    return isCluster(only) && only.form === 'open' ? (membersByCluster(items).get(only.id) ?? []) : [];
  return selected.length > 1 ? selected : standing;
}

/** The cluster that is selected alone; it goes on holding what is laid out in it. */
const clusterOn = ({ selected }: Desk) => {
  const [only] = selected;
  return selected.length === 1 && only && isCluster(only) ? only : undefined;
};

const say = (desk: Desk, what: string) =>
  desk.say(`Nothing to lay out: ${what}.`, [
    'Select several things, one cluster, or nothing for all.',
    NOTHING_HERE,
  ]);

/** Lays out, and makes the cluster that was selected as large as what lies in it then. */
function layChosen(desk: Desk, what: string, make: (chosen: readonly Item[]) => Operation[]): void {
  const operations = make(chosenOn(desk));
  if (operations.length === 0) {
    if (chosenOn(desk).length < 2) say(desk, what);
    return;
  }
  lay(desk, [...operations, ...fitting(desk, operations)]);
}

function fitting(desk: Desk, operations: readonly Operation[]): Operation[] {
  const cluster = clusterOn(desk);
  if (!cluster) return [];
  return fitToContent(boardAfter(desk.session.items, operations), [cluster]);
}

const shapeOfView = ({ view }: Desk): number => (view ? view.viewport.width / view.viewport.height : 1.6);

/** A layout tighter than this in its own cluster keeps about the cluster's shape. */
function wantedOn(desk: Desk, form: SettleForm): SettleWanted {
  const cluster = clusterOn(desk);
  return {
    form,
    gap: desk.gap,
    aspect: cluster ? Math.min(6, Math.max(1 / 6, cluster.width / cluster.height)) : shapeOfView(desk),
  };
}

/** Settles what is selected, or all; in the shape of the view, or of a box that was drawn, which it then fills from its middle. */
export async function settleOn(desk: Desk, form: SettleForm, box?: Rectangle): Promise<void> {
  const chosen = chosenOn(desk);
  if (chosen.length < 2) {
    say(desk, 'settle');
    return;
  }
  const inBox = box && { aspect: box.width / box.height, centre: centreOf(box) };
  const { items } = desk.session;
  const before = new Map(items);
  const operations = await settleAside(items, chosen, { ...wantedOn(desk, form), ...inBox });
  // What was done meanwhile is not undone by it.
  const isOld = operations.some((operation) => {
    const id = itemIdOf(operation);
    return !sameValue(before.get(id), items.get(id));
  });
  if (isOld) desk.say('Something was moved meanwhile: settle once more.');
  else if (operations.length > 0) lay(desk, [...operations, ...fitting(desk, operations)]);
}

export const evenOn = (desk: Desk, measure: EvenMeasure): void =>
  layChosen(desk, 'even out', (chosen) => evenOut(desk.session.items, chosen, measure));

export const lineUpOn = (desk: Desk, edge: LineUpEdge): void =>
  layChosen(desk, 'line up', (chosen) => lineUp(desk.session.items, chosen, edge));

/** What lies rather beside each other is brought to one level, what lies rather above each other to one upright. */
export const lineUpAsTheyLie = (desk: Desk): void =>
  layChosen(desk, 'line up', (chosen) => {
    const { items } = desk.session;
    return lineUp(items, chosen, axisOf(items, chosen) === 'x' ? 'middle-y' : 'middle-x');
  });

export const spaceAsTheyLie = (desk: Desk): void =>
  layChosen(desk, 'equal gaps', (chosen) => {
    const { items } = desk.session;
    return spaceEvenly(items, chosen, axisOf(items, chosen));
  });

/** Pictures among what is chosen, and in clusters among it. */
function picturesOn(desk: Desk) {
  const { items } = desk.session;
  const members = membersByCluster(items);
  const within = (item: Item): Item[] =>
    isCluster(item) && item.form === 'open' ? (members.get(item.id) ?? []).flatMap(within) : [item];
  return [...new Set(chosenOn(desk).flatMap(within))].filter(isPlacement);
}

const MEASURED: readonly ShelvesBy[] = ['lightness', 'hue', 'likeness'];

/** Puts pictures on shelves with headings. */
export async function shelveOn(desk: Desk, by: ShelvesBy): Promise<void> {
  const asked = picturesOn(desk);
  if (asked.length < 2) {
    say(desk, `shelves by ${by}`);
    return;
  }
  const none = new Map<string, never>();
  const facts = await Promise.all([
    by === 'part' ? namesOfParts() : none,
    MEASURED.includes(by) ? askPictures(asked.map(({ picture }) => picture)) : none,
  ]).catch(() => undefined);
  if (!facts) {
    desk.say(`The server is away: shelves by ${by} need what it knows. Nothing was moved.`);
    return;
  }
  // Meanwhile something may have gone.
  const placements = asked.filter(({ id }) => desk.session.items.get(id)?.removed === false);
  const groups = shelfGroups(shelvedFactsOf(desk, placements, ...facts), by);
  const shelves = groups.map((group) => ({ ...group, id: crypto.randomUUID() }));
  lay(desk, shelve(desk.session.items, shelves, { gap: desk.gap, aspect: shapeOfView(desk) }));
  showAll(
    desk,
    shelves.map(({ id }) => id),
  );
}

function showAll(desk: Desk, ids: readonly string[]): void {
  const { items } = desk.session;
  const bounds = unionOf(
    ids.flatMap((id) => (items.get(id)?.removed === false ? [boundsOf(items.get(id)!)] : [])),
  );
  if (bounds) desk.view?.reveal(bounds);
}
