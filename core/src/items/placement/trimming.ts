import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  centreOf,
  compose,
  intersectionOf,
  invertAffine,
  type Point,
  type Rectangle,
  rectangleAround,
  rectangleBetween,
  rotation,
  scaling,
  translation,
} from '../../geometry/index.ts';
import { frameOf } from '../frame.ts';
import { areaOf, type Lasso, MOST_CORNERS, outlinePolygon } from './outline.ts';
import { type Placement, pictureToBoard, placementKind, type Trim, WHOLE } from './placement.ts';

/*
 * Frames of trims are rectangles in *leaned fractions*: fractions of the picture's sides along axes that are turned by the
 * trim's lean about the picture's middle. Without lean they are fractions of the picture.
 */

/** The smallest trim, as a fraction of a side: below it nothing could be grasped any more. */
const MIN_TRIM = 0.002;

/** A lasso of less than this share of what it goes around encloses nothing. */
const MIN_LASSO = 0.002;

type Size = Pick<Placement, 'pictureWidth' | 'pictureHeight'>;

/** Fractions of the picture → leaned fractions. */
const leaning = ({ pictureWidth, pictureHeight }: Size, lean: number): Affine =>
  compose(
    translation(0.5, 0.5),
    scaling(1 / pictureWidth, 1 / pictureHeight),
    rotation(-lean),
    scaling(pictureWidth, pictureHeight),
    translation(-0.5, -0.5),
  );

/** The frame of a trim, leaned fractions. */
export function frameOfTrim(placement: Size & { readonly trim: Trim }): Rectangle {
  const { x, y, width, height, lean = 0 } = placement.trim;
  if (lean === 0) return { x, y, width, height };
  const centre = applyAffine(leaning(placement, lean), centreOf(placement.trim));
  return rectangleAround(centre, width, height);
}

/** The trim of which a rectangle in leaned fractions is the frame. */
function trimOfFrame(
  placement: Size,
  frame: Rectangle,
  { lean = 0, outline }: Omit<Trim, keyof Rectangle>,
): Trim {
  const { width, height } = frame;
  const rest = outline && { outline };
  if (lean === 0) return { x: frame.x, y: frame.y, width, height, ...rest };
  const at = applyAffine(invertAffine(leaning(placement, lean)), centreOf(frame));
  const x = Math.max(0, Math.min(1 - width, at.x - width / 2));
  const y = Math.max(0, Math.min(1 - height, at.y - height / 2));
  return { x, y, width, height, lean, ...rest };
}

const ROUNDING = 1e-9;

/** Whether a frame lies within the picture, leaning and, as it is kept, turned back about its middle. */
function isWithin(placement: Size, frame: Rectangle, lean: number): boolean {
  const back = invertAffine(leaning(placement, lean));
  const isInPicture = ({ x, y }: Point) =>
    x >= -ROUNDING && y >= -ROUNDING && x <= 1 + ROUNDING && y <= 1 + ROUNDING;
  const middle = applyAffine(back, centreOf(frame));
  return [-0.5, 0.5].every((right) =>
    [-0.5, 0.5].every((down) => {
      const [dx, dy] = [right * frame.width, down * frame.height];
      const { x, y } = centreOf(frame);
      return (
        isInPicture(applyAffine(back, { x: x + dx, y: y + dy })) &&
        isInPicture({ x: middle.x + dx, y: middle.y + dy })
      );
    }),
  );
}

const HALVINGS = 40;

/** The most of the way from one frame, which lies within the picture, towards another that still does. */
function asFarAsPossible(placement: Size, from: Rectangle, to: Rectangle, lean: number): Rectangle {
  const at = (share: number): Rectangle => ({
    x: from.x + (to.x - from.x) * share,
    y: from.y + (to.y - from.y) * share,
    width: from.width + (to.width - from.width) * share,
    height: from.height + (to.height - from.height) * share,
  });
  if (isWithin(placement, to, lean)) return to;
  let [low, high] = [0, 1];
  for (let step = 0; step < HALVINGS; step += 1) {
    const middle = (low + high) / 2;
    if (isWithin(placement, at(middle), lean)) low = middle;
    else high = middle;
  }
  return at(low);
}

