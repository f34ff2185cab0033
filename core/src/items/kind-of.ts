import type { Affine, Rectangle } from '../geometry/index.ts';
import { frameOf } from './frame.ts';
import type { ItemSchema, KindOfItem } from './kind.ts';
import type { Drawn } from './primitives.ts';
import { ITEM_KINDS, type Item, type ItemKind } from './table.ts';

export const isItemKind = (kind: unknown): kind is ItemKind =>
  typeof kind === 'string' && Object.hasOwn(ITEM_KINDS, kind);

/** What tells an item from others of other kinds. */
export const kindOf = (item: Item): KindOfItem<Item> => ITEM_KINDS[item.kind] as KindOfItem<Item>;

/** Whether it is kept with a board without being one of the things that stand there. */
export const isOutOfHand = (item: Item): boolean => {
  const { isUnseen = false, isGround = false } = kindOf(item);
  return isUnseen || isGround;
};

const NOT_FLIPPED = { x: 1, y: 1 } as const;
export const flipOf = (item: Item): { readonly x: 1 | -1; readonly y: 1 | -1 } =>
  kindOf(item).flipOf?.(item) ?? NOT_FLIPPED;

/** Height of an item in board units. */
export const heightOf = (item: Item): number => kindOf(item).heightOf(item);

export const picturesOf = (item: Item): readonly string[] => kindOf(item).picturesOf(item);

/** What stands on an item in words, in one line; '' where it says nothing. */
export const wordsOf = (item: Item, nameOf: (picture: string) => string | undefined): string =>
  kindOf(item).wordsOf(item, nameOf).replace(/\s+/g, ' ').trim();

/** Maps an item's own frame (origin at its top left corner before flip and turn, board units) to the board. */
export const ownFrame = (item: Item): Affine => frameOf(item, heightOf(item), flipOf(item));

/** The item's own frame. */
export const ownRectangle = ({ width, height }: Pick<Drawn, 'width' | 'height'>): Rectangle => ({
  x: 0,
  y: 0,
  width,
  height,
});

const byKind = <T>(make: (schema: ItemSchema) => T): Readonly<Record<ItemKind, T>> =>
  Object.fromEntries(Object.entries(ITEM_KINDS).map(([kind, { schema }]) => [kind, make(schema)])) as Record<
    ItemKind,
    T
  >;

/** What one of each kind must look like. */
export const ITEM_SCHEMAS = byKind((schema) => schema);

/**
 * What a `set` may hold, by kind; `id` and `kind` never change. A picture is exchanged for its larger copy in its place;
 * its pixel size may be set right, too: the browser that brought it read only its head.
 */
export const SET_SCHEMAS = byKind(({ $id, properties: { id: _, kind: __, ...properties } }) => ({
  $id: `${$id}-set`,
  type: 'object' as const,
  properties,
  minProperties: 1,
  additionalProperties: false as const,
}));
