import type { DistanceStep, Picture, TakenOfModel, View } from '../schema/index.ts';

/** Focal lengths, as on 36 × 24 mm, that people use for what is near and for what is far. */
const NEAR_BELOW_MM = 35;
const FAR_FROM_MM = 85;
/** From so far away a head fills a portrait; nearer, and with a short lens, noses grow. */
const PORTRAIT_M = 1.5;

/** An estimate, and what it rests on. */
export interface Proposal<T> {
  readonly value: T;
  readonly because: string;
}

/** About how far away a picture was taken, by its lens; undefined where the file does not say. */
export function proposedDistance({ facts }: Pick<Picture, 'facts'>): Proposal<DistanceStep> | undefined {
  const mm = facts.focalLength35Mm;
  if (!mm) return undefined;
  const value = mm < NEAR_BELOW_MM ? 'near' : mm >= FAR_FROM_MM ? 'far' : 'middle';
  return { value, because: `about, by its lens of ${mm} mm` };
}

/** What to mind of a near lens; undefined where there is nothing to mind, or nothing known. */
export function nearLensWords(
  { facts }: Pick<Picture, 'facts'>,
  distance: DistanceStep | null,
): string | undefined {
  const mm = facts.focalLength35Mm;
  if (!mm || mm >= NEAR_BELOW_MM || distance === 'far' || distance === 'middle') return undefined;
  return `A lens of ${mm} mm, used within ${PORTRAIT_M} m, draws what is near too large: take proportions from another picture.`;
}

/** The view of whatever a model shows, as a picture of it was taken. */
export const viewTaken = ({ model: _, lensMm, ...angles }: TakenOfModel): Omit<View, 'distance'> => ({
  ...angles,
  ...(lensMm === null ? {} : { lensMm }),
});
