/** A frame made small: red, green and blue of each pixel, 0..1, row by row. All of one clip have the same length. */
export type SmallFrame = Float32Array;

/** Frames are compared at this size, pixels. */
export const SMALL = { width: 32, height: 18 } as const;

/** Mean difference of a frame from the one before it, 0..1; 0 for the first. */
export function differenceOf(before: SmallFrame | undefined, frame: SmallFrame): number {
  if (!before) return 0;
  let sum = 0;
  for (let at = 0; at < frame.length; at += 1) sum += Math.abs(frame[at]! - before[at]!);
  return sum / frame.length;
}

export const differencesOf = (frames: readonly SmallFrame[]): number[] =>
  frames.map((frame, index) => differenceOf(frames[index - 1], frame));

/** A cut differs at least so much, and so many times more than what is usual around it. */
const CUT = { least: 0.03, times: 3.5, around: 8 } as const;

const medianOf = (values: readonly number[]): number =>
  [...values].sort((one, other) => one - other)[Math.floor(values.length / 2)] ?? 0;

/** @returns the frames with which another scene begins, rising; never the first */
export function cutsIn(differences: readonly number[]): number[] {
  return differences.flatMap((difference, index) => {
    if (index === 0 || difference < CUT.least) return [];
    const around = differences
      .slice(Math.max(1, index - CUT.around), index + CUT.around + 1)
      .filter((_, at) => at !== Math.min(CUT.around, index - 1));
    // Of a flash, and of a frame that is torn, the stronger of two that follow each other.
    const isPeak = difference >= (differences[index - 1] ?? 0) && difference >= (differences[index + 1] ?? 0);
    return isPeak && difference >= CUT.times * medianOf(around) ? [index] : [];
  });
}

/** A pose is held where what moves slows down to so much of its speed before and after. */
const HELD = 0.5;
/** What moves less than this does not move. */
const STILL = 0.0008;

/**
 * Key poses: frames at which what moves stands, or turns, between two movements.
 *
 * @param cuts - where scenes begin; a pose is one within its scene
 */
export function posesIn(differences: readonly number[], cuts: readonly number[]): number[] {
  const bounds = [0, ...cuts, differences.length];
  return bounds.slice(1).flatMap((end, scene) => {
    const from = bounds[scene]!;
    const poses: number[] = [];
    // The first difference of a scene is its cut.
    let [peak, low, lowAt] = [0, Number.POSITIVE_INFINITY, -1];
    for (let frame = from + 1; frame < end; frame += 1) {
      const speed = differences[frame]!;
      if (lowAt >= 0 && speed > STILL && speed > low / HELD) {
        poses.push(lowAt);
        [peak, low, lowAt] = [speed, Number.POSITIVE_INFINITY, -1];
      }
      peak = Math.max(peak, speed);
      if (peak > STILL && speed <= HELD * peak && speed < low) [low, lowAt] = [speed, frame];
    }
    return poses;
  });
}