/** Board → leaned fractions of a placement. */
const boardToLeaned = (placement: Placement): Affine => {
  const frame = frameOfTrim(placement);
  const { width } = placement;
  const height = placementKind.heightOf(placement);
  return compose(
    translation(frame.x, frame.y),
    scaling(frame.width / width, frame.height / height),
    invertAffine(frameOf(placement, height, placementKind.flipOf!(placement))),
  );
};

/** The part of a frame that lies in the picture; of one that lies beside it, the least at the edge. */
const withinWhole = (frame: Rectangle): Rectangle =>
  intersectionOf({ ...frame, x: Math.min(frame.x, 1 - MIN_TRIM), y: Math.min(frame.y, 1 - MIN_TRIM) }, WHOLE);

/** Corners on the board of a part (fractions 0..1) of a picture, from its upper left one on, as the picture is looked at. */
export function partOnBoard(placement: Placement, { x, y, width, height }: Rectangle): Point[] {
  const matrix = pictureToBoard(placement);
  return outlinePolygon(CORNERS).map((share) =>
    applyAffine(matrix, { x: x + share.x * width, y: y + share.y * height }),
  );
}

/** What of a picture is kept, around which nothing is shown: corners on the board. */
export function keptOnBoard(placement: Placement): Point[] {
  const height = placementKind.heightOf(placement);
  const frame = frameOf(placement, height, placementKind.flipOf!(placement));
  return outlinePolygon(placement.trim.outline ?? CORNERS).map(({ x, y }) =>
    applyAffine(frame, { x: x * placement.width, y: y * height }),
  );
}

const CORNERS: Lasso = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];

/** What trimming alters. */
export type Trimmed = { item: string; set: Pick<Placement, 'trim' | 'centre' | 'width'> };

/**
 * Trims a placement to a frame (leaned fractions) so that what stays visible does not move on the board and does not change
 * its scale. The outline goes along with its frame.
 *
 * @param outline - what of the frame is kept; `null`: all of it
 */
export function trimTo(
  placement: Placement,
  frame: Rectangle,
  outline: Trim['outline'] | null = placement.trim.outline ?? null,
): Trimmed {
  const { lean = 0 } = placement.trim;
  // What is smaller already stays so.
  const least = {
    ...frame,
    width: Math.max(Math.min(MIN_TRIM, placement.trim.width), frame.width),
    height: Math.max(Math.min(MIN_TRIM, placement.trim.height), frame.height),
  };
  const kept =
    lean === 0
      ? withinWhole(least)
      : asFarAsPossible(placement, rectangleAround(centreOf(least), 0, 0), least, lean);
  const trim = trimOfFrame(placement, kept, { lean, ...(outline && { outline }) });
  const centre = applyAffine(invertAffine(boardToLeaned(placement)), centreOf(kept));
  const width = (placement.width * kept.width) / placement.trim.width;
  return { item: placement.id, set: { trim: trim, centre, width } };
}

/** The whole of a picture, so that what is visible of it stays where it is, at its scale. */
export function uncover(placement: Placement): {
  item: string;
  set: Pick<Placement, 'trim' | 'centre' | 'width' | 'turn'>;
} {
  const { trim, turn, flipX, flipY, width } = placement;
  const side = flipX === flipY ? 1 : -1;
  const turned = turn - side * (trim.lean ?? 0);
  return {
    item: placement.id,
    set: {
      trim: WHOLE,
      centre: applyAffine(pictureToBoard(placement), centreOf(WHOLE)),
      width: width / trim.width,
      turn: turned > 180 ? turned - 360 : turned <= -180 ? turned + 360 : turned,
    },
  };
}

/**
 * The frame, in leaned fractions, that a drag between two board points marks; clipped to what is visible.
 *
 * @param aspect - width by height to be kept, from where the drag began, where one is
 */
export function trimBetween(
  placement: Placement,
  fromBoard: Point,
  toBoard: Point,
  aspect?: number,
): Rectangle {
  const toLeaned = boardToLeaned(placement);
  const [from, to] = [applyAffine(toLeaned, fromBoard), applyAffine(toLeaned, toBoard)];
  const marked = intersectionOf(rectangleBetween(from, to), frameOfTrim(placement));
  if (aspect === undefined) return marked;
  const shaped = shapeFrame(placement, marked, aspect);
  const at = { x: to.x < from.x ? 0.5 : -0.5, y: to.y < from.y ? 0.5 : -0.5 };
  return anchored(marked, at, shaped.width, shaped.height);
}

