export { BringPage } from './bring-page.tsx';
export { ClipPage } from './clip-page.tsx';
export { GatherLine } from './gather-line.tsx';
export { GatherRoom } from './gather-room.tsx';
export { type Aim, gatheringOf } from './gathering.ts';
export { LandingLink } from './landing-link.tsx';
export { LandingPage } from './landing-page.tsx';
export { placeOnBoard } from './place-on-board.ts';
export { listenForIncoming, OWN_DRAG } from './use-incoming.ts';
