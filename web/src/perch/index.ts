import { later } from '../shell/index.ts';

export { perch, type Say } from './open-perch.ts';
export * from './perch-button.tsx';
export * from './perch-host.tsx';
export { openHolder } from './perch-window.ts';
export type { Beside } from './shown-beside.tsx';

/** Something of a board, opened to be shown beside it: fetched once it is wanted. */
export const ShownBeside = later(async () => (await import('./shown-beside.tsx')).ShownBeside);
