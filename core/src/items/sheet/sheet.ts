import type { FromSchema } from 'json-schema-to-ts';
import {
  LENGTH_UNITS,
  type PrintNeed,
  pixelsOfSheet,
  SHEET_LIMITS,
  type SheetSetup,
  USUAL_NEED,
} from '../../easel/index.ts';
import { commonNames, commonProperties, itemIdSchema, lengthSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { type Primitive, rectanglePath } from '../primitives.ts';

const said = { type: 'number', exclusiveMinimum: 0, maximum: 1e6 } as const;
const resolution = {
  type: 'number',
  minimum: SHEET_LIMITS.leastPpi,
  maximum: SHEET_LIMITS.mostPpi,
} as const;

/** Lines of one direction; more of them help nobody. */
export const MOST_GUIDES = 60;
const guides = {
  type: 'array',
  items: { type: 'number', minimum: -1e6, maximum: 1e6 },
  maxItems: MOST_GUIDES,
} as const;

/** The paper of an easel. It lies beneath everything on its board, trimmed upper left corner at the origin, one unit a pixel. */
export const sheetSchema = {
  $id: 'sheet',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'sheet' },
    ...commonProperties,
    /** With its bleed; board units, as its width. */
    height: lengthSchema,
    setup: {
      type: 'object',
      properties: {
        width: said,
        height: said,
        unit: { enum: [...LENGTH_UNITS] },
        ppi: resolution,
        bleed: { type: 'number', minimum: 0, maximum: 1e6 },
      },
      required: ['width', 'height', 'unit', 'ppi', 'bleed'],
      additionalProperties: false,
    },
    /** The smallest print that must come out well. */
    need: {
      type: 'object',
      properties: { width: said, height: said, unit: { enum: ['in', 'cm', 'mm'] }, ppi: resolution },
      required: ['width', 'height', 'unit', 'ppi'],
      additionalProperties: false,
    },
    /** Colour of the paper. */
    paper: { type: 'string', pattern: '^#[0-9a-f]{6}$' },
    /** Lines to which placing catches; the sheet's pixels. */
    guides: {
      type: 'object',
      properties: { x: guides, y: guides },
      required: ['x', 'y'],
      additionalProperties: false,
    },
  },
  required: [...commonNames, 'height', 'setup', 'need', 'paper', 'guides'],
  additionalProperties: false,
} as const;

export type SheetItem = FromSchema<typeof sheetSchema>;
/** A board has one at most, by this id. */
export const SHEET_ID = 'sheet';
export const isSheet = (item: { readonly kind: string }): item is SheetItem => item.kind === 'sheet';

/** Below every key that is ever given to what stands on a board. */
const LOWEST = '0';
export const WHITE_PAPER = '#ffffff';
/** Thickness of the line along which it is trimmed, of its shorter side. */
const TRIM_LINE = 0.0012;
const TRIM_COLOUR = '#9a9a96';

/** Where a sheet lies, board units: what follows from how it is set up. */
export function layOfSheet(setup: SheetSetup): Pick<SheetItem, 'centre' | 'width' | 'height' | 'setup'> {
  const { trimmed, whole } = pixelsOfSheet(setup);
  return {
    centre: { x: trimmed.width / 2, y: trimmed.height / 2 },
    width: whole.width,
    height: whole.height,
    setup,
  };
}

export const createSheet = (
  setup: SheetSetup,
  { need = USUAL_NEED, paper = WHITE_PAPER }: { readonly need?: PrintNeed; readonly paper?: string } = {},
): SheetItem => ({
  ...{ id: SHEET_ID, kind: 'sheet', stack: LOWEST, ...UPRIGHT, ...layOfSheet(setup) },
  ...{ need, paper, guides: { x: [], y: [] } },
});

/** What painters draw of one. */
export function sheetPrimitives({ width, height, setup, paper }: SheetItem): Primitive[] {
  const { trimmed, bleed } = pixelsOfSheet(setup);
  const whole: Primitive = { kind: 'path', d: rectanglePath({ x: 0, y: 0, width, height }), fill: paper };
  if (bleed === 0) return [whole];
  const line = Math.max(1, Math.min(width, height) * TRIM_LINE);
  return [
    whole,
    {
      kind: 'path',
      d: rectanglePath({ x: bleed, y: bleed, ...trimmed }),
      stroke: { colour: TRIM_COLOUR, width: line },
    },
  ];
}

export const sheetKind: KindOfItem<SheetItem> = {
  schema: sheetSchema,
  title: 'Sheet',
  isGround: true,
  heightOf: ({ height }) => height,
  picturesOf: () => [],
  wordsOf: () => '',
};
