import type { LightMark } from '@miradero/core/items';
import type { LightColours, LightDirection, LightPart } from '@miradero/core/light';
import type { Desk } from '../desk/index.ts';
import type { Readable } from '../state/index.ts';

/** Light and shadow of a form, as far as they are known. */
export interface LightKnown {
  readonly colours: LightColours;
  readonly direction: LightDirection;
  /** How much of the form that direction explains, where it was estimated. */
  readonly fit: number | null;
  readonly marks: readonly LightMark[];
}

/** What is shown while they are marked. */
export interface LightShown extends LightKnown {
  /** What is pressed next becomes this. */
  readonly next: LightPart;
  /** One sentence about what was found. */
  readonly words: string | undefined;
  readonly isReading: boolean;
}

/** What marks light and shadow, as its card knows it. */
export interface Marking {
  readonly store: Readable<LightShown>;
  choose(part: LightPart): void;
  clear(part: LightPart): void;
  turn(direction: LightDirection): void;
  /** A lit ball comes onto the board, or the one that is altered is as it was marked. */
  confirm(desk: Desk): void;
}
