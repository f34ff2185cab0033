import { between, type PenPoint } from './brush.ts';

/** At the end of its slider the brush keeps so much of its distance from the pen at each pixel of the way. */
const MOST_LAG = 0.97;
/** The pen's way is followed in steps of so much, px. */
const STEP_PX = 1;

/**
 * Takes the trembling out of a hand: the brush follows the pen as if on a string. It does so by the pen's way, pixel by pixel,
 * so that neither how fast the pen is nor how often it tells where it is alters the line.
 */
export class Smoothing {
  readonly #keep: number;
  #pen: PenPoint | undefined;
  #brush: PenPoint | undefined;
  /** Way of the pen since the last step, px. */
  #gone = 0;

  /** @param amount - 0..1; 0: the line is the pen's own */
  constructor(amount: number) {
    this.#keep = Math.min(1, Math.max(0, amount)) * MOST_LAG;
  }

  /** @returns where the brush comes while the pen goes to a point */
  to(pen: PenPoint): PenPoint[] {
    const from = this.#pen;
    this.#pen = pen;
    if (!from || !this.#brush || this.#keep === 0) {
      this.#brush = pen;
      return [pen];
    }
    const length = Math.hypot(pen.x - from.x, pen.y - from.y);
    const way: PenPoint[] = [];
    let at = STEP_PX - this.#gone;
    for (; at <= length; at += STEP_PX) {
      this.#brush = between(this.#brush, between(from, pen, at / length), 1 - this.#keep);
      way.push(this.#brush);
    }
    this.#gone = length - (at - STEP_PX);
    return way;
  }

  /** The pen is lifted: the line ends where it is. */
  end(): PenPoint[] {
    return this.#pen && this.#keep > 0 ? [this.#pen] : [];
  }
}
