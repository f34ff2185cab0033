import type { FrameTimes } from '@miradero/core/motion';

/** What moves, as the worker that reads it is told of it. */
export interface MotionSource {
  /** Where its file is. */
  readonly address: string;
  readonly type: string;
  readonly kind: 'animated' | 'clip';
}

export type ToFrames =
  | { readonly kind: 'open'; readonly id: string; readonly source: MotionSource }
  /** Read these next, in this order, in place of those that were asked for before. @property side - longest, pixels */
  | { readonly kind: 'read'; readonly id: string; readonly frames: readonly number[]; readonly side: number }
  /** A frame as a PNG, all its pixels; answered under the number of the question. */
  | { readonly kind: 'still'; readonly id: string; readonly frame: number; readonly ask: number }
  /** How much each frame differs from the one before it. */
  | { readonly kind: 'survey'; readonly id: string; readonly ask: number }
  /** What was asked under that number is wanted no more. */
  | { readonly kind: 'stop'; readonly id: string; readonly ask: number }
  | { readonly kind: 'close'; readonly id: string };

export type FromFrames =
  | {
      readonly kind: 'opened';
      readonly id: string;
      readonly times: FrameTimes;
      readonly width: number;
      readonly height: number;
    }
  | { readonly kind: 'failed'; readonly id: string; readonly why: string }
  | { readonly kind: 'still'; readonly id: string; readonly ask: number; readonly png: Blob }
  /** How many of all frames were looked at. */
  | { readonly kind: 'surveying'; readonly id: string; readonly ask: number; readonly done: number }
  | { readonly kind: 'surveyed'; readonly id: string; readonly ask: number; readonly differences: number[] }
  | { readonly kind: 'unanswered'; readonly id: string; readonly ask: number; readonly why: string }
  | {
      readonly kind: 'frame';
      readonly id: string;
      readonly frame: number;
      readonly side: number;
      readonly bitmap: ImageBitmap;
    };
