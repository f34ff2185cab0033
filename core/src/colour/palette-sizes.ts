/** Numbers of colours: fewer are no palette, more are not told apart. */
export const PALETTE_SIZES = { least: 2, most: 24, usual: 7 } as const;
