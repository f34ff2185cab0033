import { boundsOfPoints, type Point, turnPoint } from '../geometry/index.ts';
import type { StrokePoint } from './outline.ts';

/** What a stroke may be meant as. */
export const MEANT = ['line', 'arrow', 'ellipse', 'rectangle'] as const;
export type Meant = (typeof MEANT)[number];

/** Points along a stroke by which its shape is told. */
const SAMPLES = 256;
/** A shape within so many degrees of the axes lies along them. */
const NEARLY_UPRIGHT_DEG = 9;
/** An ellipse whose axes differ by less is as good as a circle: it has no way to lie. */
const NEARLY_ROUND = 0.86;
/** Points of an ellipse, and along each side of a rectangle. */
const ELLIPSE_POINTS = 72;
const SIDE_POINTS = 12;
/** Length of an arrow's head, of the arrow and of the pen's width, and how far it opens to either side. */
const HEAD = { ofLength: 0.22, ofNib: 5, most: 0.45, degrees: 26 } as const;

const pressed = ({ x, y }: Point): StrokePoint => ({ x, y, pressure: 0.5 });

/** Points at equal distances along a way, so that where the hand was slow does not count for more. */
function evenly(points: readonly Point[]): Point[] {
  const [first] = points;
  if (!first) return [];
  let length = 0;
  const along = points.map((point, index) => {
    const before = points[index - 1] ?? point;
    length += Math.hypot(point.x - before.x, point.y - before.y);
    return length;
  });
  if (length === 0) return [first];
  let next = 1;
  return Array.from({ length: SAMPLES }, (_, sample) => {
    const at = (sample / (SAMPLES - 1)) * length;
    while (next < points.length - 1 && along[next]! < at) next += 1;
    const [from, to] = [points[next - 1]!, points[next]!];
    const step = along[next]! - along[next - 1]!;
    const part = step === 0 ? 0 : Math.min(1, (at - along[next - 1]!) / step);
    return { x: from.x + (to.x - from.x) * part, y: from.y + (to.y - from.y) * part };
  });
}

/** An angle of something that is the same after a quarter turn, and upright where it nearly is. */
function uprightened(degrees: number): number {
  const off = degrees - Math.round(degrees / 90) * 90;
  return Math.abs(off) < NEARLY_UPRIGHT_DEG ? degrees - off : degrees;
}

/** The direction in which points spread most, degrees. */
function longAxisOf(points: readonly Point[]): number {
  const mean = { x: 0, y: 0 };
  for (const { x, y } of points) {
    mean.x += x / points.length;
    mean.y += y / points.length;
  }
  let [xx, xy, yy] = [0, 0, 0];
  for (const { x, y } of points) {
    xx += (x - mean.x) ** 2;
    xy += (x - mean.x) * (y - mean.y);
    yy += (y - mean.y) ** 2;
  }
  return (Math.atan2(2 * xy, xx - yy) / 2) * (180 / Math.PI);
}

/** The frame of points that lies at an angle, degrees: its middle on the plane, and its sides. */
function frameAt(points: readonly Point[], angle: number) {
  const { x, y, width, height } = boundsOfPoints(points.map((point) => turnPoint(point, -angle)));
  return { angle, width, height, middle: turnPoint({ x: x + width / 2, y: y + height / 2 }, angle) };
}

function ellipseOf(points: readonly Point[]): StrokePoint[] {
  const leaning = frameAt(points, uprightened(longAxisOf(points)));
  const isRound =
    Math.min(leaning.width, leaning.height) > NEARLY_ROUND * Math.max(leaning.width, leaning.height);
  const { angle, width, height, middle } = isRound ? frameAt(points, 0) : leaning;
  return Array.from({ length: ELLIPSE_POINTS + 1 }, (_, index) => {
    const at = (index / ELLIPSE_POINTS) * 2 * Math.PI;
    const on = turnPoint({ x: (width / 2) * Math.cos(at), y: (height / 2) * Math.sin(at) }, angle);
    return pressed({ x: middle.x + on.x, y: middle.y + on.y });
  });
}

function rectangleOf(points: readonly Point[]): StrokePoint[] {
  // The least frame of all that hold it.
  const frames = Array.from({ length: 90 }, (_, degrees) => frameAt(points, degrees));
  const least = frames.reduce((best, one) =>
    one.width * one.height < best.width * best.height ? one : best,
  );
  const { angle, width, height, middle } = frameAt(points, uprightened(least.angle));
  const corners = [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([x, y]) => {
    const on = turnPoint({ x: (x! * width) / 2, y: (y! * height) / 2 }, angle);
    return { x: middle.x + on.x, y: middle.y + on.y };
  });
  return [
    ...corners.flatMap((from, index) => {
      const to = corners[(index + 1) % corners.length]!;
      return Array.from({ length: SIDE_POINTS }, (_, step) => {
        const part = step / SIDE_POINTS;
        return pressed({ x: from.x + (to.x - from.x) * part, y: from.y + (to.y - from.y) * part });
      });
    }),
    pressed(corners[0]!),
  ];
}

function arrowOf(from: Point, tip: Point, nib: number): StrokePoint[] {
  const length = Math.hypot(tip.x - from.x, tip.y - from.y);
  if (length === 0) return [pressed(tip)];
  const head = Math.min(HEAD.most * length, Math.max(HEAD.ofLength * length, HEAD.ofNib * nib));
  const back = { x: ((from.x - tip.x) / length) * head, y: ((from.y - tip.y) / length) * head };
  const barb = (degrees: number) => {
    const on = turnPoint(back, degrees);
    return pressed({ x: tip.x + on.x, y: tip.y + on.y });
  };
  // One stroke: to the tip, and each side of the head from there.
  return [pressed(from), pressed(tip), barb(HEAD.degrees), pressed(tip), barb(-HEAD.degrees)];
}

/**
 * A stroke as what it may be meant as, evenly pressed.
 *
 * @param nib - width of the pen, in the units of the points
 */
export function meantAs(points: readonly StrokePoint[], as: Meant, nib: number): StrokePoint[] {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return [];
  if (as === 'line') return [pressed(first), pressed(last)];
  if (as === 'arrow') return arrowOf(first, last, nib);
  return as === 'ellipse' ? ellipseOf(evenly(points)) : rectangleOf(evenly(points));
}
