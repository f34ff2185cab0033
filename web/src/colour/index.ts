import { later } from '../shell/index.ts';

export { ColourRoom } from './colour-room.tsx';
export { copyHex, copyPicture } from './copying.ts';
export { DrawingAround } from './drawing-around.ts';
export { PalettesOfSubject } from './palettes-of-subject.tsx';
export { copyText, NotRead, readPart } from './readings.ts';
export { recentColours } from './recent.ts';
export { RecentColours } from './recent-row.tsx';
export { standingBelow } from './standing-below.ts';

/** The wall label of a palette; fetched when one is first looked at. */
export const PaletteLabel = later(() => import('./palette-label.tsx').then((label) => label.PaletteLabel));

/** Has what reads colours at hand from now on, also when the server is away. */
export function loadColour(): void {
  for (const part of [import('./reading-room.ts'), import('./palette-label.tsx')]) part.catch(() => {});
}
