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
    const regions = picture.purposes.flatMap(({ region, isNot }) => (region && !isNot ? [region] : []));
    return Math.max(
      ...[WHOLE, ...regions]
        .slice(regions.length > 0 ? 1 : 0)
        .map((region) => resolvedLines(picture, region) ?? -1),
    );
  };
  return [...pictures].sort((one, two) => lines(two) - lines(one));
}
