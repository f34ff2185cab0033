import { normalAzimuth } from '../geometry/index.ts';
import type { View } from '../schema/index.ts';

/** Sectors of azimuth; the first is centred on the subject's front. */
export const SECTORS = 12;
const SECTOR_DEG = 360 / SECTORS;

/** Bands of elevation, lowest first; `from` is where a band begins, degrees. */
export const BANDS = [
  { name: 'from below', from: -90, middle: -25 },
  { name: 'level', from: -10, middle: 5 },
  { name: 'raised', from: 20, middle: 35 },
  { name: 'from above', from: 50, middle: 70 },
] as const;

/** Where the light of a picture comes from, as one sees it from where the picture was taken. */
export const LIGHTS = [
  'from the front',
  'from the right',
  'from the left',
  'from behind',
  'from above',
] as const;
export type LightName = (typeof LIGHTS)[number];

/** Light within so much of the line of sight lies flat on what is seen. */
const FRONT_DEG = 35;
/** Beyond this it comes from behind. */
const BEHIND_DEG = 115;
/** Above this it is light from above, whatever its azimuth. */
const ABOVE_DEG = 62;

/** 0 … `SECTORS` − 1. */
export const sectorOf = (azimuthDeg: number): number =>
  Math.round(((normalAzimuth(azimuthDeg) + 360) % 360) / SECTOR_DEG) % SECTORS;

export const sectorMiddleDeg = (sector: number): number => normalAzimuth(sector * SECTOR_DEG);

/** Number of the band of an elevation. @throws RangeError beyond −90 … 90 */
export function bandOf(elevationDeg: number): number {
  if (!(Math.abs(elevationDeg) <= 90)) throw new RangeError(`Elevation must be -90..90, got ${elevationDeg}`);
  return BANDS.findLastIndex(({ from }) => elevationDeg >= from);
}

/** What one calls the light of a view; undefined where nobody said. */
export function lightOf({ lightAzimuthDeg, lightElevationDeg }: View): LightName | undefined {
  if (lightElevationDeg !== null && lightElevationDeg >= ABOVE_DEG) return 'from above';
  if (lightAzimuthDeg === null) return undefined;
  const azimuth = normalAzimuth(lightAzimuthDeg);
  if (Math.abs(azimuth) <= FRONT_DEG) return 'from the front';
  if (Math.abs(azimuth) >= BEHIND_DEG) return 'from behind';
  return azimuth > 0 ? 'from the right' : 'from the left';
}

const SIDES = [
  ...['front', 'front and left', 'front and left', 'left side', 'back and left', 'back and left'],
  ...['back', 'back and right', 'back and right', 'right side', 'front and right', 'front and right'],
];

/** "back and left, raised". */
export const cellWords = (sector: number, band: number): string => `${SIDES[sector]}, ${BANDS[band]!.name}`;
