import type { Point } from '@miradero/core/geometry';
import type { FormRead, StrokesAsked, StrokesRead, StudyAsked, StudyRead } from '../pixels/index.ts';
import type { Readable } from '../state/index.ts';

/** What is shown of a value study. */
export interface StudyShown {
  readonly wish: StudyAsked;
  /** What of the picture is studied, fractions of it; undefined: all that is shown of it. */
  readonly outline: readonly Point[] | undefined;
  /** undefined until the first comes. */
  readonly read: StudyRead | undefined;
  /** All pixels were counted. */
  readonly isExact: boolean;
  readonly trouble: string | undefined;
}

/** What studies a picture, as its card knows it. */
export interface Studying {
  readonly store: Readable<StudyShown>;
  set(part: Partial<StudyAsked>): void;
  toBoard(): Promise<void>;
  saveSvg(): Promise<void>;
}

/** What is shown of an outline in strokes. */
export interface OutlineShown {
  readonly wish: StrokesAsked;
  readonly read: StrokesRead | undefined;
  readonly isExact: boolean;
  readonly trouble: string | undefined;
}
/** What draws it, as its card knows it. */
export interface Outlining {
  readonly store: Readable<OutlineShown>;
  set(part: Partial<StrokesAsked>): void;
  toBoard(): Promise<void>;
  save(): void;
}

/** What is shown of a form. */
export interface FormShown {
  readonly read: FormRead | undefined;
  readonly isExact: boolean;
  readonly trouble: string | undefined;
}
/** What reads it, as its card knows it. */
export interface Forming {
  readonly store: Readable<FormShown>;
}

/** The values of one of two pictures. */
export interface ComparedValues {
  readonly name: string;
  /** Shares over 0..10, darkest first; undefined until it comes. */
  readonly distribution: Float32Array | undefined;
  readonly isExact: boolean;
  readonly trouble: string | undefined;
}
export interface Comparing {
  readonly store: Readable<{ readonly pictures: readonly [ComparedValues, ComparedValues] }>;
}
