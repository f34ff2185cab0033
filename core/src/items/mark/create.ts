import { type PenId, penOf, STROKE_REACH, type StrokePoint, strokeOutline } from '../../freehand/index.ts';
import { applyAffine, boundsOfPoints, determinantOf, inflate, invertAffine } from '../../geometry/index.ts';
import { UPRIGHT } from '../item.ts';
import type { Placement } from '../placement/index.ts';
import type { Mark } from './mark.ts';
import { type PictureMark, partsToBoard } from './picture-mark.ts';
import { BEYOND, MARK_PARTS, MOST_NIB, MOST_STROKE_POINTS, PRESSURES } from './stroke.ts';

/** Of a frame, units of its plane. */
const LEAST_SIDE = 0.01;

/** A stroke as a hand drew it. */
export interface StrokeStart {
  readonly pen: PenId;
  readonly ink: string;
  readonly smoothing: number;
  readonly seed: number;
  /** Width at half the pressure, units of the plane. */
  readonly nib: number;
  /** On the plane; at least one. */
  readonly points: readonly StrokePoint[];
}

/** Every second point, as often as it takes: a hand that draws for minutes. */
function thinned(points: readonly StrokePoint[]): readonly StrokePoint[] {
  if (points.length <= MOST_STROKE_POINTS) return points;
  return thinned(points.filter((_, index) => index % 2 === 0 || index === points.length - 1));
}

const within = (least: number, value: number, most: number): number => Math.min(most, Math.max(least, value));

/** The properties of a stroke on a plane, its frame as narrow as what the pen leaves. */
export function strokeFrom({ pen, ink, smoothing, seed, nib, points: drawn }: StrokeStart) {
  const points = thinned(drawn);
  const outline = boundsOfPoints(strokeOutline(points, { pen: penOf(pen), nib, smoothing }));
  const bounds = inflate(outline, nib * STROKE_REACH);
  const width = Math.max(LEAST_SIDE, bounds.width);
  const height = Math.max(LEAST_SIDE, bounds.height);
  const parts = MARK_PARTS / Math.max(width, height);
  const whole = (length: number) => within(-BEYOND, Math.round(length * parts), MARK_PARTS + BEYOND);
  return {
    ...{ ...UPRIGHT, flipX: false, flipY: false },
    opacity: penOf(pen).opacity,
    centre: { x: bounds.x + bounds.width / 2, y: bounds.y + bounds.height / 2 },
    ...{ width, proportion: height / width, pen, ink, smoothing, seed },
    nib: within(1, nib * parts, MOST_NIB),
    points: points.flatMap(({ x, y, pressure, tilt = 0 }) => [
      ...[whole(x - bounds.x), whole(y - bounds.y)],
      ...[Math.round(within(0, pressure, 1) * PRESSURES), Math.round(within(0, tilt, 90))],
    ]),
  };
}

type MarkStart = Pick<Mark, 'id' | 'stack'> & StrokeStart;

/** A stroke as a mark on the board; lengths in board units. */
export const createMark = ({ id, stack, ...start }: MarkStart): Mark => ({
  ...{ kind: 'mark', id, stack },
  ...strokeFrom(start),
});

/** A stroke that a hand drew on the board as a mark on a picture that stands there; lengths in board units. */
export function createPictureMark(
  placement: Placement,
  { id, stack, nib, points, ...start }: MarkStart,
): PictureMark {
  const onBoard = partsToBoard(placement);
  const fromBoard = invertAffine(onBoard);
  return {
    ...{ kind: 'picture-mark', id, stack, on: placement.id },
    ...strokeFrom({
      ...{ ...start, nib: nib / Math.sqrt(Math.abs(determinantOf(onBoard))) },
      points: points.map((point) => ({ ...point, ...applyAffine(fromBoard, point) })),
    }),
  };
}
