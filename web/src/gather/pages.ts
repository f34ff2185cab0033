/** Pages of this room, asked for when one of them is. */
export { BringPage } from './pages/bring-page.tsx';
export { ClipPage } from './pages/clip-page.tsx';
export { LandingPage } from './pages/landing-page.tsx';
