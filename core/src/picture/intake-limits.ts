import { MODEL_LIMITS, MODEL_TYPES } from '../model/index.ts';

/** What intake accepts. The browser says so before it sends anything; the server decides. */
export const INTAKE_LIMITS = {
  /** One file; a 24-MP JPEG has about 12 MB, a 16-bit PNG of that size about 100 MB. */
  bytes: 128 * 1024 * 1024,
  /** Width × height: a blueprint of 12,000 × 8,000 passes, a decompression bomb does not. */
  pixels: 120_000_000,
  /** Frames of one file; every one costs when the file is opened. */
  frames: 5_000,
  /** A drawing in SVG; beyond this its parts are too many to draw. */
  svgBytes: 16 * 1024 * 1024,
  /** Milliseconds of one core that the filters of a drawing may take, by `filterWorkOfSvg`. */
  filterWork: 20_000,
  /** Files of one request. */
  files: 100,
} as const;

export const INTAKE_TYPES = [
  'image/jpeg',
  'image/png',
  'image/webp',
  'image/avif',
  'image/tiff',
  'image/gif',
  'image/svg+xml',
  'image/heic',
  'image/openraster',
  'video/mp4',
  'video/webm',
  ...MODEL_TYPES,
] as const;
export type IntakeType = (typeof INTAKE_TYPES)[number];

/** What a stored file is: a still picture, one with several frames, a clip with time of its own, a model to turn. */
export const PICTURE_KINDS = ['still', 'animated', 'clip', 'model'] as const;
export type PictureKind = (typeof PICTURE_KINDS)[number];

/** Kinds of which only a browser makes the picture that stands for them. */
export const isPostered = (type: string): boolean => /^(?:video|model)\//.test(type);

/** A model has no size of its own; pixels of the view that stands for it. */
export const MODEL_VIEW = { width: 1200, height: 900 } as const;

export type RefusalCode =
  | 'empty'
  | 'too-many-bytes'
  | 'too-many-pixels'
  | 'too-many-frames'
  | 'unknown-kind'
  | 'needs-other-files'
  | 'packed'
  | 'no-form'
  | 'too-many-triangles'
  | 'too-much-work'
  | 'damaged'
  | 'too-many-files';

/** Why a file was not taken, in words for the person who brought it. */
export const REFUSALS: Readonly<Record<RefusalCode, string>> = {
  empty: 'The file is empty.',
  'too-many-bytes': `The file is larger than ${INTAKE_LIMITS.bytes / 1024 / 1024} MB.`,
  'too-many-pixels': `The picture has more than ${INTAKE_LIMITS.pixels / 1_000_000} million pixels.`,
  'too-many-frames': `The file holds more than ${INTAKE_LIMITS.frames.toLocaleString('en')} frames.`,
  'unknown-kind':
    'This is nothing that can be taken in: JPEG, PNG, WebP, AVIF, GIF, TIFF, SVG, HEIC, OpenRaster, MP4, WebM, GLB, STL or OBJ.',
  'needs-other-files': 'The model refers to other files; a GLB with everything in it can be taken in.',
  packed: 'The model is packed in a way that is not read here; saved without compression it can be taken in.',
  'no-form': 'There is no surface in the model: nothing of it could be seen.',
  'too-many-triangles': `The model has more than ${MODEL_LIMITS.triangles / 1_000_000} million triangles; make it coarser where it was made.`,
  'too-much-work': 'The filters of this drawing are more work than can be done for one picture.',
  damaged: 'The picture cannot be read: the file is damaged or incomplete.',
  'too-many-files': `More than ${INTAKE_LIMITS.files} files came at once.`,
};
