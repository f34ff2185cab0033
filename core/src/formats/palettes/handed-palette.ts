/** A colour of a palette as it is handed over: what is shown of it, `#rrggbb`, its share 0..1 of all, and what it is called. */
export interface HandedSwatch {
  readonly hex: string;
  readonly share: number;
  readonly name: string;
}

/** A palette as files hold it. */
export interface HandedPalette {
  readonly name: string;
  readonly swatches: readonly HandedSwatch[];
}

/** More are not read: a palette is looked at, not searched. */
export const MOST_SWATCHES = 256;
/** A file of colours is small; more is not read. Characters. */
export const MOST_CHARACTERS = 2_000_000;

/** Why a file is not taken, in words for whoever brought it. */
export class PaletteFileError extends Error {}

export const isHex = (text: unknown): text is string =>
  typeof text === 'string' && /^#[0-9a-f]{6}$/i.test(text);

/** What a file held, made whole: shares add up to 1; those without any share the rest alike. */
export function wholePalette(
  name: string,
  read: readonly { readonly hex: string; readonly share?: number | undefined; readonly name?: string }[],
): HandedPalette {
  if (read.length === 0) throw new PaletteFileError('There is no colour in this file.');
  if (read.length > MOST_SWATCHES)
    throw new PaletteFileError(
      `There are ${read.length} colours in this file; up to ${MOST_SWATCHES} are taken.`,
    );
  const isShare = (share: number | undefined): share is number =>
    share !== undefined && Number.isFinite(share) && share >= 0;
  const given = read.map(({ share }) => (isShare(share) ? share : undefined));
  const known = given.reduce((sum: number, share) => sum + (share ?? 0), 0);
  const without = given.filter((share) => share === undefined).length;
  const rest = without === 0 ? 0 : Math.max(0, 1 - known) / without || 1 / read.length;
  const shares = given.map((share) => share ?? rest);
  const total = shares.reduce((sum, share) => sum + share, 0);
  return {
    name: name.trim().slice(0, 120) || 'palette',
    swatches: read.map((one, index) => ({
      hex: one.hex.toLowerCase(),
      share: total === 0 ? 1 / read.length : shares[index]! / total,
      name: (one.name ?? '').trim().slice(0, 120),
    })),
  };
}

/** A share as files hold it. */
export const shareText = (share: number): string => String(Number(share.toFixed(6)));
