import { type Affine, compose, invertAffine, type Point, translation } from '../geometry/index.ts';

/** Points nearer to each other than this say nothing of scale and turn; of a line through two, nothing across it. */
const TOO_NEAR = 1e-6;

/**
 * The transform that brings one, two or three marked points onto others: one moves, two move, turn and scale, three bring
 * every parallelogram onto every other.
 *
 * @param from - where the points lie, any unit
 * @param to - where they are to lie, as many
 * @returns undefined where they do not say: two that lie on one another, three on a line, none
 */
export function placedByPoints(from: readonly Point[], to: readonly Point[]): Affine | undefined {
  if (from.length !== to.length)
    throw new RangeError(`${from.length} points cannot be brought onto ${to.length}`);
  const [a, b, c] = from;
  const [p, q, r] = to;
  if (!a || !p) return undefined;
  if (!b || !q) return translation(p.x - a.x, p.y - a.y);
  if (!c || !r) return similarity([a, b], [p, q]);
  const source = frameOf(a, b, c);
  const target = frameOf(p, q, r);
  return source && target && compose(target, invertAffine(source));
}

/** The frame whose origin is `o` and whose axes end at `x` and `y`. */
function frameOf(o: Point, x: Point, y: Point): Affine | undefined {
  const frame: Affine = [x.x - o.x, x.y - o.y, y.x - o.x, y.y - o.y, o.x, o.y];
  const across = Math.abs(frame[0] * frame[3] - frame[1] * frame[2]);
  const long = Math.max(Math.hypot(frame[0], frame[1]), Math.hypot(frame[2], frame[3]));
  return long < TOO_NEAR || across / long < TOO_NEAR ? undefined : frame;
}

/** As complex numbers: z → m·z + n with m the ratio of the spans. */
function similarity([a, b]: readonly [Point, Point], [p, q]: readonly [Point, Point]): Affine | undefined {
  const [x, y] = [b.x - a.x, b.y - a.y];
  const [u, v] = [q.x - p.x, q.y - p.y];
  const square = x * x + y * y;
  if (square < TOO_NEAR ** 2 || u * u + v * v < TOO_NEAR ** 2) return undefined;
  const re = (u * x + v * y) / square;
  const im = (v * x - u * y) / square;
  return [re, im, -im, re, p.x - re * a.x + im * a.y, p.y - im * a.x - re * a.y];
}
