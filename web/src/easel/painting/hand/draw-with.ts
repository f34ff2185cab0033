import type { Desk } from '../../../desk/index.ts';
import type { Opened } from '../versions/open-painting.ts';
import { takeDrawing } from './draw-tool.ts';
import { showToDraw } from './show-to-draw.ts';

/** Draws on what is opened; what keeps from it is said. @param show - brings it into view */
export async function drawWith(desk: Desk, open: () => Promise<Opened>, show = showToDraw): Promise<void> {
  if (desk.session.isReadOnly) {
    desk.refuse();
    return;
  }
  try {
    const opened = await open();
    takeDrawing(desk, opened);
    const { placement } = opened.painting;
    if (placement) show(desk, placement);
  } catch (error) {
    desk.say((error as Error).message);
  }
}
