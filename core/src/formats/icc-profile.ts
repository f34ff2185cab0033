import { P3_TO_SRGB, srgbToLinear } from '../colour/index.ts';

/**
 * The way from the levels of a file to light, by its ICC profile: three curves and a matrix, which is what cameras,
 * monitors and working spaces have. Profiles with tables (of presses, of scanners) are not read here.
 *
 * Source: ICC.1:2022 (ISO 15076-1), sections 7.2, 10.6 (curveType), 10.18 (parametricCurveType), 10.31 (XYZType), F.3.
 */
export interface DeviceProfile {
  /** A level 0..1 as light 0..1, of each channel; the same three times for grey. */
  readonly curves: readonly [Curve, Curve, Curve];
  /** Light of the channels as linear sRGB, row by row. */
  readonly toLinearSrgb: Matrix;
}
export type Curve = (level: number) => number;
type Matrix = readonly [number, number, number, number, number, number, number, number, number];

/** XYZ of D50, in which profiles speak, as XYZ of D65. Source: W3C, CSS Color Module Level 4, section 18 (Bradford). */
const D50_TO_D65: Matrix = [
  ...[0.955473421488075, -0.02309845494876471, 0.06325924320057072],
  ...[-0.0283697093338637, 1.0099953980813041, 0.021041441191917323],
  ...[0.012314014864481998, -0.020507649298898964, 1.330365926242124],
] as unknown as Matrix;
/** Source: as `xyzToRgb`. */
const XYZ_TO_SRGB: Matrix = [
  ...[3.2409699419045226, -1.537383177570094, -0.4986107602930034],
  ...[-0.9692436362808796, 1.8759675015077202, 0.04155505740717559],
  ...[0.05563007969699366, -0.20397695888897652, 1.0569715142428786],
] as unknown as Matrix;
const NEUTRAL: Matrix = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** What a file without a profile is taken for. Source: IEC 61966-2-1:1999. */
export const SRGB_PROFILE: DeviceProfile = {
  curves: [srgbToLinear, srgbToLinear, srgbToLinear],
  toLinearSrgb: NEUTRAL,
};
/** Source: W3C, CSS Color Module Level 4, section 10.2. */
export const DISPLAY_P3_PROFILE: DeviceProfile = { ...SRGB_PROFILE, toLinearSrgb: P3_TO_SRGB };

const times = (a: Matrix, b: Matrix): Matrix =>
  Array.from({ length: 9 }, (_, at) => {
    const [row, column] = [Math.floor(at / 3), at % 3];
    return [0, 1, 2].reduce((sum, k) => sum + a[row * 3 + k]! * b[k * 3 + column]!, 0);
  }) as unknown as Matrix;

const MOST_TAGS = 100;
const MOST_ENTRIES = 65_536;

const fixed = (view: DataView, at: number): number => view.getInt32(at) / 65_536;
const word = (view: DataView, at: number): string =>
  String.fromCharCode(...[0, 1, 2, 3].map((index) => view.getUint8(at + index)));

/** Section 10.18, table 68: how many parameters each kind of function has. */
const PARAMETERS = [1, 3, 4, 5, 7] as const;

function parametric(view: DataView, at: number): Curve | undefined {
  const kind = view.getUint16(at + 8);
  const count = PARAMETERS[kind];
  if (count === undefined) return undefined;
  const [g, a = 1, b = 0, c = 0, d = 0, e = 0, f = 0] = Array.from({ length: count }, (_, index) =>
    fixed(view, at + 12 + 4 * index),
  ) as [number, ...number[]];
  const power = (x: number) => Math.max(0, a * x + b) ** g;
  if (kind === 0) return (x) => x ** g;
  if (kind === 1) return (x) => (x >= -b / a ? power(x) : 0);
  if (kind === 2) return (x) => (x >= -b / a ? power(x) + c : c);
  return (x) => (x >= d ? power(x) + e : c * x + f);
}

