import type { StrokePoint } from '../../freehand/index.ts';
import {
  applyAffine,
  boundsOfPoints,
  compose,
  determinantOf,
  distanceToLine,
  inflate,
  invertAffine,
  overlaps,
  type Point,
  type Rectangle,
  scaling,
} from '../../geometry/index.ts';
import { frameOf } from '../frame.ts';
import type { Placement } from '../placement/index.ts';
import { strokeFrom } from './create.ts';
import { partsToBoard } from './picture-mark.ts';
import { partOf, pointsOf, type Stroke, strokeFlip, strokeHeight } from './stroke.ts';

/** A stroke is looked at in steps of so much of what rubs. */
const STEP = 0.25;

/** Where the hand was that drew a mark, on its plane: the board, or a picture. */
export function wayOfMark(mark: Stroke): StrokePoint[] {
  const part = partOf(mark);
  const toPlane = compose(frameOf(mark, strokeHeight(mark), strokeFlip(mark)), scaling(part, part));
  return pointsOf(mark).map((point) => ({ ...point, ...applyAffine(toPlane, point) }));
}

/** From where to where, 0..1, a side lies within a rectangle; undefined where none of it does. Source: Liang and Barsky 1984. */
function within(from: Point, to: Point, { x, y, width, height }: Rectangle): [number, number] | undefined {
  let [enters, leaves] = [0, 1];
  for (const [start, step, low, high] of [
    [from.x, to.x - from.x, x, x + width],
    [from.y, to.y - from.y, y, y + height],
  ] as const) {
    if (step === 0) {
      if (start < low || start > high) return undefined;
      continue;
    }
    const [one, other] = [(low - start) / step, (high - start) / step];
    enters = Math.max(enters, Math.min(one, other));
    leaves = Math.min(leaves, Math.max(one, other));
  }
  return enters <= leaves ? [enters, leaves] : undefined;
}

/** The same with no two neighbours farther apart than a step where they lie within a rectangle: elsewhere nothing is rubbed. */
function inSteps(points: readonly StrokePoint[], step: number, near: Rectangle): StrokePoint[] {
  return points.flatMap((to, index) => {
    const from = points[index - 1];
    const part = from && within(from, to, near);
    if (!from || !part) return [to];
    const [enters, leaves] = part;
    const count = Math.ceil((Math.hypot(to.x - from.x, to.y - from.y) * (leaves - enters)) / step);
    const at = (share: number): StrokePoint => ({
      x: from.x + (to.x - from.x) * share,
      y: from.y + (to.y - from.y) * share,
      pressure: from.pressure + (to.pressure - from.pressure) * share,
      tilt: (from.tilt ?? 0) + ((to.tilt ?? 0) - (from.tilt ?? 0)) * share,
    });
    const steps = Array.from({ length: count }, (_, one) => at(enters + ((leaves - enters) * one) / count));
    return [...steps, ...(leaves < 1 ? [at(leaves)] : []), to];
  });
}

/** What rubs out: where it went on the plane of a mark, and how far it reaches, units of that plane. */
export interface Rubber {
  readonly path: readonly Point[];
  readonly radius: number;
}

/** Units of its plane between the line of a mark and what rubs where it is rubbed. */
const reachOn = (mark: Stroke, { radius }: Rubber): number => radius + (mark.nib * partOf(mark)) / 2;

/** The points of a mark by which it is told what of it is rubbed; undefined where the rubber came nowhere near it. */
function askedOf(mark: Stroke, rubber: Rubber): StrokePoint[] | undefined {
  const reach = reachOn(mark, rubber);
  const near = inflate(boundsOfPoints(rubber.path), reach);
  const drawn = wayOfMark(mark);
  if (!overlaps(boundsOfPoints(drawn), near)) return undefined;
  return inSteps(drawn, reach * STEP, near);
}

/** Whether anything of a mark is rubbed. */
export function isRubbed(mark: Stroke, rubber: Rubber): boolean {
  const reach = reachOn(mark, rubber);
  return askedOf(mark, rubber)?.some((at) => distanceToLine(rubber.path, at) < reach) ?? false;
}

/**
 * What is left of a mark where something of it is rubbed out: a mark for each piece, as it was drawn.
 *
 * @param newId - makes their ids
 * @returns undefined where nothing of it is rubbed
 */
export function piecesLeft<M extends Stroke>(mark: M, rubber: Rubber, newId: () => string): M[] | undefined {
  const reach = reachOn(mark, rubber);
  const pieces: StrokePoint[][] = [[]];
  let isAny = false;
  for (const point of askedOf(mark, rubber) ?? []) {
    if (distanceToLine(rubber.path, point) >= reach) pieces.at(-1)!.push(point);
    else {
      isAny = true;
      if (pieces.at(-1)!.length > 0) pieces.push([]);
    }
  }
  if (!isAny) return undefined;
  const { ink, smoothing, pen, seed, opacity } = mark;
  const nib = mark.nib * partOf(mark);
  return pieces
    .filter((points) => points.length > 1)
    .map((points) => ({
      ...{ ...mark, ...strokeFrom({ ink, smoothing, pen, seed, nib, points }) },
      ...{ id: newId(), opacity, cluster: mark.cluster ?? null, isFixed: mark.isFixed ?? false },
    }));
}

/** What rubs out on the board as it rubs on a picture that stands there. */
export function rubberOn(placement: Placement, { path, radius }: Rubber): Rubber {
  const onBoard = partsToBoard(placement);
  const fromBoard = invertAffine(onBoard);
  return {
    path: path.map((point) => applyAffine(fromBoard, point)),
    radius: radius / Math.sqrt(Math.abs(determinantOf(onBoard))),
  };
}
