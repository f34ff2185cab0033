import type { FromSchema } from 'json-schema-to-ts';
import type { Point } from '../../geometry/index.ts';
import { fractionSchema } from '../item.ts';

/** Corners of a lasso at most; a hand's line is thinned to them. */
export const MOST_CORNERS = 400;

/** What of a trimmed frame is kept: the ellipse that fills it, or what a lasso encloses, `[x, y]` in fractions of the frame. */
export const outlineSchema = {
  anyOf: [
    { const: 'ellipse' },
    {
      type: 'array',
      items: { type: 'array', items: fractionSchema, minItems: 2, maxItems: 2 },
      minItems: 3,
      maxItems: MOST_CORNERS,
    },
  ],
} as const;

export type Outline = FromSchema<typeof outlineSchema>;
export type Lasso = Exclude<Outline, 'ellipse'>;

const corner = ([x = 0, y = 0]: readonly number[]): Point => ({ x, y });

/** Corners of the polygon that stands for an ellipse, where polygons are drawn: off by 0.02 % of its size. */
const ELLIPSE_CORNERS = 180;

/** The outline as a polygon, fractions of the frame. */
export function outlinePolygon(outline: Outline): Point[] {
  if (outline !== 'ellipse') return outline.map(corner);
  return Array.from({ length: ELLIPSE_CORNERS }, (_, index) => {
    const angle = (2 * Math.PI * index) / ELLIPSE_CORNERS;
    return { x: 0.5 + 0.5 * Math.cos(angle), y: 0.5 + 0.5 * Math.sin(angle) };
  });
}

/** Whether a point (fractions of the frame) is kept; what a lasso goes around twice is not (even-odd). */
export function isWithinOutline(outline: Outline, { x, y }: Point): boolean {
  if (outline === 'ellipse') return Math.hypot(x - 0.5, y - 0.5) <= 0.5;
  let isWithin = false;
  let before = corner(outline[outline.length - 1] ?? []);
  for (const one of outline) {
    const at = corner(one);
    if (at.y > y !== before.y > y && x < at.x + ((y - at.y) / (before.y - at.y)) * (before.x - at.x))
      isWithin = !isWithin;
    before = at;
  }
  return isWithin;
}

export const mirroredOutline = (outline: Outline): Outline =>
  outline === 'ellipse' ? outline : outline.map(([x = 0, y = 0]) => [1 - x, y]);

/** The area that a closed line encloses, in the units of its points squared; where it crosses itself, what is left over. */
export function areaOf(points: readonly Point[]): number {
  let twice = 0;
  for (const [index, at] of points.entries()) {
    const next = points[(index + 1) % points.length]!;
    twice += at.x * next.y - next.x * at.y;
  }
  return Math.abs(twice) / 2;
}
