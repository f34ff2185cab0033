import type { Desk } from '../desk/index.ts';
import { createStore } from '../state/index.ts';
import { type Chosen, chosenOn } from './taking-out.ts';

/** What is being set up to be saved as a picture. */
export const sheetState = createStore<{
  readonly open: { readonly desk: Desk; readonly chosen: Chosen } | undefined;
}>(() => ({ open: undefined }));

/** Sets up how what keys act on, else the whole board, is saved as a picture. */
export function openSheet(desk: Desk): void {
  const chosen = chosenOn(desk, true);
  if (chosen) sheetState.setState({ open: { desk, chosen } });
  else desk.say('There is nothing to take out: the board is empty.');
}

export const closeSheet = (): void => sheetState.setState({ open: undefined });
