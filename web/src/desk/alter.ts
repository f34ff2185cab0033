import {
  boundsOfItems,
  compareStacking,
  duplicate,
  fadeBy,
  keysOnTop,
  mirror,
  moveBy,
  multiply,
  restackByStep,
  restore,
  sizeAbout,
  turnAbout,
  withMarks,
  withMembers,
} from '@miradero/core/board';
import { centreOf, type Point } from '@miradero/core/geometry';
import { isPictureMark } from '@miradero/core/items';
import type { Item, Operation } from '@miradero/core/schema';
import { type Gesture, newGesture } from '../sync/index.ts';
import type { Desk } from './desk.ts';

const DUPLICATE_OFFSET_PX = 24;

/** Presses of a key that follow each other within so long are one step: what took a second to do is taken back at once. */
const BURST_MS = 600;

interface Burst {
  readonly what: string;
  readonly on: unknown;
  readonly gesture: Gesture;
  readonly atMs: number;
}
const bursts = new WeakMap<Desk, Burst>();

/** Makes a change of its own: whatever burst there was is over. */
function commit(desk: Desk, operations: readonly Operation[]): void {
  bursts.delete(desk);
  desk.session.commit(operations);
}

/** Makes a change that belongs to the one before, where that did the same to the same things a moment ago. */
function commitInBurst(desk: Desk, what: string, operations: readonly Operation[]): void {
  const on = desk.selection.size > 0 ? desk.selection : desk.hovered;
  const last = bursts.get(desk);
  // What was done between lies above: it would be taken back first, and find its values set since.
  const isOn =
    last?.what === what &&
    last.on === on &&
    performance.now() - last.atMs <= BURST_MS &&
    desk.sync.steps.last === last.gesture;
  const gesture = isOn ? last.gesture : newGesture();
  desk.session.commit(operations, gesture, true);
  // From its end: what is done to thousands takes a while itself.
  bursts.set(desk, { what, on, gesture, atMs: performance.now() });
}

/** Turned by less, keys are held for it. */
const FINE_TURN_DEG = 15;

const middleOf = (desk: Desk): Point => centreOf(boundsOfItems(desk.movable));

/** Whether there is anything to move; says so where all of it is fixed in place. */
function isAny(desk: Desk): boolean {
  if (desk.movable.length > 0) return true;
  desk.say('Fixed in place.', ['J lets it go.']);
  return false;
}

/** What keys act on, and what lies in it, lowest first. */
const withinTargets = (desk: Desk): Item[] =>
  withMembers(desk.session.items, desk.targets).sort(compareStacking);

/** What is done to the things that keys act on, several together about their common centre; each is one change. */
export const alter = {
  /** @param deltaPx - CSS pixels of the view */
  move(desk: Desk, deltaPx: Point): void {
    if (!isAny(desk)) return;
    const scale = desk.view?.camera.scale ?? 1;
    commitInBurst(desk, 'move', moveBy(desk.movable, { x: deltaPx.x / scale, y: deltaPx.y / scale }));
  },
  flip(desk: Desk, axis: 'flipX' | 'flipY'): void {
    if (isAny(desk)) commit(desk, mirror(desk.movable, axis));
  },
  /** Degrees clockwise. */
  turn(desk: Desk, angleDeg: number): void {
    if (!isAny(desk)) return;
    const operations = turnAbout(desk.movable, middleOf(desk), angleDeg);
    if (Math.abs(angleDeg) < FINE_TURN_DEG) commitInBurst(desk, 'turn', operations);
    else commit(desk, operations);
  },
  size(desk: Desk, factor: number): void {
    if (isAny(desk)) commitInBurst(desk, 'size', sizeAbout(desk.movable, middleOf(desk), factor));
  },
  fade: (desk: Desk, delta: number) => commitInBurst(desk, 'fade', fadeBy(withinTargets(desk), delta)),
  /** Does so to pictures alone. */
  multiply(desk: Desk): void {
    const operations = multiply(withinTargets(desk));
    if (operations.length > 0) commit(desk, operations);
    else desk.say('Pictures alone are multiplied with what lies below them.');
  },
  restore: (desk: Desk) => commit(desk, restore(desk.targets)),
  restack(desk: Desk, direction: 'raise' | 'lower'): void {
    const moved = new Set(withinTargets(desk).map((item) => item.id));
    commit(desk, restackByStep(desk.session.items.values(), moved, direction));
  },
  duplicate(desk: Desk): void {
    const originals = withMarks(desk.session.items, withinTargets(desk)).sort(compareStacking);
    const offset = DUPLICATE_OFFSET_PX / (desk.view?.camera.scale ?? 1);
    const keys = keysOnTop(desk.session.items.values(), originals.length);
    const copies = duplicate(originals, { x: offset, y: offset }, () => crypto.randomUUID(), keys);
    commit(
      desk,
      copies.map((create) => ({ create })),
    );
    const made = new Set(copies.map(({ id }) => id));
    const alone = copies.filter((copy) => !(copy.cluster && made.has(copy.cluster)) && !isPictureMark(copy));
    desk.select(alone.map((copy) => copy.id));
  },
  remove(desk: Desk): void {
    const { movable } = desk;
    if (movable.length === 0) desk.say('Fixed in place: it is not removed.', ['J lets it go.']);
    commit(
      desk,
      movable.map((item) => ({ item: item.id, set: { removed: true } })),
    );
  },
};
