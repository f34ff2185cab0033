/** More pixels are not drawn on here: all of it would have to be in memory, and sent as one file. */
export const MOST_PIXELS = 60_000_000;
