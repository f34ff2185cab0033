import { isPlacement } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';

const SIZE_PX = { width: 300, least: 140, most: 420 } as const;
const EDGE_PX = 24;
const STEP_PX = 28;
const MOST = 6;

/** Pins what is selected, in a size of its own; what is pinned already is pinned no more. */
export function pinSelected(desk: Desk): void {
  const pictures = desk.targets.filter(isPlacement);
  if (pictures.length === 0) {
    desk.say('Select a picture, or point at one: it stays in sight while the board moves.');
    return;
  }
  for (const { id, pictureWidth, pictureHeight, trim } of pictures) {
    const { pinned } = desk.now;
    if (pinned.has(id)) {
      desk.pin(id, undefined);
      continue;
    }
    if (pinned.size >= MOST) {
      desk.say(`${MOST} pictures are pinned at most. Take one away first.`);
      return;
    }
    const high = (SIZE_PX.width * trim.height * pictureHeight) / (trim.width * pictureWidth);
    const height = Math.min(SIZE_PX.most, Math.max(SIZE_PX.least, high));
    const from = EDGE_PX + STEP_PX * pinned.size;
    desk.pin(id, { x: from, y: from, width: SIZE_PX.width, height });
  }
}
