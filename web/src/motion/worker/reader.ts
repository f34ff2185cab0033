import type { FrameTimes } from '@miradero/core/motion';

/** Reads frames of something that moves, exactly those that are asked for. */
export interface FrameReader {
  readonly times: FrameTimes;
  /** Pixels, as it is shown. */
  readonly width: number;
  readonly height: number;
  /** @returns what can be drawn; whoever gets it closes it */
  read(frame: number): Promise<VideoFrame>;
  close(): void;
}

/** What is said where nothing of it can be shown. */
export class UnreadableError extends Error {}

/** So many frames of one thing at most: about an hour. */
export const MOST_FRAMES = 200_000;
