import {
  clusterOf,
  fitToContent,
  foldOrOpen,
  group,
  isSeen,
  putAside,
  ungroup,
  withMembers,
} from '@miradero/core/board';
import { type Cluster, isCluster, isPlacement } from '@miradero/core/items';
import { type Desk, NOTHING_HERE } from '../../desk/index.ts';
import { newGesture } from '../../sync/index.ts';
import { startTitling } from '../titling.tsx';

/** Side of a stack of spares when it is made, CSS pixels. */
const STACK_PX = 64;

const clustersOf = (desk: Desk): Cluster[] => desk.targets.filter(isCluster);

/** What is to be done to clusters says so where none is meant. */
const onClusters = (run: (desk: Desk, clusters: readonly Cluster[]) => void) => (desk: Desk) => {
  const clusters = clustersOf(desk);
  if (clusters.length > 0) run(desk, clusters);
  else desk.say('No cluster is selected.', ['Press its title to select one.']);
};

/** Makes a cluster of what is selected, and asks for its title. */
export function cluster(desk: Desk): void {
  const id = crypto.randomUUID();
  const operations = group(desk.session.items, desk.targets, id);
  if (operations.length === 0) {
    desk.say('Nothing to act on: cluster.', [NOTHING_HERE]);
    return;
  }
  const gesture = newGesture();
  desk.session.commit(operations, gesture);
  desk.select([id]);
  startTitling(desk, id, gesture);
}

export const unclusterAll = onClusters((desk, clusters) => {
  const { items } = desk.session;
  const ids = new Set(clusters.map(({ id }) => id));
  const members = [...items.values()].filter(
    (item) => item.cluster && ids.has(item.cluster) && !item.removed,
  );
  desk.session.commit(ungroup(items, clusters));
  desk.select(members.filter((item) => isSeen(desk.session.items, item)).map(({ id }) => id));
});

export const fold = onClusters((desk, clusters) =>
  desk.session.commit(foldOrOpen(desk.session.items, clusters)),
);

export const fit = onClusters((desk, clusters) => {
  const operations = fitToContent(desk.session.items, clusters);
  if (operations.length > 0) desk.session.commit(operations);
  else desk.say('There is nothing in it to fit to.');
});

/** Puts what is selected away as spares; a stack of spares that is selected gives them back. */
export function putAway(desk: Desk): void {
  const { items } = desk.session;
  const stacks = clustersOf(desk).filter(({ form }) => form === 'spares');
  if (stacks.length > 0 && stacks.length === desk.targets.length) {
    unclusterAll(desk);
    return;
  }
  const targets = desk.targets.filter((item) => !item.isFixed);
  if (targets.length === 0 && desk.targets.length > 0) {
    desk.say('Fixed in place: it is not put away.', ['J lets it go.']);
    return;
  }
  const id = crypto.randomUUID();
  const operations = putAside(items, targets, id, STACK_PX / (desk.view?.camera.scale ?? 1));
  if (operations.length === 0) {
    desk.say('Nothing to act on: put away as spare.', [NOTHING_HERE]);
    return;
  }
  desk.session.commit(operations);
  const what = targets.length === 1 ? 'A spare lies' : `${targets.length} spares lie`;
  desk.say(`${what} in the small stack.`, ['Enter on it brings all back.']);
}

/** Fixes what is selected in place, or lets it go where all of it is fixed. */
export function fixInPlace(desk: Desk): void {
  const { targets } = desk;
  if (targets.length === 0) {
    desk.say('Nothing to act on: fix in place.', [NOTHING_HERE]);
    return;
  }
  const isFixed = !targets.every((item) => item.isFixed);
  desk.session.commit(targets.map((item) => ({ item: item.id, set: { isFixed } })));
  desk.say(isFixed ? 'Fixed in place: hands and layouts leave it where it is.' : 'Let go: it moves again.');
}

/** Makes the picture that is selected the cover of the cluster in which it lies. */
export function makeCover(desk: Desk): void {
  const { items } = desk.session;
  const placement = desk.targets.find(isPlacement);
  const around = placement && clusterOf(items, placement);
  if (!placement || !around) {
    desk.say('Only a picture in a cluster can be its cover.', ['Select one that lies in a cluster.']);
    return;
  }
  const { picture, pictureWidth, pictureHeight } = placement;
  desk.session.commit([{ item: around.id, set: { picture, pictureWidth, pictureHeight } }]);
  desk.say('It is the cover: folded, the cluster shows it.');
}

/** Enter, or a double press: a closed cluster is opened, spares come back, an open one is given a title. */
export function openCluster(desk: Desk, item: Cluster): void {
  if (item.form === 'open') {
    startTitling(desk, item.id);
    return;
  }
  desk.select([item.id]);
  if (item.form === 'spares') unclusterAll(desk);
  else fold(desk);
}

/** How many lie in a cluster, and in those in it, themselves not counted. */
export const countWithin = (desk: Desk, item: Cluster): number =>
  withMembers(desk.session.items, [item]).filter((one) => !isCluster(one)).length;
