import { linearToSrgb, srgbToLinear } from './srgb.ts';

/** Encoded sRGB, each 0..1; below or above it for a colour that sRGB cannot show. */
export interface Rgb {
  readonly r: number;
  readonly g: number;
  readonly b: number;
}
/** CIE 1931 tristimulus values relative to a white of Y = 1, D65. */
export interface Xyz {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}
/** CIELAB, D65: L* 0..100, a* and b* about −128..128. */
export interface Lab {
  readonly l: number;
  readonly a: number;
  readonly b: number;
}
/** L 0..1, a and b about −0.4..0.4. */
export interface Oklab {
  readonly l: number;
  readonly a: number;
  readonly b: number;
}
/** Lightness in its space, chroma in its space, hue in degrees 0..360 (0 where there is no chroma). */
export interface Lch {
  readonly l: number;
  readonly c: number;
  readonly h: number;
}
/** Hue in degrees 0..360, saturation 0..1, lightness 0..1. */
export interface Hsl {
  readonly h: number;
  readonly s: number;
  readonly l: number;
}
/** Hue in degrees 0..360, saturation 0..1, value (the largest channel) 0..1. */
export interface Hsv {
  readonly h: number;
  readonly s: number;
  readonly v: number;
}

/** White of D65 by its chromaticity in IEC 61966-2-1: x 0.3127, y 0.3290. */
const WHITE: Xyz = { x: 0.3127 / 0.329, y: 1, z: (1 - 0.3127 - 0.329) / 0.329 };

/** Odd: what lies below black is as far from it as what lies above. */
const odd =
  (f: (x: number) => number) =>
  (x: number): number =>
    x < 0 ? -f(-x) : f(x);
const toLinear = odd(srgbToLinear);
const toEncoded = odd(linearToSrgb);

/** Linear light of encoded sRGB, channel by channel. */
export const linearOf = ({ r, g, b }: Rgb): Rgb => ({ r: toLinear(r), g: toLinear(g), b: toLinear(b) });
/** Encoded sRGB of linear light. */
export const encodedOf = ({ r, g, b }: Rgb): Rgb => ({ r: toEncoded(r), g: toEncoded(g), b: toEncoded(b) });

export const rgbOf8 = (r8: number, g8: number, b8: number): Rgb => ({
  r: r8 / 255,
  g: g8 / 255,
  b: b8 / 255,
});

