import type { StudyAsked, StudyRead } from '../pixels/index.ts';
import type { Readable } from '../state/index.ts';

/** What is shown of a value study. */
export interface StudyShown {
  readonly wish: StudyAsked;
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
