export { GatherLine } from './gather-line.tsx';
export { GatherRoom } from './gather-room.tsx';
export { GatherWords } from './gather-words.tsx';
export { type Aim, gatheringOf } from './keeping/gathering.ts';
export { placeOnBoard } from './keeping/place-on-board.ts';
export { loadSheets } from './lazy-sheets.ts';
export { listenForIncoming, OWN_DRAG } from './use-incoming.ts';
