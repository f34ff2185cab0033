import { compareColours, munsellValueOf, type Oklab, rgbToOklab } from '../colour/index.ts';
import type { Point } from '../geometry/index.ts';
import { isOpaqueAt, meanOf, type Pixels } from './pixels.ts';

/** A place on the contour of a form: what lies within by what lies without. */
export interface ContourPlace extends Point {
  /** Munsell steps: above 0 the form is lighter than its ground. */
  readonly value: number;
  /** ΔE00. */
  readonly deltaE: number;
  /** The form is not seen to end there. */
  readonly isLost: boolean;
}

/** How far a form stands off from its ground. */
export interface StandingApart {
  /** In the order of the contour, fractions 0..1 of the pixels' sides. */
  readonly places: readonly ContourPlace[];
  /** Mean of the difference in value, whichever way, Munsell steps. */
  readonly value: number;
  /** Parts of the contour, together 1. */
  readonly lighter: number;
  readonly darker: number;
  readonly lost: number;
  /** How much of the ground's colour lives in the form's shadows, 0..1; undefined where their colours hardly differ. */
  readonly groundInShadows: number | undefined;
}

/** Places that are looked at. */
const PLACES = 96;
/** Both sides are read so far from the contour, and over such a square, of the form's size. */
const AWAY = 0.03;
const READ = 0.025;
/** Less of both than this, and the contour is lost. */
const LOST = { value: 0.4, deltaE: 5 } as const;
/** Shadows are the darkest part of a form, light its lightest. */
const SHADOWS = 0.33;
/** Colours that lie nearer than this cannot be told to mix, OKLab chroma. */
const LEAST_APART = 0.015;

/** The outline as so many points at equal distances. */
function along(outline: readonly Point[], count: number): { at: Point; outward: Point }[] {
  const sides = outline.map((from, index) => {
    const to = outline[(index + 1) % outline.length]!;
    return { from, to, length: Math.hypot(to.x - from.x, to.y - from.y) };
  });
  const total = sides.reduce((sum, { length }) => sum + length, 0);
  // Twice the area, above 0 for one that goes clockwise as it is seen (y down).
  const turn = sides.reduce((sum, { from, to }) => sum + from.x * to.y - to.x * from.y, 0);
  const places: { at: Point; outward: Point }[] = [];
  let [side, begun] = [0, 0];
  for (let place = 0; place < count; place += 1) {
    const wanted = ((place + 0.5) * total) / count;
    while (side < sides.length - 1 && begun + sides[side]!.length < wanted) {
      begun += sides[side]!.length;
      side += 1;
    }
    const { from, to, length } = sides[side]!;
    if (length === 0) continue;
    const part = (wanted - begun) / length;
    const [dx, dy] = [(to.x - from.x) / length, (to.y - from.y) / length];
    const sign = turn >= 0 ? 1 : -1;
    places.push({
      at: { x: from.x + part * (to.x - from.x), y: from.y + part * (to.y - from.y) },
      outward: { x: sign * dy, y: -sign * dx },
    });
  }
  return places;
}

function* squareAbout(pixels: Pixels, at: Point, half: number, isWanted: (pixel: number) => boolean) {
  for (
    let y = Math.max(0, Math.ceil(at.y - half - 0.5));
    y < Math.min(pixels.height, at.y + half + 0.5);
    y += 1
  )
    for (
      let x = Math.max(0, Math.ceil(at.x - half - 0.5));
      x < Math.min(pixels.width, at.x + half + 0.5);
      x += 1
    ) {
      const pixel = y * pixels.width + x;
      if (isWanted(pixel) && isOpaqueAt(pixels, pixel)) yield pixel;
    }
}

/** How much of the ground's hue and chroma the shadows took on: 0 none, 1 all. */
function groundInShadows(pixels: Pixels, mask: Uint8Array): number | undefined {
  const form: number[] = [];
  const ground: number[] = [];
  const every = Math.max(1, Math.floor(mask.length / 40_000));
  for (let pixel = 0; pixel < mask.length; pixel += every)
    if (isOpaqueAt(pixels, pixel)) (mask[pixel] === 0 ? ground : form).push(pixel);
  if (form.length < 6 || ground.length < 6) return undefined;
  const value = new Map(form.map((pixel) => [pixel, munsellValueOf(meanOf(pixels, [pixel])!)]));
  const dark = [...form].sort((one, other) => value.get(one)! - value.get(other)!);
  const part = Math.max(2, Math.floor(form.length * SHADOWS));
  const labOf = (which: readonly number[]): Oklab => rgbToOklab(meanOf(pixels, which)!);
  const [shadow, light, around] = [labOf(dark.slice(0, part)), labOf(dark.slice(-part)), labOf(ground)];
  // Chroma falls with lightness by itself: colours are compared as if they were equally light.
  const tint = ({ l, a, b }: Oklab) => ({ a: a / Math.max(0.05, l), b: b / Math.max(0.05, l) });
  const [s, from, to] = [tint(shadow), tint(light), tint(around)];
  const [da, db] = [to.a - from.a, to.b - from.b];
  const length = da * da + db * db;
  if (Math.sqrt(length) < LEAST_APART) return undefined;
  return Math.min(1, Math.max(0, ((s.a - from.a) * da + (s.b - from.b) * db) / length));
}

/**
 * How far a form stands off from its ground, along its contour.
 *
 * @param outline - corners, pixels
 * @param mask - the same as a byte a pixel
 * @returns undefined where nothing opaque lies on both sides of it
 */
export function standApart(
  pixels: Pixels,
  outline: readonly Point[],
  mask: Uint8Array,
): StandingApart | undefined {
  const xs = outline.map(({ x }) => x);
  const ys = outline.map(({ y }) => y);
  const size = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  const [away, half] = [Math.max(1, AWAY * size), Math.max(0.5, READ * size)];
  const places = along(outline, PLACES).flatMap(({ at, outward }): ContourPlace[] => {
    const beside = (sign: 1 | -1) => ({
      x: at.x + sign * away * outward.x,
      y: at.y + sign * away * outward.y,
    });
    const within = meanOf(
      pixels,
      squareAbout(pixels, beside(-1), half, (pixel) => mask[pixel] !== 0),
    );
    const without = meanOf(
      pixels,
      squareAbout(pixels, beside(1), half, (pixel) => mask[pixel] === 0),
    );
    if (!within || !without) return [];
    const { value, deltaE } = compareColours(without, within);
    const isLost = Math.abs(value) < LOST.value && deltaE < LOST.deltaE;
    return [{ x: at.x / pixels.width, y: at.y / pixels.height, value, deltaE, isLost }];
  });
  if (places.length === 0) return undefined;
  const share = (is: (place: ContourPlace) => boolean) => places.filter(is).length / places.length;
  return {
    places,
    value: places.reduce((sum, { value }) => sum + Math.abs(value), 0) / places.length,
    lighter: share(({ isLost, value }) => !isLost && value >= 0),
    darker: share(({ isLost, value }) => !isLost && value < 0),
    lost: share(({ isLost }) => isLost),
    groundInShadows: groundInShadows(pixels, mask),
  };
}
