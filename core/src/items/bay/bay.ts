import type { FromSchema } from 'json-schema-to-ts';
import type { Point, Rectangle } from '../../geometry/index.ts';
import { commonNames, commonProperties, itemIdSchema, lengthSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { type Primitive, rectanglePath } from '../primitives.ts';
import { stripHeight, titleRun } from '../title-strip.ts';

/** Longer by shorter side of what a bay may be shaped to. Paper: ISO 216:2007, clause 3 (1 : √2). */
export const BAY_SHAPES = {
  '1 : 1': 1,
  '5 : 4': 5 / 4,
  '4 : 3': 4 / 3,
  '3 : 2': 3 / 2,
  '16 : 9': 16 / 9,
  '2 : 1': 2,
  A5: 210 / 148,
  A4: 297 / 210,
  A3: 420 / 297,
  A2: 594 / 420,
} as const;
export type BayShape = keyof typeof BAY_SHAPES;
export const BAY_SHAPE_NAMES = Object.keys(BAY_SHAPES) as BayShape[];

/** A named region of a board. Its own frame is the strip of its title and, below that, the region. */
export const baySchema = {
  $id: 'bay',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'bay' },
    ...commonProperties,
    height: lengthSchema,
    title: { type: 'string', format: 'text', maxLength: 200 },
    titleSize: lengthSchema,
    /** What its region was shaped to; null: as it was drawn. */
    shape: { enum: [...BAY_SHAPE_NAMES, null] },
  },
  required: [...commonNames, 'height', 'title', 'titleSize', 'shape'],
  additionalProperties: false,
} as const;

export type Bay = FromSchema<typeof baySchema>;
export const isBay = (item: { readonly kind: string }): item is Bay => item.kind === 'bay';

const EDGE = '#fafaf9';
const STRIP_PAPER = '#fafaf9';

/** The region, own frame, board units. */
export function regionOf(bay: Pick<Bay, 'width' | 'height' | 'titleSize'>): Rectangle {
  const y = Math.min(stripHeight(bay), bay.height);
  return { x: 0, y, width: bay.width, height: Math.max(0, bay.height - y) };
}

/** The region as it lies on the board; bays stand upright wherever this is asked. */
export function regionOnBoard(bay: Bay): Rectangle {
  const region = regionOf(bay);
  return { ...region, x: bay.centre.x - bay.width / 2, y: bay.centre.y - bay.height / 2 + region.y };
}

/** The least type of a title, and by the width of what it stands above, board units. */
const TITLE = { least: 4, share: 0.03 } as const;

/** Where a bay stands whose region is `region`, board units. */
export function bayAround(region: Rectangle): Pick<Bay, 'centre' | 'width' | 'height' | 'titleSize'> {
  const titleSize = Math.max(TITLE.least, Math.min(region.width, region.height) * TITLE.share);
  const height = region.height + stripHeight({ titleSize });
  return {
    centre: { x: region.x + region.width / 2, y: region.y + region.height - height / 2 },
    width: region.width,
    height,
    titleSize,
  };
}

/** A square whose height, after sums, is a last bit more than its width is not a high one. */
const isHigher = ({ width, height }: Rectangle): boolean => height > width * (1 + 1e-9);

/** Gives a bay's region a shape: its upper left corner, its width and whether it is wide or high stay. Squares: wide. */
export function shapeBay(
  bay: Bay,
  shape: BayShape,
): Pick<Bay, 'centre' | 'width' | 'height' | 'titleSize' | 'shape'> {
  const region = regionOnBoard(bay);
  const ratio = isHigher(region) ? BAY_SHAPES[shape] : 1 / BAY_SHAPES[shape];
  return { ...bayAround({ ...region, height: region.width * ratio }), shape };
}

export const bayKind: KindOfItem<Bay> = {
  schema: baySchema,
  title: 'Bay',
  heightOf: ({ height }) => height,
  gripOf: (bay) => ({ x: 0, y: 0, width: bay.width, height: Math.min(stripHeight(bay), bay.height) }),
  sized: ({ height, titleSize }, factor) => ({ height: height * factor, titleSize: titleSize * factor }),
  picturesOf: () => [],
  wordsOf: ({ title }) => title,
};

/** What painters draw of one. */
export function bayPrimitives(bay: Bay): Primitive[] {
  const strip = { x: 0, y: 0, width: bay.width, height: stripHeight(bay) };
  const line = bay.titleSize * 0.08;
  const edge = regionOf(bay);
  return [
    {
      kind: 'path',
      d: rectanglePath({
        x: edge.x + line / 2,
        y: edge.y,
        width: Math.max(0, edge.width - line),
        height: Math.max(0, edge.height - line / 2),
      }),
      stroke: { colour: EDGE, width: line },
    },
    // A tab as wide as its words, and not the whole strip: a cluster has that.
    { kind: 'path', d: rectanglePath({ ...strip, width: tabWidth(bay) }), fill: STRIP_PAPER },
    ...titleRun(bay.title || 'Bay', bay.titleSize, { ...strip, width: tabWidth(bay) }, bay.titleSize / 2),
  ];
}

/** About as wide as its title is. */
const tabWidth = ({ title, titleSize, width }: Bay): number =>
  Math.min(width, titleSize * (1.4 + 0.55 * (title || 'Bay').length));

type BayStart = Pick<Bay, 'id' | 'stack' | 'width' | 'height' | 'titleSize'> & {
  readonly centre: Point;
} & Partial<Bay>;

export const createBay = (start: BayStart): Bay => ({
  kind: 'bay',
  ...UPRIGHT,
  title: '',
  shape: null,
  ...start,
});
