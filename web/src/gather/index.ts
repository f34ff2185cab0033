export { GatherLine } from './gather-line.tsx';
export { GatherRoom } from './gather-room.tsx';
export { GatherWords } from './gather-words.tsx';
export { bring } from './keeping/bring.ts';
export { type Aim, gatheringOf } from './keeping/gathering.ts';
export { placeOnBoard } from './keeping/place-on-board.ts';
export { loadSheets } from './lazy-sheets.ts';
export type { Brought } from './reading/brought.ts';
export { listenForIncoming, type OnBring, OWN_DRAG } from './use-incoming.ts';
