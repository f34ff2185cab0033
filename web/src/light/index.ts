import { later } from '../shell/index.ts';

export * from './commands.ts';

/** Fetched with the first lit ball that is looked at. */
export const LitBallLabel = later(() => import('./lit-ball-label.tsx').then((label) => label.LitBallLabel));

/** Has it at hand from now on, also when the server is away. */
export function loadLight(): void {
  for (const part of [import('./marking.ts'), import('./lit-ball-label.tsx')]) part.catch(() => {});
}
