import type { Point } from '@miradero/core/geometry';
import type { CommonItem } from '@miradero/core/items';
import type { ComponentType } from 'react';
import type { Command } from '../commands/index.ts';
import type { Desk } from '../desk/index.ts';

/** What an item of a kind has of its own in the interface. */
export interface KindInInterface<I extends CommonItem> {
  /** Its name, where it has one of its own. */
  nameOf(desk: Desk, item: I): string | undefined;
  /** Ids of the actions offered while one is selected alone. */
  readonly offers: readonly string[];
  /** Ids of those that come before them, by what it is. */
  offersFirst?(desk: Desk, item: I): readonly string[];
  /** What the wall label tells of it; by default where and how it stands. */
  readonly Label?: ComponentType<{ readonly desk: Desk; readonly item: I }>;
  /** Ids of actions offered while nothing is selected: they make one. */
  readonly making?: readonly string[];
  /** Opens it for writing or choosing: Enter, or a double press. */
  open?(desk: Desk, item: I): void;
  /**
   * Presses something on one. @param at - its own frame, board units @param slack - how far beside it still counts
   * @returns whether there was something
   */
  tap?(desk: Desk, item: I, at: Point, slack: number, isFollowing: boolean): boolean;
  /** Actions whose state holds for it. */
  on?(item: I): readonly string[];
  /** Fetches what opening one needs, once the board is shown. */
  ahead?(): void;
  /** Actions that the kind brings, such as making one. */
  readonly actions?: readonly Command[];
}
