/** x, y, z. */
export type Spot = readonly [x: number, y: number, z: number];

/** Which way a model stands: files differ in which axis is up, and many say nothing of a front. */
export interface Stance {
  readonly up: 'y' | 'z';
  /** Azimuth of its front, as the file has it, degrees. */
  readonly frontDeg: number;
}

/** A box along the axes: least and greatest x, y, z. */
export interface ModelBox {
  readonly min: Spot;
  readonly max: Spot;
}

const DIRECTIONS = 90;
const GOLDEN = Math.PI * (3 - Math.sqrt(5));

/** Directions all around, evenly; those along the axes are the first six. */
const OUTWARD: readonly Spot[] = [
  ...([[1, 0, 0] as const, [-1, 0, 0] as const, [0, 1, 0] as const] as const),
  ...([[0, -1, 0] as const, [0, 0, 1] as const, [0, 0, -1] as const] as const),
  ...Array.from({ length: DIRECTIONS }, (_, index): Spot => {
    const y = 1 - (2 * (index + 0.5)) / DIRECTIONS;
    const flat = Math.sqrt(1 - y * y);
    return [flat * Math.cos(index * GOLDEN), y, flat * Math.sin(index * GOLDEN)];
  }),
];

/** Finds the outermost points of a model: those that decide how much of a picture it takes, from wherever it is seen. */
export class Outermost {
  readonly #furthest = new Float64Array(OUTWARD.length).fill(Number.NEGATIVE_INFINITY);
  readonly #points: Spot[] = [];

  add(x: number, y: number, z: number): void {
    for (let at = 0; at < OUTWARD.length; at += 1) {
      const [u, v, w] = OUTWARD[at]!;
      const along = x * u + y * v + z * w;
      if (!(along > this.#furthest[at]!)) continue;
      this.#furthest[at] = along;
      this.#points[at] = [x, y, z];
    }
  }

  /** None twice; none at all where no point was added whose figures are numbers. */
  get points(): Spot[] {
    const known = new Map(this.#points.map((point) => [point.join(), point]));
    return [...known.values()];
  }
}

/** Points as they lie once the model stands as it is said. */
export function standingPoints(points: readonly Spot[], { up, frontDeg }: Stance): Spot[] {
  const turn = (frontDeg * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return points.map(([px, py, pz]) => {
    const [x, y, z] = up === 'z' ? [px, pz, -py] : [px, py, pz];
    return [x * cos - z * sin, y, x * sin + z * cos];
  });
}

/** The box that holds some points. @throws RangeError for none */
export function boxAround(points: readonly Spot[]): ModelBox {
  if (points.length === 0) throw new RangeError('no points: no box');
  const along = (pick: (...values: number[]) => number) =>
    [0, 1, 2].map((axis) => pick(...points.map((point) => point[axis]!))) as unknown as Spot;
  return { min: along(Math.min), max: along(Math.max) };
}

export const middleOf = ({ min, max }: ModelBox): Spot => [
  (min[0] + max[0]) / 2,
  (min[1] + max[1]) / 2,
  (min[2] + max[2]) / 2,
];

/** Half the diagonal of a box. */
export const radiusOf = ({ min, max }: ModelBox): number =>
  Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) / 2;
