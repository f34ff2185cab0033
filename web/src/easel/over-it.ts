import { isPlacement } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';

/** So strong is a drawing that is knocked back: as under a wash of its paper. */
const KNOCKED_BACK = 0.35;

/** Shows what lies over the drawing, or hides it. */
export function toggleReferences({ feed }: Desk): void {
  feed.areReferencesHidden = !feed.areReferencesHidden;
}

/** Lays a wash over the drawing, so that what lies over it is read; or takes it off. */
export function knockBack(desk: Desk): void {
  const { session } = desk;
  const drawings = session.standing.filter((item) => isPlacement(item) && item.drawing);
  if (drawings.length === 0) {
    desk.say('There is no drawing here to knock back.', [
      'One that is followed or captured is. Anything else is made fainter with O.',
    ]);
    return;
  }
  const isBack = drawings.every(({ opacity }) => opacity === KNOCKED_BACK);
  session.commit(drawings.map(({ id }) => ({ item: id, set: { opacity: isBack ? 1 : KNOCKED_BACK } })));
}
