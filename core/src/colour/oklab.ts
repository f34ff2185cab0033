import { srgbToLinear } from './srgb.ts';

/** L 0..1, a and b about −0.4..0.4. */
export interface Oklab {
  readonly l: number;
  readonly a: number;
  readonly b: number;
}

/** Linear light of each 8-bit level: called for every pixel. */
const LINEAR = Float64Array.from({ length: 256 }, (_, level) => srgbToLinear(level / 255));

/** OKLab of an 8-bit sRGB colour. Source: B. Ottosson, "A perceptual color space for image processing", 2020 (matrices of 2021-01-25). */
export function srgb8ToOklab(r8: number, g8: number, b8: number): Oklab {
  const [r, g, b] = [LINEAR[r8]!, LINEAR[g8]!, LINEAR[b8]!];
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return {
    l: 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    a: 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    b: 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  };
}

/** `#rrggbb` of an OKLab colour, each channel cut off at what sRGB can show. Source: as above. */
export function oklabToHex({ l, a, b }: Oklab): string {
  const long = (l + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const medium = (l - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const short = (l - 0.0894841775 * a - 1.291485548 * b) ** 3;
  const linear = [
    4.0767416621 * long - 3.3077115913 * medium + 0.2309699292 * short,
    -1.2684380046 * long + 2.6097574011 * medium - 0.3413193965 * short,
    -0.0041960863 * long - 0.7034186147 * medium + 1.707614701 * short,
  ];
  const level = (value: number) => {
    const encoded = value <= 0.0031308 ? value * 12.92 : 1.055 * value ** (1 / 2.4) - 0.055;
    return Math.round(255 * Math.min(1, Math.max(0, encoded)));
  };
  return `#${linear.map((value) => level(value).toString(16).padStart(2, '0')).join('')}`;
}

/** @throws RangeError for what is no `#rrggbb` */
export function hexToOklab(hex: string): Oklab {
  if (!/^#[0-9a-f]{6}$/i.test(hex)) throw new RangeError(`A colour is written #rrggbb, got ${hex}`);
  const level = (at: number) => Number.parseInt(hex.slice(at, at + 2), 16);
  return srgb8ToOklab(level(1), level(3), level(5));
}

export const oklabDistance = (one: Oklab, two: Oklab): number =>
  Math.hypot(one.l - two.l, one.a - two.a, one.b - two.b);

/** Degrees 0..360, of the direction in which a colour leaves grey. */
export const oklabHueDeg = ({ a, b }: Pick<Oklab, 'a' | 'b'>): number =>
  ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
