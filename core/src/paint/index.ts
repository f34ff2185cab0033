export { coveredShare, filledMask, lassoMask, paintArea } from './areas.ts';
export { BareGround } from './bare.ts';
export { BLEND_MODES, type BlendMode, blendedChannel, blendTile } from './blending.ts';
export { BRUSHES, type Brush, type BrushName, type Dab, DabWalker, type PenPoint } from './brush.ts';
export { type OneColour, oneColourOf, tileOfOneColour } from './coverage.ts';
export { type Filled, type FillWish, fillFrom, type SeenPixels } from './fill.ts';
export {
  type KeptChange,
  type KeptSheet,
  type KeptStep,
  type ReadJournal,
  readJournal,
  stateRecord,
  tileRecord,
  tilesOfState,
} from './journal.ts';
export {
  blendOf,
  canMerge,
  composeTile,
  createLayer,
  groundOf,
  LAYER_KINDS,
  type Layer,
  type LayerFacts,
  type LayerKind,
  layerFacts,
  layOver,
  mergedDown,
  newLayers,
  tileOf,
} from './layers.ts';
export { COVERED, Mask, type MaskTile } from './mask.ts';
export { Moving } from './moving.ts';
export { type Paint, paintTile } from './paint-tile.ts';
export { PushPull } from './push-pull.ts';
export { Pushing } from './pushing.ts';
export { PaintedSheet } from './sheet.ts';
export { Smoothing } from './smoothing.ts';
export { Smudge } from './smudge.ts';
export { PaintStroke } from './stroke.ts';
export { GROUND_TONES, type GroundTone, groundFor, type Rgb8, studyFrame, underpainted } from './study.ts';
export {
  emptyTile,
  isEmptyTile,
  release,
  TILE_BYTES,
  TILE_PX,
  type TilePixels,
  type TilePlace,
  Tiles,
  tileArea,
  tileKey,
  tilePlace,
  tilesIn,
  WHOLE_TILE,
  wholePixels,
} from './tiles.ts';
export { type AlteredParts, joinParts, wholeTiles } from './touched.ts';
export { type Painted, PaintHistory, type PaintStep, type TileChange } from './undo.ts';
