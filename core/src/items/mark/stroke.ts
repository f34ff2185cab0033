import { PEN_IDS, type PenId, type StrokePoint } from '../../freehand/index.ts';
import { distanceToLine, type Point } from '../../geometry/index.ts';
import { type CommonItem, fractionSchema } from '../item.ts';

/** Into so many parts the longer side of a mark is divided: its points lie on whole ones. */
export const MARK_PARTS = 100_000;
/** Where a trembling hand is smoothed its points may lie beyond what the pen leaves, by so many parts at most. */
export const BEYOND = 10 * MARK_PARTS;
/** A dot that was hardly pressed is much narrower than its pen. */
export const MOST_NIB = 40 * MARK_PARTS;
/** Steps of pressure. */
export const PRESSURES = 255;
/** Points of one stroke at most. */
export const MOST_STROKE_POINTS = 4_000;
/** Of each point: x, y (parts of the longer side, from the top left corner), pressure 0..255, degrees by which the pen leant. */
export const FIGURES = 4;
/** The greatest seed of a grain. */
export const SEEDS = 0xffff;

/** What a stroke is, wherever it lies. */
export const strokeProperties = {
  flipX: { type: 'boolean' },
  flipY: { type: 'boolean' },
  pen: { enum: [...PEN_IDS] },
  ink: { type: 'string', pattern: '^#[0-9a-f]{6}$' },
  /** Width of the pen at half the pressure, parts of the longer side. */
  nib: { type: 'number', minimum: 1, maximum: MOST_NIB },
  /** How much of the hand's trembling is left out. */
  smoothing: fractionSchema,
  /** Of its grain. */
  seed: { type: 'integer', minimum: 0, maximum: SEEDS },
  /** Height by width. */
  proportion: { type: 'number', minimum: 1e-6, maximum: 1e6 },
  points: {
    type: 'array',
    items: { type: 'integer', minimum: -BEYOND, maximum: MARK_PARTS + BEYOND },
    minItems: FIGURES,
    maxItems: FIGURES * MOST_STROKE_POINTS,
  },
} as const;

export const strokeNames = [
  ...(['flipX', 'flipY', 'pen', 'ink', 'nib', 'smoothing', 'seed', 'proportion', 'points'] as const),
] as const;

/** A stroke as an item carries it; its frame as all frames. */
export interface Stroke extends CommonItem {
  readonly flipX: boolean;
  readonly flipY: boolean;
  readonly pen: PenId;
  readonly ink: string;
  readonly nib: number;
  readonly smoothing: number;
  readonly seed: number;
  readonly proportion: number;
  readonly points: readonly number[];
}

export const strokeHeight = ({ width, proportion }: Pick<Stroke, 'width' | 'proportion'>): number =>
  width * proportion;
/** Units of its plane to one part. */
export const partOf = (stroke: Stroke): number => Math.max(stroke.width, strokeHeight(stroke)) / MARK_PARTS;

/** Its points in its own frame, parts of its longer side. */
export function pointsOf({ points }: Stroke): StrokePoint[] {
  return Array.from({ length: Math.floor(points.length / FIGURES) }, (_, index) => {
    const [x, y, pressure, tilt] = points.slice(index * FIGURES, (index + 1) * FIGURES) as [
      number,
      number,
      number,
      number,
    ];
    return { x, y, pressure: pressure / PRESSURES, tilt };
  });
}

/** Whether a point, fractions of the frame, lies on the stroke or within its width of it. */
export function strokeCovers(stroke: Stroke, at: Point): boolean {
  const part = partOf(stroke);
  const x = (at.x * stroke.width) / part;
  const y = (at.y * strokeHeight(stroke)) / part;
  return distanceToLine(pointsOf(stroke), { x, y }) <= stroke.nib;
}

export const strokeFlip = ({ flipX, flipY }: Stroke): { x: 1 | -1; y: 1 | -1 } => ({
  x: flipX ? -1 : 1,
  y: flipY ? -1 : 1,
});
