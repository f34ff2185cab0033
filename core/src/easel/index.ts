export { type CapturedPixels, type FoundSheet, findSheet } from './find-sheet.ts';
export {
  AGAIN_MS,
  type DrawingVersion,
  type FileSeen,
  type FollowStep,
  GONE_MS,
  MOST_FAILURES,
  SaveWatch,
  STILL_MS,
  VERSIONS_KEPT,
  versionsToDrop,
} from './following.ts';
export {
  fromMm,
  inMm,
  inPixels,
  LENGTH_UNITS,
  type LengthUnit,
  lengthWords,
  MM_PER_INCH,
} from './lengths.ts';
export { markedSheet, type Straightened, straightened } from './marked-sheet.ts';
export { placedByPoints } from './placing.ts';
export {
  faultOfNeed,
  faultOfSheet,
  inUnit,
  type PrintVerdict,
  practiceSheet,
  printVerdict,
  SCREEN_PPI,
  SHEET_SIZES_MM,
  type SheetSizeName,
  sheetLike,
} from './print.ts';
export {
  type Anchor,
  caughtByGuides,
  changePaper,
  type Guides,
  type PaperChange,
  type ResizeUnit,
  resizedSide,
  type ScaleChange,
  scalePicture,
  withAspect,
} from './resizing.ts';
export { lengthAt, type RulerLine, rulerLines } from './ruler.ts';
export {
  type PrintNeed,
  pixelsOfSheet,
  SHEET_LIMITS,
  type SheetPixels,
  type SheetSetup,
  type Size,
  setupOfPixels,
  USUAL_NEED,
} from './sheet.ts';
export { SheetTracker } from './track-sheet.ts';
export { mayBeWhole, TAIL_BYTES } from './whole-file.ts';
export { needWords, pixelsWords, resolutionWords, setupWords, sheetWords, verdictWords } from './words.ts';
