import type { Point, Rectangle } from '@miradero/core/geometry';
import type { LaidLens } from '@miradero/core/lens';
import type { Notice } from '../shell/index.ts';
import type { HeldAction } from './held-action.ts';
import type { ToolOf } from './tool-of.ts';

/** A picture on its way in: its shape and name stand already. */
export interface Arrival {
  readonly key: string;
  readonly name: string;
  readonly place: Rectangle;
}

/** What a person is doing with a board, in this window: nothing of it is kept. */
export interface DeskState<Desk> {
  readonly selection: ReadonlySet<string>;
  /** Where one stands who goes from item to item by keys; undefined while nobody does. */
  readonly walkedTo: string | undefined;
  /** The tool that was taken; undefined while the hand selects. */
  readonly tool: ToolOf<Desk> | undefined;
  /** Lenses that are laid on until they are taken off, in their order. */
  readonly lenses: readonly LaidLens[];
  /** What is looked through while the key of a lens is held. */
  readonly heldLenses: readonly LaidLens[] | undefined;
  /** A key that is held: until it is let go, the hand and the wheel mean something else. */
  readonly held: HeldAction | undefined;
  readonly isLabelOpen: boolean;
  readonly areControlsHidden: boolean;
  /** Every picture in view shows what was said of its parts. */
  readonly areLabelsShown: boolean;
  /** Rulers along the edges of a sheet, and the guides drawn from them. */
  readonly areGuidesShown: boolean;
  /** What stays in sight while the board moves below it: where, CSS pixels of the view; later ones on top. */
  readonly pinned: ReadonlyMap<string, Rectangle>;
  /** Items outlined for a moment: something happened to them while nobody looked. */
  readonly lit: ReadonlySet<string>;
  readonly arrivals: readonly Arrival[];
  readonly notice: Notice | undefined;
  /** Pictures that just came and may be named by typing; none when that time is over. */
  readonly naming: readonly string[];
}

/** Where the pointer is on the board, and on what; undefined while it is elsewhere. */
export interface Hover {
  /** Board units. */
  readonly at: Point | undefined;
  readonly item: string | undefined;
}
