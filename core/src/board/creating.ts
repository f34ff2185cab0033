import type { Point } from '../geometry/index.ts';
import type { Note, Placement } from '../schema/index.ts';
import { WHOLE } from './trimming.ts';

const UPRIGHT = { removed: false, turn: 0, opacity: 1 } as const;

type PlacementStart = Pick<Placement, 'id' | 'stack' | 'picture' | 'pictureWidth' | 'pictureHeight'> & {
  readonly centre: Point;
  readonly width: number;
} & Partial<Placement>;

/** A picture as it comes onto a board: upright, whole, opaque; `width` in board units. */
export const createPlacement = (start: PlacementStart): Placement => ({
  kind: 'placement',
  ...UPRIGHT,
  flipX: false,
  flipY: false,
  trim: WHOLE,
  ...start,
});

type NoteStart = Pick<Note, 'id' | 'stack' | 'width' | 'height' | 'text'> & {
  readonly centre: Point;
} & Partial<Note>;

export const createNote = (start: NoteStart): Note => ({ kind: 'note', ...UPRIGHT, ...start });
