import { boundsOf } from '@miradero/core/board';
import { intersectionOf, type Rectangle } from '@miradero/core/geometry';
import type { Placement } from '@miradero/core/items';
import type { Desk } from '../../../desk/index.ts';
import { isNarrow } from '../../../shell/index.ts';
import { paintSettings } from '../settings.ts';

/** Width of the card and of the space at both sides of it, CSS pixels. */
const CARD_PX = 288;
/** One works close where a drawing that is not in view whole fills so much of the view. */
const CLOSE = 0.5;

const areaOf = ({ width, height }: Rectangle): number => Math.max(0, width) * Math.max(0, height);

/** Moves the view so far that a part of the board is in it whole, beside the card. */
export function revealBesideCard(desk: Desk, part: Rectangle): void {
  // On a narrow screen, and folded, the card is a line.
  const isLine = isNarrow() || paintSettings.store.getState().isFolded;
  desk.view?.reveal(part, isLine ? 0 : CARD_PX);
}

/** Brings what is about to be drawn on into view; who works close on it already sees what he wants to. */
export function showToDraw(desk: Desk, item: Placement): void {
  const part = boundsOf(item);
  const { view } = desk;
  if (!view) return;
  const seen = areaOf(intersectionOf(part, view.view));
  const isClose = seen < 0.999 * areaOf(part) && seen > CLOSE * areaOf(view.view);
  if (!isClose) revealBesideCard(desk, part);
}
