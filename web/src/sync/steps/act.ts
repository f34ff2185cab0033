import { type Facts, joinDone } from '@miradero/core/board';
import type { Before, Done } from '@miradero/core/schema';

/**
 * Token of what belongs together: every act recorded with the same one is taken back by one undo, whatever was done between.
 * Made where a gesture begins (a drop, a stay of writing), and handed on by what goes on with it.
 */
export type Gesture = string;
export const newGesture = (): Gesture => crypto.randomUUID();

/** One thing that a gesture did, with all that is needed to take it back, whatever is open by then. */
export type Act =
  | {
      readonly kind: 'change';
      readonly board: string;
      readonly done: Done;
      /** Ids of later changes that it is joined from. */
      readonly others?: readonly string[];
    }
  /** Facts of one thing, by the path to which they are sent; `awaits`: a picture that must have arrived there first. */
  | {
      readonly kind: 'facts';
      readonly path: string;
      readonly before: Facts;
      readonly after: Facts;
      readonly awaits?: string;
      /** What else the path must be told to know whose facts they are. */
      readonly key?: Facts;
    }
  /** The same of many pictures at once. */
  | { readonly kind: 'bulk'; readonly before: readonly Before[]; readonly after: readonly Before[] }
  /** Whether anything more is said of two near copies. */
  | {
      readonly kind: 'copies';
      readonly picture: string;
      readonly other: string;
      readonly isSettled: boolean;
    };

/** One gesture: what one undo takes back. */
export interface Step {
  readonly gesture: Gesture;
  /** Oldest first. */
  readonly acts: readonly Act[];
  /** What was done, in words; without them they are found in the acts. */
  readonly words?: string;
  /** Page of the application on which it is seen. */
  readonly at: string;
}

/** Two acts of one gesture, one right after the other, as one; undefined where they stay two. */
export function joinActs(first: Act | undefined, next: Act): Act | undefined {
  if (first?.kind !== 'change' || next.kind !== 'change' || first.board !== next.board) return undefined;
  const done = joinDone(first.done, next.done);
  const others = [...(first.others ?? []), next.done.change.id, ...(next.others ?? [])];
  return done && { ...first, done, others };
}

/** What is left of an act when a change is not made; undefined when that is all of it. */
export function withoutChange(act: Act, change: string): Act | undefined {
  if (act.kind !== 'change') return act;
  const { done, others = [] } = act;
  const left = [done.change.id, ...others].filter((id) => id !== change);
  if (left.length > others.length) return act;
  const [first, ...rest] = left;
  return first === undefined
    ? undefined
    : { ...act, done: { ...done, change: { ...done.change, id: first } }, others: rest };
}

export const boardAt = (board: string): string => `/boards/${board}`;
