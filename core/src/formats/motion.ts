/**
 * What the head of a moving file says: number of frames (1 where it does not say), duration in ms (null where it does
 * not say), and sides in pixels as shown, where the format gives them.
 */
export interface Motion {
  readonly frames: number;
  readonly durationMs: number | null;
  readonly width?: number;
  readonly height?: number;
}
