import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  compose,
  intersectionOf,
  invertAffine,
  type Point,
  type Rectangle,
  scaling,
  translation,
} from '../geometry/index.ts';
import type { Drawn, PictureQuad } from '../items/index.ts';

/** Where a picture is painted, and what of it has to be read for that. */
export interface PlacedPicture {
  readonly picture: string;
  /** What is shown of it, pixels of the target. */
  readonly polygon: readonly Point[];
  /** The part of the upright picture to be read, whole pixels. */
  readonly part: Rectangle;
  /** How large that part is to be read, whole pixels: as large as it is painted, never larger than it is. */
  readonly size: { readonly width: number; readonly height: number };
  /** Pixels of the target → pixels of the part at that size. */
  readonly toSource: Affine;
  readonly opacity: number;
}

export interface PixelSize {
  readonly width: number;
  readonly height: number;
}

const UNIT: readonly Point[] = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

/** Less than this share of a side is no turn. */
const UPRIGHT = 1e-7;
/** Read beside what is seen, for the pixels between which is sampled; pixels of the picture. */
const MARGIN = 2;

/** The unit square's matrix with its edges on the edges of pixels; undefined where it is turned by other than right angles. */
function onPixels([a, b, c, d, e, f]: Affine): Affine | undefined {
  const isUpright = Math.abs(b) + Math.abs(c) < UPRIGHT * (Math.abs(a) + Math.abs(d));
  const isOnSide = Math.abs(a) + Math.abs(d) < UPRIGHT * (Math.abs(b) + Math.abs(c));
  if (!isUpright && !isOnSide) return undefined;
  const edges = (start: number, by: number): [number, number] => {
    const low = Math.round(Math.min(start, start + by));
    const length = Math.max(1, Math.round(Math.max(start, start + by)) - low);
    return by < 0 ? [low + length, -length] : [low, length];
  };
  const [x, across] = edges(e, isUpright ? a : c);
  const [y, down] = edges(f, isUpright ? d : b);
  return isUpright ? [across, 0, 0, down, x, y] : [0, down, across, 0, x, y];
}

/**
 * Where a picture is painted. What stands upright gets its edges on the edges of pixels: neighbours leave no seam, and a picture at
 * its own size keeps its pixels.
 *
 * @param toTarget - board → pixels of the target
 * @param picture - pixels of the upright picture
 * @returns undefined where nothing of it is within the target
 */
export function placePicture(
  { frame, opacity }: Pick<Drawn, 'frame' | 'opacity'>,
  quad: PictureQuad,
  toTarget: Affine,
  target: PixelSize,
  picture: PixelSize,
): PlacedPicture | undefined {
  const { place, trim } = quad;
  const exact = compose(toTarget, frame, translation(place.x, place.y), scaling(place.width, place.height));
  const snapped = quad.toPlace ? undefined : onPixels(exact);
  const unitToTarget = snapped ?? exact;
  const polygon = (quad.clip ?? UNIT).map((corner) => applyAffine(unitToTarget, corner));
  const seen = intersectionOf(boundsOfPoints(polygon), { x: 0, y: 0, ...target });
  if (seen.width <= 0 || seen.height <= 0) return undefined;

  const trimmed = pixelsOf(trim, picture);
  const toUnit = quad.toPlace
    ? compose(quad.toPlace, scaling(1 / picture.width, 1 / picture.height))
    : snapped
      ? compose(scaling(1 / trimmed.width, 1 / trimmed.height), translation(-trimmed.x, -trimmed.y))
      : compose(
          scaling(1 / trim.width, 1 / trim.height),
          translation(-trim.x, -trim.y),
          scaling(1 / picture.width, 1 / picture.height),
        );
  const pictureToTarget = compose(unitToTarget, toUnit);
  const targetToPicture = invertAffine(pictureToTarget);
  const wanted = boundsOfPoints(cornersOf(seen).map((corner) => applyAffine(targetToPicture, corner)));
  const part = wholePixels(
    wanted,
    quad.toPlace ? { x: 0, y: 0, ...picture } : snapped ? trimmed : pixelsAround(trim, picture),
  );
  const [a, b, c, d] = pictureToTarget;
  const size = {
    width: Math.max(1, Math.round(part.width * Math.min(1, Math.hypot(a, b)))),
    height: Math.max(1, Math.round(part.height * Math.min(1, Math.hypot(c, d)))),
  };
  return {
    ...{ picture: quad.picture, polygon, part, size, opacity },
    toSource: compose(
      scaling(size.width / part.width, size.height / part.height),
      translation(-part.x, -part.y),
      targetToPicture,
    ),
  };
}

const cornersOf = ({ x, y, width, height }: Rectangle): Point[] =>
  UNIT.map((corner) => ({ x: x + corner.x * width, y: y + corner.y * height }));

/** A part in fractions, its edges on the nearest edges of pixels. */
function pixelsOf({ x, y, width, height }: Rectangle, picture: PixelSize): Rectangle {
  const left = Math.min(picture.width - 1, Math.round(x * picture.width));
  const top = Math.min(picture.height - 1, Math.round(y * picture.height));
  return {
    ...{ x: left, y: top },
    width: Math.max(1, Math.min(picture.width - left, Math.round(width * picture.width))),
    height: Math.max(1, Math.min(picture.height - top, Math.round(height * picture.height))),
  };
}

/** Every pixel that a part in fractions touches. */
function pixelsAround({ x, y, width, height }: Rectangle, picture: PixelSize): Rectangle {
  const [left, top] = [Math.floor(x * picture.width), Math.floor(y * picture.height)];
  const right = Math.min(picture.width, Math.ceil((x + width) * picture.width));
  const bottom = Math.min(picture.height, Math.ceil((y + height) * picture.height));
  return { x: left, y: top, width: Math.max(1, right - left), height: Math.max(1, bottom - top) };
}

/** Whole pixels around what is wanted, with a margin, within what there is. */
function wholePixels(wanted: Rectangle, within: Rectangle): Rectangle {
  const clamp = (at: number, low: number, high: number) => Math.max(low, Math.min(high, at));
  const right = within.x + within.width;
  const bottom = within.y + within.height;
  const left = clamp(Math.floor(wanted.x) - MARGIN, within.x, right - 1);
  const top = clamp(Math.floor(wanted.y) - MARGIN, within.y, bottom - 1);
  return {
    ...{ x: left, y: top },
    width: clamp(Math.ceil(wanted.x + wanted.width) + MARGIN, left + 1, right) - left,
    height: clamp(Math.ceil(wanted.y + wanted.height) + MARGIN, top + 1, bottom) - top,
  };
}
