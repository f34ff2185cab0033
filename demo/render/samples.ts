/** Low-discrepancy steps of the two coordinates of a pair: Roberts, "The unreasonable effectiveness of quasirandom sequences", 2018. */
const STEP_A = 0.7548776662466927;
const STEP_B = 0.5698402909980532;
/** Pairs that one ray takes. */
const PAIRS = 8;

/** Random pairs, all that a ray needs, spread evenly over the rays of a pixel. */
export class Samples {
  readonly #shift = new Float64Array(PAIRS * 2);
  #state = 1;
  /** Which ray of the pixel it is. */
  ray = 0;

  /** Begins a pixel: its own shift of every random pair. */
  begin(seed: number): void {
    let state = (Math.imul(seed + 1, 0x9e3779b1) ^ 0x5bd1e995) >>> 0;
    for (let index = 0; index < this.#shift.length; index += 1) {
      state ^= state << 13;
      state ^= state >>> 17;
      state ^= state << 5;
      this.#shift[index] = (state >>> 0) / 4294967296;
    }
    this.#state = state | 1;
  }

  a(pair: number): number {
    const at = this.#shift[pair * 2]! + this.ray * STEP_A;
    return at - Math.floor(at);
  }

  b(pair: number): number {
    const at = this.#shift[pair * 2 + 1]! + this.ray * STEP_B;
    return at - Math.floor(at);
  }

  random(): number {
    this.#state ^= this.#state << 13;
    this.#state ^= this.#state >>> 17;
    this.#state ^= this.#state << 5;
    return (this.#state >>> 0) / 4294967296;
  }
}
