import { lazy } from 'react';

/** The wall label of a palette; fetched when one is first looked at. */
export const PaletteLabel = lazy(() =>
  import('./palette-label.tsx').then((label) => ({ default: label.PaletteLabel })),
);
