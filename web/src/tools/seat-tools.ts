import type { Desk, Tool } from '../desk/index.ts';
import { Gestures, type StageView } from '../stage/index.ts';
import { watch } from '../state/index.ts';
import { drawArrivals, drawLit } from './draw-selection.ts';
import { HELD_TOOLS } from './held.ts';
import { StageHand } from './stage-hand.ts';

/** A stage that tools work on. */
export interface Seated {
  readonly hand: StageHand;
  readonly gestures: Gestures;
  close(): void;
}

/**
 * Lets tools work on a stage: its pointer goes to the tool that has it, which draws above its pictures.
 *
 * @param rest - what the hand does while no tool is taken
 */
export function seatTools(holder: HTMLElement, desk: Desk, view: StageView, rest: Tool): Seated {
  const hand = new StageHand(desk, view, rest);
  const gestures = new Gestures(holder, hand, (event) => view.pointOf(event));
  view.overlay = (context) => {
    drawArrivals(context, hand);
    drawLit(context, hand);
    hand.tool.overlay?.(hand, context);
  };
  let shownClass: string | undefined;
  let held: Tool | undefined;
  const seated = () => {
    view.lenses = desk.lenses;
    const now = desk.now.held && HELD_TOOLS[desk.now.held];
    if (now !== held) held?.leave?.(desk);
    held = now;
    const { stageClass } = hand.tool;
    if (stageClass !== shownClass) {
      if (shownClass) holder.classList.remove(shownClass);
      if (stageClass) holder.classList.add(stageClass);
      shownClass = stageClass;
    }
    view.requestDraw();
  };
  view.lenses = desk.lenses;
  view.expect([...desk.selection]);
  const ends = [
    desk.store.subscribe(seated),
    watch(
      desk.store,
      ({ selection }) => selection,
      (selection) => view.expect([...selection]),
    ),
    watch(
      desk.hover,
      ({ item }) => item,
      () => view.requestDraw(),
    ),
  ];
  return {
    hand,
    gestures,
    close() {
      for (const end of ends) end();
      gestures.close();
    },
  };
}
