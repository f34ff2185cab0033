import { directionOf, type Point } from './camera.ts';
import { fbm, mix, smooth } from './noise.ts';

/** Linear light, red green blue; 1 is what a white card shows when the camera is set for it. */
export type Rgb = readonly [r: number, g: number, b: number];

export interface Lamp {
  readonly at: Point;
  readonly radiusM: number;
  readonly colour: Rgb;
}

export type LightKind =
  | 'soft'
  | 'side'
  | 'raking'
  | 'back'
  | 'dusk'
  | 'dawn'
  | 'noon'
  | 'overcast'
  | 'fog'
  | 'night';

/**
 * What lights a picture: a key light from `azimuthDeg`, `elevationDeg` (as seen from the subject, the camera's frame of `Pose`)
 * that fills `radiusDeg` of the sky, and a dome from `low` at the horizon to `high` overhead.
 */
export interface Light {
  readonly kind: LightKind;
  readonly azimuthDeg: number;
  readonly elevationDeg: number;
  readonly radiusDeg: number;
  readonly colour: Rgb;
  readonly low: Rgb;
  readonly high: Rgb;
  /** Extinction per metre at the ground, thinning out over `fogHeightM`. */
  readonly fog?: number;
  readonly fogHeightM?: number;
  /** Share of the sky under cloud, 0..1. */
  readonly cloud?: number;
  readonly lamps?: readonly Lamp[];
  readonly exposure?: number;
}

/** The sky of a light, read by direction. */
export class Sky {
  readonly sun: Point;
  readonly #cosDisc: number;
  r = 0;
  g = 0;
  b = 0;

  readonly light: Light;

  constructor(light: Light) {
    this.light = light;
    this.sun = directionOf(light.azimuthDeg, light.elevationDeg);
    // Haze widens the light that falls on things, not the disc one sees.
    this.#cosDisc = Math.cos((Math.min(Math.max(light.radiusDeg, 0.27), 0.5) * Math.PI) / 180);
  }

  /** Light from a direction without clouds or the key itself: what a surface gathers. */
  soft(dx: number, dy: number, dz: number): void {
    const { low, high, colour } = this.light;
    const height = dy > 0 ? 1 - Math.exp(-2.6 * dy) : 0;
    const ground = dy < 0 ? mix(1, 0.45, Math.min(1, -dy * 3)) : 1;
    const towards = Math.max(0, dx * this.sun[0] + dy * this.sun[1] + dz * this.sun[2]);
    const glow = this.light.radiusDeg > 5 ? 0 : 0.16 * towards ** 6;
    this.r = mix(low[0], high[0], height) * ground + colour[0] * glow;
    this.g = mix(low[1], high[1], height) * ground + colour[1] * glow;
    this.b = mix(low[2], high[2], height) * ground + colour[2] * glow;
  }

  /** Light from a direction as a camera sees it: clouds, glow and disc. */
  seen(dx: number, dy: number, dz: number): void {
    this.soft(dx, dy, dz);
    const { colour, cloud = 0, radiusDeg } = this.light;
    if (radiusDeg > 5) {
      if (cloud > 0 && dy > 0.004)
        this.#veil(dx / (dy + 0.12), dz / (dy + 0.12), smooth(0.004, 0.15, dy) * cloud);
      return;
    }
    const towards = Math.max(0, dx * this.sun[0] + dy * this.sun[1] + dz * this.sun[2]);
    const halo = 0.3 * towards ** 70;
    let disc = smooth(this.#cosDisc - 0.00005, this.#cosDisc + 0.00002, towards) * 6;
    if (cloud > 0 && dy > 0.004) {
      const reach = 1 / (dy + 0.09);
      const x = dx * reach;
      const z = dz * reach;
      const wisps = fbm(x * 0.62 + 3.1, 0.4, z * 1.15, 6);
      const bank = fbm(x * 0.21 - 4, 7.7, z * 0.34 + 2, 4);
      const cover = smooth(0.78 - cloud * 0.55, 1.02 - cloud * 0.5, wisps * 0.62 + bank * 0.52);
      const lit = fbm((x + this.sun[0] * 0.22) * 0.62 + 3.1, 0.4, (z + this.sun[2] * 0.22) * 1.15, 5);
      const bright = smooth(-0.12, 0.16, wisps - lit) * 0.5 + 0.24 + 0.9 * towards ** 9;
      const share = cover * smooth(0.004, 0.12, dy) * 0.92;
      this.r = mix(this.r, this.light.low[0] * 0.74 + colour[0] * bright * 0.42, share);
      this.g = mix(this.g, this.light.low[1] * 0.74 + colour[1] * bright * 0.4, share);
      this.b = mix(this.b, this.light.low[2] * 0.78 + colour[2] * bright * 0.38, share);
      disc *= 1 - share;
    }
    this.r += colour[0] * (halo + disc);
    this.g += colour[1] * (halo + disc);
    this.b += colour[2] * (halo + disc);
  }

  /** A closed cover of cloud, thicker in some places. */
  #veil(x: number, z: number, share: number): void {
    const thick = fbm(x * 0.5 + 2, 1.3, z * 0.9, 5) - 0.5;
    const factor = 1 - share * (0.75 * thick + 0.06);
    this.r *= factor;
    this.g *= factor;
    this.b *= factor;
  }

  /** What the air itself sends from a direction. */
  air(dx: number, dy: number, dz: number): void {
    this.soft(dx, Math.max(dy * 0.3, 0), dz);
    const towards = Math.max(0, dx * this.sun[0] + dy * this.sun[1] + dz * this.sun[2]);
    const glow = this.light.radiusDeg > 5 ? 0 : 0.12 * towards ** 5 + 0.22 * towards ** 36;
    this.r += this.light.colour[0] * glow;
    this.g += this.light.colour[1] * glow;
    this.b += this.light.colour[2] * glow;
  }

  /** Share of light that comes through `t` metres of air from height `oy` along `dy`. */
  through(oy: number, dy: number, t: number): number {
    const { fog = 0, fogHeightM = 12 } = this.light;
    if (fog === 0) return 1;
    const start = fog * Math.exp(-Math.max(oy, 0) / fogHeightM);
    const slope = dy / fogHeightM;
    const depth = Math.abs(slope * t) < 1e-4 ? t : (1 - Math.exp(-slope * t)) / slope;
    return Math.exp(-start * depth);
  }
}
