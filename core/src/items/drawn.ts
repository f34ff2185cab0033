import { heightOf, ownFrame } from './kind-of.ts';
import type { Drawn, Primitive } from './primitives.ts';
import {
  ballPrimitives,
  bayPrimitives,
  clusterPrimitives,
  type Item,
  type ItemKind,
  type ItemOfKind,
  isMultiplied,
  isPlacement,
  linkPrimitives,
  markToFrame,
  notePrimitives,
  outlinePolygon,
  type PictureMark,
  palettePrimitives,
  pathsOf,
  placementPrimitives,
  sheetPrimitives,
} from './table.ts';

const NONE = (): readonly Primitive[] => [];

/** What painters draw of each kind. Apart from what else tells kinds from another: a page that has a painter needs none of it. */
const PRIMITIVES: { readonly [K in ItemKind]: (item: ItemOfKind<K>) => readonly Primitive[] } = {
  placement: placementPrimitives,
  note: notePrimitives,
  link: linkPrimitives,
  cluster: clusterPrimitives,
  view: NONE,
  bay: bayPrimitives,
  'working-set': NONE,
  palette: palettePrimitives,
  'lit-ball': ballPrimitives,
  mark: pathsOf,
  // It is drawn with its picture.
  'picture-mark': NONE,
  sheet: sheetPrimitives,
};

const UNIT_SQUARE = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
] as const;

/** What a hand drew on a picture, lowest first, as it lies on it. */
function marksOn(item: Item, marks: readonly PictureMark[]): Primitive[] {
  if (marks.length === 0 || !isPlacement(item)) return [];
  const { outline } = item.trim;
  return [
    {
      kind: 'paths-on-picture',
      place: { x: 0, y: 0, width: item.width, height: heightOf(item) },
      clip: outline ? outlinePolygon(outline) : UNIT_SQUARE,
      layers: marks.map((mark) => ({
        ...{ toPlace: markToFrame(mark, item), opacity: mark.opacity, paths: pathsOf(mark) },
      })),
    },
  ];
}

/** An item as painters draw it. @param marks - on it, where it is a picture, lowest first */
export function drawnOf(item: Item, marks: readonly PictureMark[] = []): Drawn {
  const primitives = PRIMITIVES[item.kind] as (item: Item) => readonly Primitive[];
  return {
    ...{ id: item.id, frame: ownFrame(item), width: item.width, height: heightOf(item) },
    ...{ opacity: item.opacity, primitives: [...primitives(item), ...marksOn(item, marks)] },
    ...(isMultiplied(item) && { isMultiplied: true as const }),
  };
}
