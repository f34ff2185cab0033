import {
  type Camera,
  cameraShowing,
  centreOf,
  clampScale,
  type Point,
  type Rectangle,
  rectangleAround,
  turnPoint,
  type Viewport,
} from '@miradero/core/geometry';

/** How a view is held before the eyes: turned clockwise, then seen in a mirror. Nothing on the board alters. */
export interface Orientation {
  /** From 0, below 360. */
  readonly degrees: number;
  readonly isMirrored: boolean;
}
export const AS_IT_IS: Orientation = { degrees: 0, isMirrored: false };

/** Any angle as one from 0, below 360. */
export const wrapDegrees = (degrees: number): number => ((degrees % 360) + 360) % 360;

/** Lengths of no pixel are none: a quarter turn has no remainder. */
const whole = (length: number): number =>
  Math.abs(length - Math.round(length)) < 1e-9 ? Math.round(length) : length;

/** Size of the upright rectangle around one that is turned about its middle. */
export function turnedSize({ width, height }: Viewport, degrees: number): Viewport {
  const across = turnPoint({ x: width, y: height }, degrees);
  const along = turnPoint({ x: width, y: -height }, degrees);
  return {
    width: whole(Math.max(Math.abs(across.x), Math.abs(along.x))),
    height: whole(Math.max(Math.abs(across.y), Math.abs(along.y))),
  };
}

/** Lays a canvas of the size `viewport` into its holder, turned about its middle, which stays in the middle of the holder. */
export function layTurned(
  { style }: HTMLCanvasElement,
  holder: Viewport,
  viewport: Viewport,
  { degrees, isMirrored }: Orientation,
): void {
  style.transform =
    `${degrees === 0 ? '' : `rotate(${degrees}deg)`} ${isMirrored ? 'scaleX(-1)' : ''}`.trim();
  Object.assign(style, {
    width: degrees === 0 ? '' : `${viewport.width}px`,
    height: degrees === 0 ? '' : `${viewport.height}px`,
    left: degrees === 0 ? '' : `${(holder.width - viewport.width) / 2}px`,
    top: degrees === 0 ? '' : `${(holder.height - viewport.height) / 2}px`,
  });
}

/** The largest view, shaped like `viewport`, of which nothing is beyond the holder. */
export function roomIn(holder: Viewport, viewport: Viewport, degrees: number): Viewport {
  const turned = turnedSize(viewport, degrees);
  const factor = Math.min(holder.width / turned.width, holder.height / turned.height);
  return { width: viewport.width * factor, height: viewport.height * factor };
}

/** A way on the screen, of the view that shows it. */
export function alongView({ x, y }: Point, { degrees, isMirrored }: Orientation): Point {
  const turned = turnPoint({ x, y }, -degrees);
  return isMirrored ? { x: -turned.x, y: turned.y } : turned;
}

/** The same, back. */
export const alongScreen = ({ x, y }: Point, { degrees, isMirrored }: Orientation): Point =>
  turnPoint({ x: isMirrored ? -x : x, y }, degrees);

/** Size of a part of the board as it is seen turned. */
const seenTurned = (part: Rectangle, { degrees }: Orientation): Rectangle => {
  const { width, height } = turnedSize(part, degrees);
  return rectangleAround(centreOf(part), width, height);
};

/** A camera that shows all of a part in a holder, with so much space around it (CSS pixels). */
export const showingTurned = (
  part: Rectangle,
  holder: Viewport,
  orientation: Orientation,
  marginPx: number,
): Camera => cameraShowing(seenTurned(part, orientation), holder, marginPx);

/** A camera that shows a part as wide, or as high, as its holder; what is too long for it from its beginning. */
export function fillingAlong(
  part: Rectangle,
  holder: Viewport,
  orientation: Orientation,
  along: 'width' | 'height',
): Camera {
  const seen = seenTurned(part, orientation);
  const scale = clampScale(holder[along] / seen[along]);
  const over = {
    x: Math.max(0, seen.width - holder.width / scale) / 2,
    y: Math.max(0, seen.height - holder.height / scale) / 2,
  };
  const shift = alongView(
    { x: along === 'height' ? -over.x : 0, y: along === 'width' ? -over.y : 0 },
    orientation,
  );
  const { x, y } = centreOf(part);
  return { scale, centre: { x: x + shift.x, y: y + shift.y } };
}
