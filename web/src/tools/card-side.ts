import { isPlacement } from '@miradero/core/items';
import { useState } from 'react';
import type { Desk } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';

/** What a card covers at the right, and a little more, CSS pixels. */
const COVERED_PX = 290;

/** Whether a card goes to the left, where at the right it would lie over the picture that is selected: asked once, when it comes. */
export function useCardOnLeft(desk: Desk, view: StageView): boolean {
  const [isLeft] = useState(() => {
    const placed = desk.targets.find(isPlacement);
    return placed !== undefined && view.seenAt(placed.centre).x > view.holderSize.width - COVERED_PX;
  });
  return isLeft;
}