function table(view: DataView, at: number): Curve | undefined {
  const count = view.getUint32(at + 8);
  if (count === 0) return (x) => x;
  if (count > MOST_ENTRIES) return undefined;
  if (count === 1) {
    const gamma = view.getUint16(at + 12) / 256;
    return (x) => x ** gamma;
  }
  const entries = Float64Array.from(
    { length: count },
    (_, index) => view.getUint16(at + 12 + 2 * index) / 65_535,
  );
  return (x) => {
    const place = Math.min(1, Math.max(0, x)) * (count - 1);
    const below = Math.min(count - 2, Math.floor(place));
    return entries[below]! + (place - below) * (entries[below + 1]! - entries[below]!);
  };
}

function readTags(view: DataView): Map<string, number> {
  const count = Math.min(MOST_TAGS, view.getUint32(128));
  return new Map(
    Array.from({ length: count }, (_, index) => 132 + 12 * index).map((at) => [
      word(view, at),
      view.getUint32(at + 4),
    ]),
  );
}

/** @returns undefined for one that is damaged, or that is no three curves and a matrix (or one curve of grey) */
export function readDeviceProfile(bytes: Uint8Array): DeviceProfile | undefined {
  try {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const space = word(view, 16);
    if (word(view, 36) !== 'acsp' || word(view, 20) !== 'XYZ ') return undefined;
    const tags = readTags(view);
    // One that has tables, too, means those: its curves are only about right.
    if (tags.has('A2B0')) return undefined;
    const curve = (tag: string): Curve | undefined => {
      const at = tags.get(tag);
      if (at === undefined) return undefined;
      const kind = word(view, at);
      return kind === 'para' ? parametric(view, at) : kind === 'curv' ? table(view, at) : undefined;
    };
    if (space === 'GRAY') {
      const grey = curve('kTRC');
      return grey && { curves: [grey, grey, grey], toLinearSrgb: NEUTRAL };
    }
    if (space !== 'RGB ') return undefined;
    const curves = [curve('rTRC'), curve('gTRC'), curve('bTRC')];
    const columns = ['rXYZ', 'gXYZ', 'bXYZ'].map((tag) => {
      const at = tags.get(tag);
      return at === undefined ? undefined : [8, 12, 16].map((beyond) => fixed(view, at + beyond));
    });
    if ([...curves, ...columns].includes(undefined)) return undefined;
    const toXyz = [0, 1, 2].flatMap((row) => columns.map((column) => column![row]!)) as unknown as Matrix;
    return {
      curves: curves as [Curve, Curve, Curve],
      toLinearSrgb: times(XYZ_TO_SRGB, times(D50_TO_D65, toXyz)),
    };
  } catch (error) {
    // Offsets beyond its end.
    if (error instanceof RangeError) return undefined;
    throw error;
  }
}

/**
 * Levels of a file as linear sRGB, unbounded: below 0 and above 1 for what sRGB cannot show.
 *
 * @param levels - RGBA, straight alpha, 0..`most`
 * @param most - 255 or 65535
 * @returns RGBA, alpha 0..1
 */
export function lightOfLevels(
  levels: Uint8Array | Uint16Array,
  most: 255 | 65_535,
  { curves, toLinearSrgb: m }: DeviceProfile,
): Float32Array<ArrayBuffer> {
  const [red, green, blue] = curves.map((curve) =>
    Float64Array.from({ length: most + 1 }, (_, level) => curve(level / most)),
  ) as [Float64Array, Float64Array, Float64Array];
  const light = new Float32Array(levels.length);
  for (let at = 0; at < levels.length; at += 4) {
    const [r, g, b] = [red[levels[at]!]!, green[levels[at + 1]!]!, blue[levels[at + 2]!]!];
    light[at] = m[0] * r + m[1] * g + m[2] * b;
    light[at + 1] = m[3] * r + m[4] * g + m[5] * b;
    light[at + 2] = m[6] * r + m[7] * g + m[8] * b;
    light[at + 3] = levels[at + 3]! / most;
  }
  return light;
}