/**
 * What a lasso drawn on the board keeps.
 *
 * @returns undefined where it encloses nothing of the picture
 */
export function trimByLasso(
  placement: Placement,
  lineBoard: readonly Point[],
): { readonly frame: Rectangle; readonly outline: Lasso } | undefined {
  const visible = frameOfTrim(placement);
  const toLeaned = boardToLeaned(placement);
  const line = lineBoard.map((point) => {
    const { x, y } = applyAffine(toLeaned, point);
    return {
      x: Math.max(visible.x, Math.min(visible.x + visible.width, x)),
      y: Math.max(visible.y, Math.min(visible.y + visible.height, y)),
    };
  });
  if (line.length < 3) return undefined;
  const frame = boundsOfPoints(line);
  if (frame.width < MIN_TRIM || frame.height < MIN_TRIM) return undefined;
  if (areaOf(line) < MIN_LASSO * frame.width * frame.height) return undefined;
  const every = Math.ceil(line.length / MOST_CORNERS);
  const within = (share: number) => Math.max(0, Math.min(1, share));
  const outline = line
    .filter((_, index) => index % every === 0)
    .map(({ x, y }) => [within((x - frame.x) / frame.width), within((y - frame.y) / frame.height)]);
  return outline.length < 3 ? undefined : { frame, outline };
}

/** Which edges a handle moves: -1 the left or upper one, 1 the right or lower one, 0 neither. */
interface Side {
  readonly x: -1 | 0 | 1;
  readonly y: -1 | 0 | 1;
}

/**
 * The frame after dragging one of its handles to a board point; never beyond the picture, never turned inside out.
 *
 * @param aspect - width by height to be kept, where one is
 */
export function trimByHandle(placement: Placement, handle: Side, toBoard: Point, aspect?: number): Rectangle {
  const at = applyAffine(boardToLeaned(placement), toBoard);
  const frame = frameOfTrim(placement);
  const { lean = 0 } = placement.trim;
  const [least, most] = lean === 0 ? [0, 1] : [-FAR, FAR];
  const side = (sign: number, low: number, high: number, to: number): [number, number] => {
    if (sign < 0) return [Math.max(least, Math.min(to, high - MIN_TRIM)), high];
    if (sign > 0) return [low, Math.min(most, Math.max(to, low + MIN_TRIM))];
    return [low, high];
  };
  const [left, right] = side(handle.x, frame.x, frame.x + frame.width, at.x);
  const [top, bottom] = side(handle.y, frame.y, frame.y + frame.height, at.y);
  const to = { x: left, y: top, width: right - left, height: bottom - top };
  if (aspect !== undefined) {
    const start = shapeFrame(placement, frame, aspect);
    return asFarAsPossible(placement, start, shapedByHandle(placement, handle, to, aspect), lean);
  }
  return lean === 0 ? to : asFarAsPossible(placement, frame, to, lean);
}

/** A frame of an aspect as a handle has drawn it: a corner from the opposite one, an edge about the middle of the opposite one. */
function shapedByHandle(placement: Size, handle: Side, to: Rectangle, aspect: number): Rectangle {
  const fractions = (aspect * placement.pictureHeight) / placement.pictureWidth;
  const width =
    handle.x === 0
      ? to.height * fractions
      : handle.y === 0
        ? to.width
        : Math.min(to.width, to.height * fractions);
  return anchored(to, { x: -handle.x / 2, y: -handle.y / 2 }, width, width / fractions);
}

/** A rectangle of a size that shares a point with another: `at` is from its middle, in shares of its sides. */
const anchored = (frame: Rectangle, at: Point, width: number, height: number): Rectangle => {
  const { x, y } = centreOf(frame);
  return rectangleAround(
    { x: x + at.x * (frame.width - width), y: y + at.y * (frame.height - height) },
    width,
    height,
  );
};

/** Beyond every leaned frame. */
const FAR = 100;

/** Which side of a picture is meant. */
export type TrimSide = 'left' | 'right' | 'up' | 'down';

/**
 * The frame after one of its edges was moved by a share of the picture; never beyond the picture, never turned inside out.
 *
 * @param side - the edge
 * @param inward - what is cut off there, a share of the picture's side; negative gives back
 */
