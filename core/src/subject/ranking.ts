import { sharpnessIn } from '../picture/index.ts';
import type { Picture, Region } from '../schema/index.ts';

const WHOLE: Region = { x: 0, y: 0, width: 1, height: 1 };

/**
 * Lines that a part of a picture can show along its longest side: pixels there, as far as their detail goes (two
 * pixels a line are the most). Comparable between pictures of any size and focus; null until measured.
 */
export function resolvedLines(
  picture: Pick<Picture, 'width' | 'height' | 'measures'>,
  region: Region = WHOLE,
): number | null {
  if (!picture.measures) return null;
  const pixels = Math.max(region.width * picture.width, region.height * picture.height);
  const isWhole = region.width === 1 && region.height === 1;
  const sharpness = isWhole
    ? picture.measures.sharpness
    : sharpnessIn(picture.measures.sharpnessGrid, region);
  return pixels * sharpness;
}

/** Candidates for one part, the one that shows most of it first; those not measured yet come last, in their order. */
export function rankedByDetail<P extends Pick<Picture, 'width' | 'height' | 'measures' | 'purposes'>>(
  pictures: readonly P[],
): P[] {
  const lines = (picture: P): number => {
    const regions = picture.purposes.flatMap(({ region, isNot }) =>
      region && region.width > 0 && !isNot ? [region] : [],
    );
    return Math.max(
      ...[WHOLE, ...regions]
        .slice(regions.length > 0 ? 1 : 0)
        .map((region) => resolvedLines(picture, region) ?? -1),
    );
  };
  return [...pictures].sort((one, two) => lines(two) - lines(one));
}

/** Of the same detail within so much, the less compressed is the better. */
const SAME_DETAIL = 0.04;

/**
 * The better of two near copies: the one that resolves more lines; where that is about the same, the one with more
 * pixels, then the one with more bytes, which was compressed less.
 */
export function betterOf<P extends Pick<Picture, 'width' | 'height' | 'measures' | 'bytes'>>(
  one: P,
  other: P,
): P {
  const [a, b] = [resolvedLines(one), resolvedLines(other)];
  if (a !== null && b !== null && Math.abs(a - b) > SAME_DETAIL * Math.max(a, b)) return a > b ? one : other;
  const [p, q] = [one.width * one.height, other.width * other.height];
  if (p !== q) return p > q ? one : other;
  return one.bytes >= other.bytes ? one : other;
}
