import { type Meant, meantAs, type PenId, type StrokePoint } from '@miradero/core/freehand';
import { applyAffine, type Point } from '@miradero/core/geometry';
import {
  createPictureMark,
  heightOf,
  type Item,
  isPlacement,
  type PictureMark,
  pictureToBoard,
} from '@miradero/core/items';

/** What a hand drew on a picture, fractions of its sides; `nib` of its longer side. */
export interface DrawnOn {
  readonly on: string;
  readonly pen: PenId;
  readonly ink: string;
  readonly nib: number;
  /** Where the hand passed; between these it went in a curve. */
  readonly through: readonly (readonly [x: number, y: number])[];
  readonly as?: Meant;
}

const RED = '#bf4128';
const DARK = '#242321';

/** What the first try gets wrong, drawn over it. */
export const CORRECTIONS: readonly DrawnOn[] = [
  // How far the hull may reach, and by how much it is too long.
  {
    ...{ on: 'page-7-too-wide.png', pen: 'hard-pencil', ink: RED, nib: 0.0055, as: 'line' },
    through: [
      [0.192, 0.48],
      [0.192, 0.9],
    ],
  },
  {
    ...{ on: 'page-7-too-wide.png', pen: 'hard-pencil', ink: RED, nib: 0.0055, as: 'line' },
    through: [
      [0.62, 0.62],
      [0.62, 0.93],
    ],
  },
  {
    ...{ on: 'page-7-too-wide.png', pen: 'hard-pencil', ink: RED, nib: 0.006, as: 'arrow' },
    through: [
      [0.74, 0.88],
      [0.635, 0.88],
    ],
  },
  // The wheel as it should sit.
  {
    ...{ on: 'page-7-too-wide.png', pen: 'hard-pencil', ink: RED, nib: 0.0055, as: 'ellipse' },
    through: [
      [0.37, 0.4],
      [0.405, 0.36],
      [0.445, 0.39],
      [0.455, 0.47],
      [0.43, 0.54],
      [0.385, 0.53],
      [0.368, 0.45],
      [0.374, 0.39],
    ],
  },
  // Shadow under the hull, and the side that is turned away from the light.
  {
    ...{ on: 'page-7-too-wide.png', pen: 'wash', ink: DARK, nib: 0.05 },
    through: [
      [0.24, 0.66],
      [0.36, 0.73],
      [0.5, 0.79],
      [0.63, 0.82],
      [0.74, 0.8],
    ],
  },
  {
    ...{ on: 'page-7-too-wide.png', pen: 'hatching', ink: DARK, nib: 0.055 },
    through: [
      [0.615, 0.4],
      [0.618, 0.46],
      [0.613, 0.52],
      [0.617, 0.56],
    ],
  },
  // Reeds that melt first.
  {
    ...{ on: 'page-7-too-wide.png', pen: 'soft-pencil', ink: '#e8e8e6', nib: 0.02 },
    through: [
      [0.06, 0.3],
      [0.12, 0.16],
      [0.17, 0.31],
      [0.23, 0.17],
      [0.28, 0.3],
      [0.34, 0.18],
    ],
  },
  {
    ...{ on: 'page-7-leaning.png', pen: 'hard-pencil', ink: RED, nib: 0.007, as: 'line' },
    through: [
      [0.675, 0.06],
      [0.675, 0.72],
    ],
  },
];

/** Between two points through which a hand passed it was so often seen. */
const SEEN_BETWEEN = 12;

/** The way of a hand through points, on a curve, pressed lightly where it begins and ends. Source: Catmull and Rom 1974. */
function wayThrough(through: readonly Point[]): StrokePoint[] {
  const at = (index: number) => through[Math.min(through.length - 1, Math.max(0, index))]!;
  const last = (through.length - 1) * SEEN_BETWEEN;
  return Array.from({ length: last + 1 }, (_, step) => {
    const index = Math.min(through.length - 2, Math.floor(step / SEEN_BETWEEN));
    const t = step / SEEN_BETWEEN - index;
    const [a, b, c, d] = [at(index - 1), at(index), at(index + 1), at(index + 2)];
    const along = (axis: 'x' | 'y') =>
      b[axis] +
      (t / 2) *
        (c[axis] -
          a[axis] +
          t *
            (2 * a[axis] -
              5 * b[axis] +
              4 * c[axis] -
              d[axis] +
              t * (3 * (b[axis] - c[axis]) + d[axis] - a[axis])));
    return { x: along('x'), y: along('y'), pressure: 0.35 + 0.3 * Math.sin((Math.PI * step) / last) };
  });
}

/** What a hand drew, as a mark on the picture where it stands. */
export function markOn(
  placed: Item,
  { on, pen, ink, nib: share, through, as }: DrawnOn,
  more: Pick<PictureMark, 'id' | 'stack' | 'seed'>,
): PictureMark {
  if (!isPlacement(placed)) throw new Error(`${on} is no picture`);
  const toBoard = pictureToBoard(placed);
  const nib = share * Math.max(placed.width, heightOf(placed));
  const way = wayThrough(through.map(([x, y]) => applyAffine(toBoard, { x, y })));
  return createPictureMark(placed, {
    ...{ ...more, pen, ink, nib, smoothing: as ? 0 : 0.3 },
    points: as ? meantAs(way, as, nib) : way,
  });
}
