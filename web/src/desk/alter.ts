import {
  boundsOfItems,
  duplicate,
  fadeBy,
  keysOnTop,
  mirror,
  moveBy,
  restackByStep,
  restore,
  sizeAbout,
  turnAbout,
} from '@miradero/core/board';
import { centreOf, type Point } from '@miradero/core/geometry';
import type { Operation } from '@miradero/core/schema';
import type { Desk } from './desk.ts';

const DUPLICATE_OFFSET_PX = 24;

const commit = (desk: Desk, operations: readonly Operation[]) => desk.session.commit(operations);
const middleOf = (desk: Desk): Point => centreOf(boundsOfItems(desk.targets));
const isAny = (desk: Desk) => desk.targets.length > 0;

/** What is done to the things that keys act on, several together about their common centre; each is one change. */
export const alter = {
  /** @param deltaPx - CSS pixels of the view */
  move(desk: Desk, deltaPx: Point): void {
    const scale = desk.view?.camera.scale ?? 1;
    commit(desk, moveBy(desk.targets, { x: deltaPx.x / scale, y: deltaPx.y / scale }));
  },
  flip: (desk: Desk, axis: 'flipX' | 'flipY') => commit(desk, mirror(desk.targets, axis)),
  /** Degrees clockwise. */
  turn(desk: Desk, angleDeg: number): void {
    if (isAny(desk)) commit(desk, turnAbout(desk.targets, middleOf(desk), angleDeg));
  },
  size(desk: Desk, factor: number): void {
    if (isAny(desk)) commit(desk, sizeAbout(desk.targets, middleOf(desk), factor));
  },
  fade: (desk: Desk, delta: number) => commit(desk, fadeBy(desk.targets, delta)),
  restore: (desk: Desk) => commit(desk, restore(desk.targets)),
  restack(desk: Desk, direction: 'raise' | 'lower'): void {
    const moved = new Set(desk.targets.map((item) => item.id));
    commit(desk, restackByStep(desk.session.items.values(), moved, direction));
  },
  duplicate(desk: Desk): void {
    const originals = desk.targets;
    const offset = DUPLICATE_OFFSET_PX / (desk.view?.camera.scale ?? 1);
    const keys = keysOnTop(desk.session.items.values(), originals.length);
    const copies = duplicate(originals, { x: offset, y: offset }, () => crypto.randomUUID(), keys);
    commit(
      desk,
      copies.map((create) => ({ create })),
    );
    desk.select(copies.map((copy) => copy.id));
  },
  remove(desk: Desk): void {
    commit(
      desk,
      desk.targets.map((item) => ({ item: item.id, set: { removed: true } })),
    );
  },
};
