import type { Desk } from '../desk/index.ts';
import { createStore } from '../state/index.ts';
import { type Chosen, chosenOn } from './taking-out.ts';

/** What is being set up to be saved: as a picture, or the whole board as a file. */
export const sheetState = createStore<{
  readonly open:
    | { readonly as: 'picture' | 'formats'; readonly desk: Desk; readonly chosen: Chosen }
    | { readonly as: 'board-file'; readonly desk: Desk }
    | undefined;
}>(() => ({ open: undefined }));

/** Sets up how what keys act on, else the whole board, is saved as a picture. */
export const openSheet = (desk: Desk): void => openFor(desk, 'picture');

/** The same for other programs: as a drawing, in layers, on pages. */
export const openFormatsSheet = (desk: Desk): void => openFor(desk, 'formats');

function openFor(desk: Desk, as: 'picture' | 'formats'): void {
  const chosen = chosenOn(desk, true);
  if (chosen) sheetState.setState({ open: { as, desk, chosen } });
  else desk.say('There is nothing to take out: the board is empty.');
}

/** Sets up how the whole board is saved as one file. */
export const openBoardFileSheet = (desk: Desk): void =>
  sheetState.setState({ open: { as: 'board-file', desk } });

export const closeSheet = (): void => sheetState.setState({ open: undefined });
