import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type FrameTimes,
  frameAfter,
  frameAt,
  framesAhead,
  type Playing,
  runTo,
  timecodeOf,
  untilNextFrame,
  wholeOf,
} from './index.ts';

/** Frames of any length. */
const times: fc.Arbitrary<FrameTimes> = fc
  .array(fc.integer({ min: 1_000, max: 200_000 }), { minLength: 1, maxLength: 12 })
  .map((lengths) => {
    let durationUs = 0;
    const startsUs = lengths.map((length) => {
      durationUs += length;
      return durationUs - length;
    });
    return { startsUs, durationUs };
  });
const played: fc.Arbitrary<{ of: FrameTimes; playing: Playing }> = fc
  .tuple(times, fc.nat(), fc.nat(), fc.boolean())
  .map(([of, one, other, isToAndFro]) => {
    const count = of.startsUs.length;
    const [from, to] = [one % count, other % count].sort((a, b) => a - b) as [number, number];
    return { of, playing: { speed: 1, isToAndFro, from, to } };
  });

/** The frames that are shown one after the other from a moment on. */
function shown(of: FrameTimes, playing: Playing, changes: number): number[] {
  let run = 0;
  return Array.from({ length: changes }, () => {
    const frame = frameAfter(of, playing, run);
    run += untilNextFrame(of, playing, run);
    return frame;
  });
}

describe('what moves', () => {
  it('shows at each time the frame that began last', () => {
    fc.assert(
      fc.property(times, fc.integer({ min: -1_000, max: 3_000_000 }), (of, us) => {
        const frame = frameAt(of, us);
        expect(of.startsUs[frame]! <= us || frame === 0).toBe(true);
        const next = of.startsUs[frame + 1];
        expect(next === undefined || next > us).toBe(true);
      }),
    );
  });

  it('goes from frame to frame through what is repeated, and begins anew', () => {
    fc.assert(
      fc.property(played, ({ of, playing }) => {
        const there = Array.from({ length: playing.to - playing.from + 1 }, (_, at) => playing.from + at);
        const back = [...there].reverse();
        const round = playing.isToAndFro ? [...there, ...back] : there;
        const frames = shown(of, playing, 2 * round.length);
        // Where it turns a frame is shown on both ways.
        expect(frames.filter((frame, at) => frame !== frames[at - 1])).toEqual(
          [...round, ...round].filter((frame, at, all) => frame !== all[at - 1]),
        );
      }),
    );
  });

  it('is at a frame when it ran to it, until the next begins, and never anywhere else', () => {
    fc.assert(
      fc.property(played, fc.nat({ max: 11 }), fc.integer({ min: 0, max: 9_000_000 }), (one, at, run) => {
        const { of, playing } = one;
        const frame = Math.min(playing.to, Math.max(playing.from, at));
        expect(frameAfter(of, playing, runTo(of, playing, at))).toBe(frame);
        const now = frameAfter(of, playing, run);
        expect(now).toBeGreaterThanOrEqual(playing.from);
        expect(now).toBeLessThanOrEqual(playing.to);
        expect(frameAfter(of, playing, run + untilNextFrame(of, playing, run) - 1)).toBe(now);
      }),
    );
  });

  it('knows what it shows next', () => {
    const of = { startsUs: [0, 100, 200, 300], durationUs: 400 };
    expect(framesAhead(of, wholeOf(of), 250, 3)).toEqual([2, 3, 0]);
    expect(framesAhead(of, { ...wholeOf(of), isToAndFro: true }, 250, 4)).toEqual([2, 3, 1, 0]);
    expect(framesAhead(of, { ...wholeOf(of), from: 1, to: 2 }, 0, 8)).toEqual([1, 2]);
    const still = { startsUs: [0], durationUs: 0 };
    expect(framesAhead(still, wholeOf(still), 5, 3)).toEqual([0]);
  });

  it('writes its times to the millisecond', () => {
    expect(timecodeOf(0)).toBe('0:00.000');
    expect(timecodeOf(3_480_999)).toBe('0:03.480');
    expect(timecodeOf(3_723_004_000)).toBe('1:02:03.004');
    expect(timecodeOf(-5)).toBe('0:00.000');
  });
});
