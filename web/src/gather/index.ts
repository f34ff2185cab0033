export { BringPage } from './bring-page.tsx';
export { ClipPage } from './clip-page.tsx';
export { GatherLine } from './gather-line.tsx';
export { GatherRoom } from './gather-room.tsx';
export { LandingLink } from './landing-link.tsx';
export { LandingPage } from './landing-page.tsx';
export { OWN_DRAG } from './use-incoming.ts';