export function trimByStep(
  placement: Size & { readonly trim: Trim },
  side: TrimSide,
  inward: number,
): Rectangle {
  const frame = frameOfTrim(placement);
  const { lean = 0 } = placement.trim;
  const isAcross = side === 'left' || side === 'right';
  const isNear = side === 'left' || side === 'up';
  const [from, length] = isAcross ? [frame.x, frame.width] : [frame.y, frame.height];
  const most = length - MIN_TRIM;
  const least = lean === 0 ? (isNear ? -from : from + length - 1) : -FAR;
  const by = Math.max(least, Math.min(inward, most));
  const [start, size] = [isNear ? from + by : from, length - by];
  const to = isAcross ? { ...frame, x: start, width: size } : { ...frame, y: start, height: size };
  return lean === 0 ? to : asFarAsPossible(placement, frame, to, lean);
}

/**
 * The trim after what it shows was slid under its frame by a vector on the board: the picture goes with the hand, as far as there
 * is some of it; the frame stays.
 */
export function slideTrim(placement: Placement, byBoard: Point): Trimmed {
  const { centre, width } = placement;
  const toLeaned = boardToLeaned(placement);
  const from = applyAffine(toLeaned, centre);
  const to = applyAffine(toLeaned, { x: centre.x + byBoard.x, y: centre.y + byBoard.y });
  const frame = frameOfTrim(placement);
  const { lean = 0 } = placement.trim;
  // Along each side alone: at an edge it slides on along that.
  const along = (start: Rectangle, dx: number, dy: number): Rectangle => {
    const moved = { ...start, x: start.x + dx, y: start.y + dy };
    if (lean !== 0) return asFarAsPossible(placement, start, moved, lean);
    return {
      ...moved,
      x: Math.max(0, Math.min(1 - start.width, moved.x)),
      y: Math.max(0, Math.min(1 - start.height, moved.y)),
    };
  };
  const slid = along(along(frame, from.x - to.x, 0), 0, from.y - to.y);
  const trim = trimOfFrame(placement, slid, placement.trim);
  return { item: placement.id, set: { trim: trim, centre, width } };
}

/**
 * The largest frame of an aspect that a frame holds, about the same middle.
 *
 * @param aspect - width by height, as it is seen
 */
export function shapeFrame(
  { pictureWidth, pictureHeight }: Size,
  frame: Rectangle,
  aspect: number,
): Rectangle {
  const fractions = (aspect * pictureHeight) / pictureWidth;
  const width = Math.min(frame.width, frame.height * fractions);
  return rectangleAround(centreOf(frame), width, width / fractions);
}

/** The angle by which a line on the board misses being level or upright, whichever is nearer: degrees clockwise, within ±45. */
export function leanOfLine(from: Point, to: Point): number {
  const angle = (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
  return angle - 90 * Math.round(angle / 90);
}

/** A trim may lean so far, degrees. */
const MOST_LEAN = 45;

/** Turns a picture under its frame by an angle as it is seen, degrees clockwise. */
export const leanBy = (placement: Placement, angleDeg: number): Trimmed => leanTo(placement, -angleDeg);

/**
 * Turns a picture under its frame so that a line drawn on the board would be level or upright; the frame stays upright as it is,
 * and is made as small as it must be to have the picture everywhere.
 */
export const straighten = (placement: Placement, fromBoard: Point, toBoard: Point): Trimmed =>
  leanTo(placement, leanOfLine(fromBoard, toBoard));

/** @param more - degrees clockwise on the board by which the frame leans further against the picture */
function leanTo(placement: Placement, more: number): Trimmed {
  const { trim, flipX, flipY } = placement;
  const side = flipX === flipY ? 1 : -1;
  const lean = Math.max(-MOST_LEAN, Math.min(MOST_LEAN, (trim.lean ?? 0) + side * more));
  const middle = applyAffine(leaning(placement, lean), centreOf(trim));
  const point = rectangleAround(middle, 0, 0);
  const full = rectangleAround(middle, trim.width, trim.height);
  const kept = asFarAsPossible(placement, point, full, lean);
  const scale = Math.max(kept.width / trim.width, MIN_TRIM);
  const frame = rectangleAround(middle, trim.width * scale, trim.height * scale);
  const next = trimOfFrame(placement, frame, { lean, ...(trim.outline && { outline: trim.outline }) });
  return {
    item: placement.id,
    set: { trim: next, centre: placement.centre, width: placement.width * scale },
  };
}
