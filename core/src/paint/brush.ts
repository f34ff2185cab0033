/** How a brush paints. */
export interface Brush {
  /** Diameter at full pressure, pixels of the sheet. */
  readonly sizePx: number;
  /** How much a whole stroke covers at most, 0..1. */
  readonly opacity: number;
  /** Share of its radius that covers fully, 0..1; beyond it covers less and less. */
  readonly hardness: number;
  /** How much of that covers along one diameter of the way, 0..1; 1: all of it, and nothing builds up. */
  readonly flow: number;
  readonly pressureTo: { readonly size: boolean; readonly opacity: boolean };
  /** A pen that leans makes it so much wider at most, ×; 1: it does not. */
  readonly leanWidens: number;
}

/** The brushes there are, by what they are like. Sizes are what they begin with. */
export const BRUSHES = {
  pencil: {
    ...{ sizePx: 6, opacity: 0.8, hardness: 0.75, flow: 1, leanWidens: 3 },
    pressureTo: { size: false, opacity: true },
  },
  round: {
    ...{ sizePx: 24, opacity: 1, hardness: 0.95, flow: 1, leanWidens: 1 },
    pressureTo: { size: true, opacity: false },
  },
  soft: {
    ...{ sizePx: 120, opacity: 0.8, hardness: 0, flow: 0.6, leanWidens: 1 },
    pressureTo: { size: false, opacity: true },
  },
  'hard eraser': {
    ...{ sizePx: 40, opacity: 1, hardness: 0.95, flow: 1, leanWidens: 1 },
    pressureTo: { size: true, opacity: false },
  },
  'soft eraser': {
    ...{ sizePx: 120, opacity: 0.9, hardness: 0, flow: 0.7, leanWidens: 1 },
    pressureTo: { size: false, opacity: true },
  },
} as const satisfies Record<string, Brush>;
export type BrushName = keyof typeof BRUSHES;

/** Dabs stand so far apart, of their diameter: nearer ones cannot be told from it. Soft ones that add up may stand further. */
const SPACING = { least: 0.08, soft: 0.16 } as const;
const LEAST_SPACING_PX = 0.35;
/** No dab is smaller, px: a finer one covers less instead. */
const LEAST_RADIUS_PX = 0.5;

/** Where a pen is, pixels of the sheet. */
export interface PenPoint {
  readonly x: number;
  readonly y: number;
  /** 0..1 */
  readonly pressure: number;
  /** From upright, degrees; 0 where it is not known. */
  readonly leanDeg?: number;
}

/** One print of a brush. */
export interface Dab {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  /** How much its middle covers, 0..1. */
  readonly strength: number;
  /** Whether dabs add up to more than the strongest of them. */
  readonly isBuilding: boolean;
}

/** How far a pen leans before it widens, and where it is widest, degrees from upright. */
const LEAN = { from: 25, to: 65 } as const;

const mix = (a: number, b: number, share: number): number => a + (b - a) * share;

/** A part of the way from one point to another. @param share - 0..1 */
export const between = (from: PenPoint, to: PenPoint, share: number): PenPoint => ({
  x: mix(from.x, to.x, share),
  y: mix(from.y, to.y, share),
  pressure: mix(from.pressure, to.pressure, share),
  leanDeg: mix(from.leanDeg ?? 0, to.leanDeg ?? 0, share),
});

function dabAt({ x, y, pressure, leanDeg = 0 }: PenPoint, brush: Brush): Dab {
  const lean = Math.min(1, Math.max(0, (leanDeg - LEAN.from) / (LEAN.to - LEAN.from)));
  const wide = mix(1, brush.leanWidens, lean);
  const asked = (brush.sizePx / 2) * wide * (brush.pressureTo.size ? pressure : 1);
  const radius = Math.max(LEAST_RADIUS_PX, asked);
  // What is finer than a pixel covers less of it; a lead laid flat gives as much to a wider way.
  const fine = Math.min(1, asked / LEAST_RADIUS_PX) ** 2;
  const strength = (brush.pressureTo.opacity ? pressure : 1) * fine * (1 / Math.sqrt(wide));
  if (brush.flow >= 1) return { x, y, radius, strength, isBuilding: false };
  // So much along one diameter, however near its dabs stand.
  const share = spacingOf(radius, brush) / (2 * radius);
  return { x, y, radius, strength: 1 - (1 - strength * brush.flow) ** share, isBuilding: true };
}

function spacingOf(radius: number, { flow, hardness }: Brush): number {
  const share = flow < 1 ? mix(SPACING.soft, SPACING.least, hardness) : SPACING.least;
  return Math.max(LEAST_SPACING_PX, 2 * radius * share);
}

/**
 * Sets dabs along the way of a pen, at distances that follow from their size alone: however many points a pen tells of the same
 * way, the dabs are the same.
 */
export class DabWalker {
  readonly #brush: Brush;
  #last: PenPoint | undefined;
  /** Way since the last dab, px. */
  #gone = 0;
  #nextPx = 0;

  constructor(brush: Brush) {
    this.#brush = brush;
  }

  /** @returns the dabs on the way to a point, the one where it begins among them */
  to(point: PenPoint): Dab[] {
    const from = this.#last;
    this.#last = point;
    if (!from) {
      const dab = dabAt(point, this.#brush);
      this.#nextPx = spacingOf(dab.radius, this.#brush);
      return [dab];
    }
    const length = Math.hypot(point.x - from.x, point.y - from.y);
    const dabs: Dab[] = [];
    let at = this.#nextPx - this.#gone;
    while (at <= length) {
      const dab = dabAt(between(from, point, at / length), this.#brush);
      dabs.push(dab);
      this.#nextPx = spacingOf(dab.radius, this.#brush);
      this.#gone = -at;
      at += this.#nextPx;
    }
    this.#gone += length;
    return dabs;
  }
}

/** How much of a pixel a dab covers that lies `away` from its middle, 0..1. */
export function coverageAt(away: number, radius: number, hardness: number): number {
  // An edge takes a pixel: with none it would be in steps.
  const inner = Math.min(radius * hardness, radius - 0.5);
  const outer = Math.max(radius, inner + 1);
  if (away <= inner) return 1;
  if (away >= outer) return 0;
  const share = (outer - away) / (outer - inner);
  return share * share * (3 - 2 * share);
}
