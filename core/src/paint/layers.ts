import type { Rectangle } from '../geometry/index.ts';
import { type BlendMode, blendTile } from './blending.ts';
import type { Rgb8 } from './study.ts';
import { emptyTile, isOpaque, type TilePixels, Tiles, WHOLE_TILE } from './tiles.ts';

/** What a layer is for; lowest first, as they are laid out at first. */
export const LAYER_KINDS = ['ground', 'sketch', 'colour', 'shadow', 'light', 'ink'] as const;
export type LayerKind = (typeof LAYER_KINDS)[number];

/** Shadow darkens what it lies over, light brightens it; the others cover it. */
const BLENDS: Readonly<Record<LayerKind, BlendMode>> = {
  ground: 'normal',
  sketch: 'normal',
  colour: 'normal',
  shadow: 'multiply',
  light: 'overlay',
  ink: 'normal',
};
export const blendOf = (kind: LayerKind): BlendMode => BLENDS[kind];

export interface LayerFacts {
  readonly id: string;
  readonly kind: LayerKind;
  readonly name: string;
  /** 0..1 */
  readonly opacity: number;
  readonly isHidden: boolean;
  /** Nothing is painted on it. */
  readonly isLocked: boolean;
  /** Paint keeps to what is painted on it already. */
  readonly keepsToPainted: boolean;
  /** Of a ground: its colour, which is wherever nothing is painted; null or none: one sees through it. */
  readonly colour?: Rgb8 | null;
}

export interface Layer extends LayerFacts {
  readonly tiles: Tiles;
}

/** What is said of a layer at first: a ground is locked. */
export const layerFacts = (id: string, kind: LayerKind, name: string = kind): LayerFacts => ({
  ...{ id, kind, name, opacity: 1, isHidden: false, isLocked: kind === 'ground', keepsToPainted: false },
});

/** The layers of a new sheet, lowest first. @param colour - of its ground; null: one sees through it */
export const newLayers = (colour: Rgb8 | null): LayerFacts[] =>
  LAYER_KINDS.map((kind) =>
    kind === 'ground' ? { ...layerFacts(kind, kind), colour } : layerFacts(kind, kind),
  );

/** The colour on which everything lies. */
export function groundOf(layers: readonly LayerFacts[]): Rgb8 | null {
  const ground = layers.find(({ kind }) => kind === 'ground');
  return ground && !ground.isHidden ? (ground.colour ?? null) : null;
}

export const createLayer = (id: string, kind: LayerKind, name: string = kind): Layer => ({
  ...layerFacts(id, kind, name),
  tiles: new Tiles(),
});

/** A tile of one colour. @param ground - sRGB 0..255; null: nothing */
export function tileOf(ground: Rgb8 | null): TilePixels {
  const pixels = emptyTile();
  if (!ground) return pixels;
  const [red, green, blue] = ground;
  const one = new Uint8Array([red, green, blue, 255]);
  new Uint32Array(pixels.buffer).fill(new Uint32Array(one.buffer)[0]!);
  return pixels;
}

/**
 * Lays layers over what is there of one tile.
 *
 * @param onto - altered within `part`
 * @param layers - lowest first
 * @param part - of the tile, in its own whole pixels; by default all
 */
export function layOver(
  onto: TilePixels,
  layers: readonly Layer[],
  key: number,
  part: Rectangle = WHOLE_TILE,
): void {
  // What lies below something that is there wholly is not seen.
  const first = layers.findLastIndex(({ tiles, kind, opacity, isHidden }) => {
    const pixels = isHidden || opacity < 1 || blendOf(kind) !== 'normal' ? undefined : tiles.get(key);
    return pixels !== undefined && isOpaque(pixels);
  });
  for (const { tiles, kind, opacity, isHidden } of layers.slice(Math.max(0, first))) {
    const pixels = isHidden ? undefined : tiles.get(key);
    if (pixels) blendTile(onto, pixels, blendOf(kind), opacity, part);
  }
}

/**
 * One tile of a sheet as it is seen, on its ground.
 *
 * @param layers - lowest first
 * @param ground - sRGB 0..255; null: on nothing
 */
export function composeTile(layers: readonly Layer[], key: number, ground: Rgb8 | null): TilePixels {
  const onto = tileOf(ground);
  layOver(onto, layers, key);
  return onto;
}

/** Whether two neighbours may become one that is seen as both are: what darkens or brightens does so to all that lies below it. */
export const canMerge = (upper: LayerFacts, lower: LayerFacts): boolean =>
  blendOf(upper.kind) === 'normal' && blendOf(lower.kind) === 'normal';

/**
 * Merges a layer into the one below it, which is seen at full opacity afterwards.
 *
 * @returns the tiles of the lower one that alter
 * @throws RangeError where they may not be merged
 */
export function mergedDown(upper: Layer, lower: Layer): Map<number, TilePixels> {
  if (!canMerge(upper, lower)) throw new RangeError(`${upper.kind} cannot be merged with ${lower.kind}`);
  const merged = new Map<number, TilePixels>();
  const isSeen = !upper.isHidden;
  const keys = new Set([...(isSeen ? upper.tiles.keys : []), ...(lower.opacity < 1 ? lower.tiles.keys : [])]);
  for (const key of keys) {
    const onto = emptyTile();
    const below = lower.tiles.get(key);
    const above = isSeen ? upper.tiles.get(key) : undefined;
    if (below) blendTile(onto, below, 'normal', lower.opacity);
    if (above) blendTile(onto, above, 'normal', upper.opacity);
    merged.set(key, onto);
  }
  return merged;
}
