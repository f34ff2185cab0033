import type { KeptSwatch } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';
import { createStore } from '../state/index.ts';

/** A palette wherever it is kept: on a board, on the shelf. */
export interface NamedPalette {
  readonly title: string;
  readonly swatches: readonly Pick<KeptSwatch, 'hex' | 'share' | 'name'>[];
}

/** What is open above the board. */
export type ColourSheet =
  | { readonly kind: 'shelf'; readonly desk: Desk }
  | {
      readonly kind: 'compared';
      readonly desk: Desk;
      readonly palettes: readonly [NamedPalette, NamedPalette];
    };

export const colourSheets = createStore<{ readonly open: ColourSheet | undefined }>(() => ({
  open: undefined,
}));
export const openColourSheet = (open: ColourSheet): void => colourSheets.setState({ open });
export const closeColourSheet = (): void => colourSheets.setState({ open: undefined });
