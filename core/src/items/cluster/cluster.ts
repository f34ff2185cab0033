import type { FromSchema } from 'json-schema-to-ts';
import type { Point, Rectangle } from '../../geometry/index.ts';
import { commonNames, commonProperties, itemIdSchema, lengthSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { type Primitive, rectanglePath, squareQuad } from '../primitives.ts';
import { TINT_NAMES, TINTS } from '../tints.ts';
import { stripHeight, titleRun } from '../title-strip.ts';

const pixels = { type: ['integer', 'null'], minimum: 1, maximum: 1_000_000 } as const;

/**
 * Items that move together: those that name it as their `cluster`. `open`: they lie on its ground; `folded`: only its cover is
 * seen; `spares`: put away where they were, a small stack is seen.
 */
export const clusterSchema = {
  $id: 'cluster',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'cluster' },
    ...commonProperties,
    height: lengthSchema,
    title: { type: 'string', format: 'text', maxLength: 200 },
    /** Type of the title while it is open, board units. */
    titleSize: lengthSchema,
    tint: { enum: TINT_NAMES },
    form: { enum: ['open', 'folded', 'spares'] },
    /** What lies in it stands in one line, the newest at its head, and goes on doing so. */
    isStrip: { type: 'boolean' },
    /** Its size when it is open; null while it is, and where it never was. */
    openSize: {
      type: ['object', 'null'],
      properties: { width: lengthSchema, height: lengthSchema },
      required: ['width', 'height'],
      additionalProperties: false,
    },
    /** Its cover. */
    picture: { type: ['string', 'null'], format: 'uuid' },
    pictureWidth: pixels,
    pictureHeight: pixels,
  },
  required: [
    ...commonNames,
    ...(['height', 'title', 'titleSize', 'tint', 'form', 'openSize'] as const),
    ...(['picture', 'pictureWidth', 'pictureHeight'] as const),
  ],
  additionalProperties: false,
} as const;

export type Cluster = FromSchema<typeof clusterSchema>;
export const isCluster = (item: { readonly kind: string }): item is Cluster => item.kind === 'cluster';

/** The ground lets the surround through: colours look as they do beside it. */
const GROUND = '#ffffff1c';
const SHEET = '#fafaf9';
const SHEET_EDGE = '#8c8c89';

/** A card that is folded or put away: how high its title is, by its width. */
const FOLDED_TITLE = 0.16;

function openPrimitives(cluster: Cluster): Primitive[] {
  const { width, height, tint, title, titleSize } = cluster;
  const strip = { x: 0, y: 0, width, height: stripHeight(cluster) };
  return [
    { kind: 'path', d: rectanglePath({ x: 0, y: 0, width, height }), fill: GROUND },
    { kind: 'path', d: rectanglePath(strip), fill: TINTS[tint] },
    ...titleRun(title, titleSize, strip, titleSize / 2),
  ];
}

/** A cover, or a blank sheet, with the title under it; more sheets lie below it. */
function closedPrimitives(cluster: Cluster): Primitive[] {
  const { width, height, tint, title, form, picture, pictureWidth, pictureHeight } = cluster;
  const edge = width * 0.008;
  const shift = width * (form === 'spares' ? 0.06 : 0.035);
  const sheets = form === 'spares' ? 2 : 1;
  const top: Rectangle = { x: 0, y: 0, width: width - sheets * shift, height: height - sheets * shift };
  const below = Array.from({ length: sheets }, (_, index): Primitive => {
    const by = (sheets - index) * shift;
    const stroke = { colour: SHEET_EDGE, width: edge };
    return { kind: 'path', d: rectanglePath({ ...top, x: by, y: by }), fill: SHEET, stroke };
  });
  const label = title.trim() === '' && picture !== null ? 0 : Math.min(top.width * FOLDED_TITLE, top.height);
  const room = { x: 0, y: 0, width: top.width, height: top.height - label };
  const side = Math.min(room.width, room.height);
  const strip = { x: 0, y: room.height, width: top.width, height: label };
  const cover: Primitive[] =
    picture === null || pictureWidth === null || pictureHeight === null || side <= 0
      ? []
      : [
          squareQuad(
            { id: picture, width: pictureWidth, height: pictureHeight },
            { x: (room.width - side) / 2, y: 0, side },
          ),
        ];
  return [
    ...below,
    { kind: 'path', d: rectanglePath(top), fill: TINTS[tint], stroke: { colour: SHEET_EDGE, width: edge } },
    ...cover,
    ...titleRun(title, label * 0.55, strip, label * 0.3),
  ];
}

export const clusterKind: KindOfItem<Cluster> = {
  schema: clusterSchema,
  title: 'Cluster',
  heightOf: ({ height }) => height,
  gripOf: (cluster) =>
    cluster.form === 'open'
      ? { x: 0, y: 0, width: cluster.width, height: stripHeight(cluster) }
      : { x: 0, y: 0, width: cluster.width, height: cluster.height },
  sized: ({ height, titleSize, openSize }, factor) => ({
    height: height * factor,
    titleSize: titleSize * factor,
    ...(openSize && { openSize: { width: openSize.width * factor, height: openSize.height * factor } }),
  }),
  picturesOf: ({ picture }) => (picture === null ? [] : [picture]),
  exchanged: (_, other) => ({ picture: other.id, pictureWidth: other.width, pictureHeight: other.height }),
  wordsOf: ({ title }) => title,
};

/** What painters draw of one. */
export const clusterPrimitives = (cluster: Cluster): Primitive[] =>
  cluster.form === 'open' ? openPrimitives(cluster) : closedPrimitives(cluster);

type ClusterStart = Pick<Cluster, 'id' | 'stack' | 'width' | 'height' | 'titleSize'> & {
  readonly centre: Point;
} & Partial<Cluster>;

/** An open cluster without a title. */
export const createCluster = (start: ClusterStart): Cluster => ({
  ...{ kind: 'cluster', ...UPRIGHT, title: '', tint: 'paper', form: 'open', openSize: null },
  ...{ picture: null, pictureWidth: null, pictureHeight: null },
  ...start,
});