/** @throws RangeError for what is no `#rrggbb` */
export function rgbOfHex(hex: string): Rgb {
  if (!/^#[0-9a-f]{6}$/i.test(hex)) throw new RangeError(`A colour is written #rrggbb, got ${hex}`);
  const level = (at: number) => Number.parseInt(hex.slice(at, at + 2), 16);
  return rgbOf8(level(1), level(3), level(5));
}

const clamp01 = (x: number): number => Math.min(1, Math.max(0, x));

/** `#rrggbb`, each channel cut off at what sRGB can show. */
export const hexOfRgb = ({ r, g, b }: Rgb): string =>
  `#${[r, g, b]
    .map((x) =>
      Math.round(255 * clamp01(x))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;

/** Half a level of eight bits: rounding is no colour beyond sRGB. */
const BEYOND = 0.5 / 255;

/** Whether sRGB cannot show it. */
export const isBeyondSrgb = ({ r, g, b }: Rgb): boolean =>
  [r, g, b].some((x) => x < -BEYOND || x > 1 + BEYOND);

/** Source: IEC 61966-2-1:1999 primaries with the white above. */
export function rgbToXyz(rgb: Rgb): Xyz {
  const { r, g, b } = linearOf(rgb);
  return {
    x: 0.41239079926595934 * r + 0.357584339383878 * g + 0.1804807884018343 * b,
    y: luminanceOfLinear(r, g, b),
    z: 0.01933081871559182 * r + 0.11919477979462598 * g + 0.9505321522496607 * b,
  };
}

export function xyzToRgb({ x, y, z }: Xyz): Rgb {
  return encodedOf({
    r: 3.2409699419045226 * x - 1.537383177570094 * y - 0.4986107602930034 * z,
    g: -0.9692436362808796 * x + 1.8759675015077202 * y + 0.04155505740717559 * z,
    b: 0.05563007969699366 * x - 0.20397695888897652 * y + 1.0569715142428786 * z,
  });
}

const EPSILON = (6 / 29) ** 3;
const SLOPE = (29 / 6) ** 2 / 3;
const bend = (t: number): number => (t > EPSILON ? Math.cbrt(t) : SLOPE * t + 4 / 29);
const unbend = (f: number): number => (f > 6 / 29 ? f ** 3 : (f - 4 / 29) / SLOPE);

/** Source: CIE 15:2018, section 8.2.1. */
export function xyzToLab({ x, y, z }: Xyz): Lab {
  const [fx, fy, fz] = [bend(x / WHITE.x), bend(y / WHITE.y), bend(z / WHITE.z)];
  return { l: 116 * fy - 16, a: 500 * (fx - fy), b: 200 * (fy - fz) };
}

export function labToXyz({ l, a, b }: Lab): Xyz {
  const fy = (l + 16) / 116;
  return {
    x: WHITE.x * unbend(fy + a / 500),
    y: WHITE.y * unbend(fy),
    z: WHITE.z * unbend(fy - b / 200),
  };
}

export const rgbToLab = (rgb: Rgb): Lab => xyzToLab(rgbToXyz(rgb));
export const labToRgb = (lab: Lab): Rgb => xyzToRgb(labToXyz(lab));

/** Less chroma than this share of the lightness's range is grey, without a hue. */
const GREY = 1e-5;

/** Polar form of CIELAB or OKLab. @param range - of its lightness: 100 or 1 */
function toLch({ l, a, b }: Lab, range: number): Lch {
  const c = Math.hypot(a, b);
  return { l, c, h: c < GREY * range ? 0 : ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360 };
}
function fromLch({ l, c, h }: Lch): Lab {
  const radians = (h * Math.PI) / 180;
  return { l, a: c * Math.cos(radians), b: c * Math.sin(radians) };
}
export const labToLch = (lab: Lab): Lch => toLch(lab, 100);
export const oklabToOklch = (lab: Oklab): Lch => toLch(lab, 1);
export const lchToLab: (lch: Lch) => Lab = fromLch;
export const oklchToOklab: (lch: Lch) => Oklab = fromLch;

/** Source: B. Ottosson, "A perceptual color space for image processing", 2020 (matrices of 2021-01-25). */
export function linearToOklab({ r, g, b }: Rgb): Oklab {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return {
    l: 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    a: 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    b: 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  };
}

export function oklabToLinear({ l, a, b }: Oklab): Rgb {
  const long = (l + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const medium = (l - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const short = (l - 0.0894841775 * a - 1.291485548 * b) ** 3;
  return {
    r: 4.0767416621 * long - 3.3077115913 * medium + 0.2309699292 * short,
    g: -1.2684380046 * long + 2.6097574011 * medium - 0.3413193965 * short,
    b: -0.0041960863 * long - 0.7034186147 * medium + 1.707614701 * short,
  };
}

export const rgbToOklab = (rgb: Rgb): Oklab => linearToOklab(linearOf(rgb));
export const oklabToRgb = (lab: Oklab): Rgb => encodedOf(oklabToLinear(lab));

/** Hue of encoded channels, degrees: 0 where they are alike. Source: A. R. Smith, "Color gamut transform pairs", 1978. */
function hueOf({ r, g, b }: Rgb): { h: number; most: number; least: number } {
  const most = Math.max(r, g, b);
  const least = Math.min(r, g, b);
  const spread = most - least;
  if (spread < 1e-9) return { h: 0, most, least };
  const sixth = most === r ? (g - b) / spread : most === g ? (b - r) / spread + 2 : (r - g) / spread + 4;
  return { h: (sixth * 60 + 360) % 360, most, least };
}

export function rgbToHsl(rgb: Rgb): Hsl {
  const { h, most, least } = hueOf(rgb);
  const l = (most + least) / 2;
  const room = 1 - Math.abs(2 * l - 1);
  return { h, l, s: most - least < 1e-9 || room <= 0 ? 0 : (most - least) / room };
}

export function rgbToHsv(rgb: Rgb): Hsv {
  const { h, most, least } = hueOf(rgb);
  return { h, v: most, s: most <= 0 ? 0 : (most - least) / most };
}

export function hsvToRgb({ h, s, v }: Hsv): Rgb {
  const channel = (n: number) => {
    const k = (n + h / 60) % 6;
    return v - v * s * Math.max(0, Math.min(k, 4 - k, 1));
  };
  return { r: channel(5), g: channel(3), b: channel(1) };
}

/** Relative luminance, 0..1, of linear light. Source: as `rgbToXyz`. */
export const luminanceOfLinear = (r: number, g: number, b: number): number =>
  0.21263900587151027 * r + 0.715168678767756 * g + 0.07219231536073371 * b;
export function luminanceOf(rgb: Rgb): number {
  const { r, g, b } = linearOf(rgb);
  return luminanceOfLinear(r, g, b);
}

/** Contrast of two colours, 1..21. Source: W3C WCAG 2.2, "contrast ratio". */
export function contrastRatio(one: Rgb, two: Rgb): number {
  const [a, b] = [luminanceOf(one), luminanceOf(two)].map((y) => clamp01(y) + 0.05) as [number, number];
  return Math.max(a, b) / Math.min(a, b);
}
