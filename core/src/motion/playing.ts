/** When the frames of something that moves begin, in the order in which they are shown; µs from the first. */
export interface FrameTimes {
  /** Rising; at least one. */
  readonly startsUs: readonly number[];
  /** Of all of them. */
  readonly durationUs: number;
}

/** How something moves. */
export interface Playing {
  /** Of its own speed. */
  readonly speed: number;
  /** It goes back from the end instead of beginning anew. */
  readonly isToAndFro: boolean;
  /** The first and the last frame of what is repeated. */
  readonly from: number;
  readonly to: number;
}

/** Speeds that are offered. */
export const SPEEDS = [1 / 16, 1 / 8, 1 / 4, 1 / 2, 1, 2, 4] as const;

/** All of it, as it was made. */
export const wholeOf = ({ startsUs }: FrameTimes): Playing => ({
  ...{ speed: 1, isToAndFro: false },
  ...{ from: 0, to: startsUs.length - 1 },
});

/** When a frame ends, µs. */
export const endOfFrame = ({ startsUs, durationUs }: FrameTimes, frame: number): number =>
  startsUs[frame + 1] ?? Math.max(durationUs, startsUs[frame]! + 1);

/** The frame that is shown at a time, µs; the first before it, the last after it. */
export function frameAt({ startsUs }: FrameTimes, us: number): number {
  let [low, high] = [0, startsUs.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (startsUs[middle]! <= us) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** From where to where it is repeated, µs. */
function stretchOf(times: FrameTimes, { from, to }: Playing): readonly [begin: number, length: number] {
  const begin = times.startsUs[from]!;
  return [begin, endOfFrame(times, to) - begin];
}

/**
 * The frame that is shown after something ran for a while.
 *
 * @param runUs - of its own time, from the beginning of what is repeated
 */
export function frameAfter(times: FrameTimes, playing: Playing, runUs: number): number {
  const [begin, length] = stretchOf(times, playing);
  const period = playing.isToAndFro ? 2 * length : length;
  const run = ((runUs % period) + period) % period;
  // On its way back it shows each frame as long as on its way there.
  const at = run < length ? run : 2 * length - run - 1;
  return Math.min(playing.to, Math.max(playing.from, frameAt(times, begin + Math.max(0, at))));
}

/** How long it ran when a frame of what is repeated begins on its way there, µs of its own time. */
export function runTo(times: FrameTimes, playing: Playing, frame: number): number {
  const within = Math.min(playing.to, Math.max(playing.from, frame));
  return times.startsUs[within]! - times.startsUs[playing.from]!;
}

/** µs of its own time from a moment of its run to the next at which another frame is shown. */
export function untilNextFrame(times: FrameTimes, playing: Playing, runUs: number): number {
  const [begin, length] = stretchOf(times, playing);
  const period = playing.isToAndFro ? 2 * length : length;
  const run = ((runUs % period) + period) % period;
  const frame = frameAfter(times, playing, run);
  if (run < length) return Math.max(1, endOfFrame(times, frame) - begin - run);
  return Math.max(1, 2 * length - (times.startsUs[frame]! - begin) - run);
}

/** The frames that are shown next, in their order, each once. */
export function framesAhead(times: FrameTimes, playing: Playing, runUs: number, count: number): number[] {
  const frames = new Set<number>();
  let run = runUs;
  // What stands still for long, and what has few frames, has no more than these.
  for (let step = 0; step < 2 * count && frames.size < count; step += 1) {
    frames.add(frameAfter(times, playing, run));
    run += untilNextFrame(times, playing, run);
  }
  return [...frames];
}
