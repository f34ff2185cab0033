export { createMark, createPictureMark, type StrokeStart, strokeFrom } from './create.ts';
export { isMark, type Mark, markKind, markSchema } from './mark.ts';
export { pathsOf } from './paths.ts';
export {
  isPictureMark,
  markInMirror,
  markToFrame,
  PICTURE_PARTS,
  type PictureMark,
  partsToBoard,
  pictureMarkKind,
  pictureMarkSchema,
} from './picture-mark.ts';
export * from './rubbing.ts';
export { MARK_PARTS, MOST_STROKE_POINTS, partOf, SEEDS } from './stroke.ts';
