import type { Desk } from '../../desk/index.ts';
import { drawWith } from './hand/draw-with.ts';
import { openedOn, openForDrawing } from './versions/open-painting.ts';

export const drawHere = (desk: Desk): Promise<void> => drawWith(desk, () => openForDrawing(desk));

/** So small becomes all that is painted, that there is room around it. */
const SMALLER = 0.9;

/** All that is painted becomes smaller about the middle of its sheet. */
export function makeRoom(desk: Desk): void {
  const painting = openedOn(desk).getState().opened?.painting;
  if (painting?.facts) painting.shrink(SMALLER);
  else desk.say('There is no sheet that is drawn on.', ['Draw here first.']);
}

/** What is drawn as lines comes to lie above all else; the same again lays it where it was. */
export function linesOnTop(desk: Desk): void {
  const painting = openedOn(desk).getState().opened?.painting;
  const layers = painting?.facts?.layers;
  if (!painting || !layers) {
    desk.say('There is no sheet that is drawn on.', ['Draw here first.']);
    return;
  }
  const lines = layers.find(({ kind }) => kind === 'sketch');
  const at = layers.findIndex(({ id }) => id === lines?.id);
  if (!lines) {
    desk.say('The sheet has no sketch to lay on top.');
    return;
  }
  const ground = layers.findIndex(({ kind }) => kind === 'ground');
  const isOnTop = at === layers.length - 1;
  painting.alterLayers({ act: 'move', id: lines.id, to: isOnTop ? ground + 1 : layers.length - 1 });
}

export { makeStudy } from './study.ts';
