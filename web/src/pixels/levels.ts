import { ladderSidesOf, needsTiles } from '@miradero/core/picture';
import { ORIGINAL, type PixelSource } from './requests.ts';

/** Sides of the sizes in which a picture can be had whole; the original counts as one where a browser can decode it. */
export function sidesOf({ width, height, levels, wholePath, file }: PixelSource): number[] {
  // An original of 24 MP is decoded whole, a blueprint is not.
  const native = !needsTiles(width, height);
  const longest = Math.max(width, height);
  const sides = levels.map(({ side }) => side);
  if (sides.length > 0)
    // At its own size and enlarged it is seen as it came: who picks a colour from the screen reads that of the original.
    return wholePath !== null && native ? [...sides.filter((side) => side < longest), ORIGINAL] : sides;
  if (file === null) return [];
  const ladder = ladderSidesOf(width, height).filter((side) => side >= 256 || side === longest);
  return native && longest > Math.max(...ladder) ? [...ladder, ORIGINAL] : ladder;
}

/** Path of a whole picture at one of its sides; undefined where it is read from its file. */
export function pathOfSide({ levels, wholePath }: PixelSource, side: number): string | undefined {
  const level = levels.find((known) => known.side === side);
  if (level) return `/api/levels/${level.hash}`;
  return levels.length > 0 ? (wholePath ?? undefined) : undefined;
}
