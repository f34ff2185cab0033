import type { Desk } from '../../desk/index.ts';
import { takeDrawing } from './draw-tool.ts';
import type { Opened } from './open-painting.ts';

/** Draws on what is opened; what keeps from it is said. */
export async function drawWith(desk: Desk, open: () => Promise<Opened>): Promise<void> {
  if (desk.session.isReadOnly) {
    desk.refuse();
    return;
  }
  try {
    takeDrawing(desk, await open());
  } catch (error) {
    desk.say((error as Error).message);
  }
}
