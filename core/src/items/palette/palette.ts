import type { FromSchema } from 'json-schema-to-ts';
import { PALETTE_SIZES } from '../../colour/index.ts';
import type { Point } from '../../geometry/index.ts';
import { firstLines } from '../../typesetting/index.ts';
import { commonNames, commonProperties, fractionSchema, itemIdSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { type Primitive, rectanglePath } from '../primitives.ts';

/** More items than this are named by none: it is of the whole board. */
export const MOST_SOURCES = 200;

/** One colour of a palette: what is shown of it, its share of all, and what it is called. */
export const keptSwatchSchema = {
  type: 'object',
  properties: {
    hex: { type: 'string', pattern: '^#[0-9a-f]{6}$' },
    share: fractionSchema,
    name: { type: 'string', format: 'text', maxLength: 120 },
    /** It stays when the palette is made anew. */
    isLocked: { type: 'boolean' },
  },
  required: ['hex', 'share', 'name', 'isLocked'],
  additionalProperties: false,
} as const;
export type KeptSwatch = FromSchema<typeof keptSwatchSchema>;

/** Items of the board whose pictures it was made of, and the part of the one picture where that is not all of it. */
const madeOfSchema = {
  type: ['object', 'null'],
  properties: {
    /** All of the board where there is none. */
    items: { type: 'array', items: itemIdSchema, maxItems: MOST_SOURCES },
    /** Corners of what was drawn around, `[x, y]` in fractions of the picture. */
    outline: {
      type: ['array', 'null'],
      items: { type: 'array', items: fractionSchema, minItems: 2, maxItems: 2 },
      minItems: 3,
      maxItems: 400,
    },
  },
  required: ['items', 'outline'],
  additionalProperties: false,
} as const;

/** A palette on a board: flat patches to pick from. */
export const paletteSchema = {
  $id: 'palette',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'palette' },
    ...commonProperties,
    title: { type: 'string', format: 'text', maxLength: 200 },
    swatches: { type: 'array', items: keptSwatchSchema, minItems: 1, maxItems: PALETTE_SIZES.most },
    /** Patches are as wide as their shares, instead of alike. */
    isByShare: { type: 'boolean' },
    /** So many colours were wished for. */
    count: { type: 'integer', minimum: PALETTE_SIZES.least, maximum: PALETTE_SIZES.most },
    /** 0: by what they cover; 1: the small and vivid count as much. */
    accent: fractionSchema,
    madeOf: madeOfSchema,
  },
  required: [...commonNames, 'title', 'swatches', 'isByShare', 'count', 'accent', 'madeOf'],
  additionalProperties: false,
} as const;

export type PaletteItem = FromSchema<typeof paletteSchema>;
export const isPalette = (item: { readonly kind: string }): item is PaletteItem => item.kind === 'palette';

/** A palette as it is made, board units; it scales as a whole. */
export const PALETTE_STRIP = { width: 420, patches: 92, title: 30 } as const;
const TITLE = { fontSize: 16, lineHeight: 20 } as const;
const PADDING = 8;
const PAPER = '#fafaf9';
const INK = '#1d1d1b';
/** Nothing is so small a part that it cannot be picked from, of the width. */
const LEAST_PATCH = 0.015;

/** Left edge and width of each patch, as parts of the whole. */
export function patchParts({
  swatches,
  isByShare,
}: Pick<PaletteItem, 'swatches' | 'isByShare'>): { readonly x: number; readonly width: number }[] {
  const wanted = swatches.map(({ share }) => (isByShare ? Math.max(LEAST_PATCH, share) : 1));
  const total = wanted.reduce((sum, part) => sum + part, 0);
  let x = 0;
  return wanted.map((part) => {
    const patch = { x, width: part / total };
    x += patch.width;
    return patch;
  });
}

/** What painters draw of one. */
export function palettePrimitives(palette: PaletteItem): Primitive[] {
  const scale = palette.width / PALETTE_STRIP.width;
  const { patches, title } = PALETTE_STRIP;
  const strip = { x: 0, y: patches * scale, width: palette.width, height: title * scale };
  const parts = patchParts(palette);
  return [
    ...palette.swatches.map(
      ({ hex }, index): Primitive => ({
        kind: 'path',
        fill: hex,
        d: rectanglePath({
          ...{ x: parts[index]!.x * palette.width, y: 0 },
          ...{ width: parts[index]!.width * palette.width, height: patches * scale },
        }),
      }),
    ),
    { kind: 'path', fill: PAPER, d: rectanglePath(strip) },
    {
      kind: 'text',
      text: firstLines(palette.title || 'Palette', { ...TITLE, width: PALETTE_STRIP.width - 2 * PADDING }, 1),
      at: { x: PADDING * scale, y: (patches + (title - TITLE.lineHeight) / 2) * scale },
      ...{ scale, colour: INK, clip: strip },
    },
  ];
}

export const paletteKind: KindOfItem<PaletteItem> = {
  schema: paletteSchema,
  title: 'Palette',
  heightOf: ({ width }) => (width * (PALETTE_STRIP.patches + PALETTE_STRIP.title)) / PALETTE_STRIP.width,
  picturesOf: () => [],
  wordsOf: ({ title, swatches }) => [title, ...swatches.map(({ name, hex }) => `${name} ${hex}`)].join(' '),
};

/** The patch under a point of a palette's own frame, board units; undefined for its title. */
export function swatchAt(palette: PaletteItem, { x, y }: Point): KeptSwatch | undefined {
  if (y > (PALETTE_STRIP.patches * palette.width) / PALETTE_STRIP.width) return undefined;
  const parts = patchParts(palette);
  const index = parts.findIndex(
    (part) => x >= part.x * palette.width && x < (part.x + part.width) * palette.width,
  );
  return palette.swatches[index];
}

type PaletteStart = Pick<PaletteItem, 'id' | 'stack' | 'swatches'> & {
  readonly centre: Point;
} & Partial<PaletteItem>;

export const createPalette = (start: PaletteStart): PaletteItem => ({
  ...{ kind: 'palette', ...UPRIGHT, width: PALETTE_STRIP.width, title: '', isByShare: false },
  ...{ count: PALETTE_SIZES.usual, accent: 0, madeOf: null },
  ...start,
});
