import type { FromSchema } from 'json-schema-to-ts';
import type { Point } from '../../geometry/index.ts';
import { ballShapes, LIGHT_PARTS, NO_COLOURS, wordsOfDirection } from '../../light/index.ts';
import { firstLines } from '../../typesetting/index.ts';
import { commonNames, commonProperties, fractionSchema, itemIdSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { type Primitive, rectanglePath } from '../primitives.ts';

const colour = { type: ['string', 'null'], pattern: '^#[0-9a-f]{6}$' } as const;

/** A ball painted in the light and shadow colours of a picture, to keep them consistent. */
export const litBallSchema = {
  $id: 'lit-ball',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'lit-ball' },
    ...commonProperties,
    title: { type: 'string', format: 'text', maxLength: 200 },
    /** Null for what the form has none of. */
    colours: {
      type: 'object',
      properties: {
        ...{ highlight: colour, light: colour, 'half-tone': colour },
        ...{ 'core shadow': colour, 'reflected light': colour, 'cast shadow': colour },
      },
      required: [...LIGHT_PARTS],
      additionalProperties: false,
    },
    /** Where the light comes from: degrees clockwise from above, degrees towards the viewer. */
    direction: {
      type: 'object',
      properties: {
        azimuthDeg: { type: 'number', minimum: 0, maximum: 360 },
        elevationDeg: { type: 'number', minimum: -90, maximum: 90 },
      },
      required: ['azimuthDeg', 'elevationDeg'],
      additionalProperties: false,
    },
    /** How much of the form that light explains, where the direction was estimated; null where it was given. */
    fit: { type: ['number', 'null'], minimum: 0, maximum: 1 },
    /** The placed picture that it is of. */
    of: { ...itemIdSchema, type: ['string', 'null'] },
    /** Where on the picture a colour was read, fractions of it. */
    marks: {
      type: 'array',
      items: {
        type: 'object',
        properties: { part: { enum: [...LIGHT_PARTS] }, x: fractionSchema, y: fractionSchema },
        required: ['part', 'x', 'y'],
        additionalProperties: false,
      },
      maxItems: LIGHT_PARTS.length,
    },
  },
  required: [...commonNames, 'title', 'colours', 'direction', 'fit', 'of', 'marks'],
  additionalProperties: false,
} as const;

export type LitBall = FromSchema<typeof litBallSchema>;
export type LightMark = LitBall['marks'][number];
export const isLitBall = (item: { readonly kind: string }): item is LitBall => item.kind === 'lit-ball';

/** A lit ball as it is made, board units; it scales as a whole. */
export const BALL_CARD = { width: 240, ball: 156, patches: 26, title: 30 } as const;
const BALL = { x: 120, y: 68, radius: 56 } as const;
const TITLE = { fontSize: 16, lineHeight: 20 } as const;
const PADDING = 8;
const PAPER = '#fafaf9';
const INK = '#1d1d1b';

/** What painters draw of one. */
export function ballPrimitives({ width, colours, direction, title }: LitBall): Primitive[] {
  const scale = width / BALL_CARD.width;
  const place = { x: BALL.x * scale, y: BALL.y * scale, radius: BALL.radius * scale };
  const given = LIGHT_PARTS.flatMap((part) => colours[part] ?? []);
  const patch = width / Math.max(1, given.length);
  const { ball, patches } = BALL_CARD;
  const strip = { x: 0, y: (ball + patches) * scale, width, height: BALL_CARD.title * scale };
  return [
    ...ballShapes(colours, direction, place).map(({ d, fill }): Primitive => ({ kind: 'path', d, fill })),
    ...given.map(
      (fill, index): Primitive => ({
        kind: 'path',
        fill,
        d: rectanglePath({ x: index * patch, y: ball * scale, width: patch, height: patches * scale }),
      }),
    ),
    { kind: 'path', fill: PAPER, d: rectanglePath(strip) },
    {
      kind: 'text',
      text: firstLines(title || 'Lit ball', { ...TITLE, width: BALL_CARD.width - 2 * PADDING }, 1),
      at: { x: PADDING * scale, y: (ball + patches + (BALL_CARD.title - TITLE.lineHeight) / 2) * scale },
      ...{ scale, colour: INK, clip: strip },
    },
  ];
}

export const litBallKind: KindOfItem<LitBall> = {
  schema: litBallSchema,
  title: 'Lit ball',
  heightOf: ({ width }) => (width * (BALL_CARD.ball + BALL_CARD.patches + BALL_CARD.title)) / BALL_CARD.width,
  picturesOf: () => [],
  wordsOf: ({ title, colours, direction }) =>
    [
      title,
      `light ${wordsOfDirection(direction)}`,
      ...LIGHT_PARTS.flatMap((part) => (colours[part] === null ? [] : [`${part} ${colours[part]}`])),
    ].join(' '),
};

type BallStart = Pick<LitBall, 'id' | 'stack' | 'colours' | 'direction'> & {
  readonly centre: Point;
} & Partial<LitBall>;

export const createLitBall = (start: BallStart): LitBall => ({
  ...{ kind: 'lit-ball', ...UPRIGHT, width: BALL_CARD.width, title: '', fit: null, of: null, marks: [] },
  ...start,
  colours: { ...NO_COLOURS, ...start.colours },
});
