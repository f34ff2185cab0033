import type { Point, Rectangle } from '@miradero/core/geometry';
import type { Gesture } from '../sync/index.ts';

/** What the hand is about to do with the board. */
export type Mode =
  | { readonly kind: 'rest' }
  | { readonly kind: 'trim'; readonly id: string }
  /** `id` is undefined for a note that has no letter yet. */
  | {
      readonly kind: 'write';
      readonly id: string | undefined;
      readonly centre: Point;
      readonly width: number;
      /** One undo takes back all that is written in one stay. */
      readonly gesture: Gesture;
    };

/** A picture on its way in: its shape and name stand already. */
export interface Arrival {
  readonly key: string;
  readonly name: string;
  readonly place: Rectangle;
}

/** A short message about what just happened; `detail` lines below it. */
export interface Notice {
  readonly text: string;
  readonly detail: readonly string[];
}
