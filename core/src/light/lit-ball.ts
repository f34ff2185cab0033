import { hexToOklab, type Oklab, oklabToHex } from '../colour/index.ts';
import { type LightDirection, type LightVector, vectorOf } from './direction.ts';
import type { LightColours, LightPart } from './parts.ts';

/** Something flat to paint: closed path data, and its fill. */
export interface BallShape {
  readonly d: string;
  readonly fill: string;
}

/** By how much a surface is turned to the light (its cosine) where a colour is shown as it is: from, to. */
const PLATEAUS: readonly (readonly [LightPart, from: number, to: number])[] = [
  ['reflected light', -1, -0.62],
  ['core shadow', -0.3, 0],
  ['half-tone', 0.22, 0.4],
  ['light', 0.66, 1],
];
/** Between two colours so many steps of their mixture are seen. */
const STEPS = 12;
/** A highlight is seen where a mirror would be turned so nearly to the light (cosine), from, to. */
const HIGHLIGHT = { from: 0.965, to: 0.99 } as const;
/** Corners on a full circle. */
const CORNERS = 120;

type Pair = readonly [number, number];

/** Where a ball is painted, and how large. */
export interface BallPlace {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}
const UNIT: BallPlace = { x: 0, y: 0, radius: 1 };

const format = (value: number): string => String(Math.round(value * 1e3) / 1e3);
const pathOf = (points: readonly Pair[], { x, y, radius }: BallPlace): string =>
  `M${points.map(([px, py]) => `${format(x + radius * px)} ${format(y + radius * py)}`).join('L')}Z`;

/** Two directions at right angles to another and to each other. */
function across([x, y, z]: LightVector): readonly [LightVector, LightVector] {
  const aside: LightVector = Math.abs(z) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  const u: LightVector = [
    y * aside[2] - z * aside[1],
    z * aside[0] - x * aside[2],
    x * aside[1] - y * aside[0],
  ];
  const length = Math.hypot(...u);
  const one: LightVector = [u[0] / length, u[1] / length, u[2] / length];
  return [one, [y * one[2] - z * one[1], z * one[0] - x * one[2], x * one[1] - y * one[0]]];
}

/**
 * What is seen of a ball of radius 1 about the origin where it is turned to a direction by at least a cosine: the outline of
 * that cap; undefined where nothing of it is seen.
 */
export function capOutline(to: LightVector, cosine: number): readonly Pair[] | undefined {
  if (cosine <= -1) return rim(0, 2 * Math.PI);
  const radius = Math.sqrt(Math.max(0, 1 - cosine * cosine));
  const [u, v] = across(to);
  const circle = Array.from({ length: CORNERS }, (_, index): LightVector => {
    const angle = (2 * Math.PI * index) / CORNERS;
    const [c, s] = [radius * Math.cos(angle), radius * Math.sin(angle)];
    return [0, 1, 2].map(
      (axis) => cosine * to[axis]! + c * u[axis]! + s * v[axis]!,
    ) as unknown as LightVector;
  });
  const isFront = circle.map(([, , z]) => z >= 0);
  const flat = Math.hypot(to[0], to[1]);
  if (isFront.every(Boolean)) {
    const outline = circle.map(([x, y]): Pair => [x, y]);
    // All of the border is in sight: it encloses the cap, or (seen from behind the light) all but the cap.
    return to[2] >= 0 || cosine > 0 ? outline : [...rim(0, 2 * Math.PI), ...outline.reverse()];
  }
  // Of the rim so much is turned to it: from one end to the other.
  const half = flat === 0 ? Number.NaN : Math.acos(Math.max(-1, Math.min(1, cosine / flat)));
  if (!isFront.some(Boolean))
    return to[2] > 0 || (flat > 0 && cosine < -flat) ? rim(0, 2 * Math.PI) : undefined;
  const middle = Math.atan2(to[1], to[0]);
  // The part of the border that is in sight, in its order, from where it comes up.
  const first = isFront.findIndex((front, index) => front && !isFront[(index + CORNERS - 1) % CORNERS]);
  const seen: Pair[] = [];
  for (let step = 0; step < CORNERS && isFront[(first + step) % CORNERS]; step += 1) {
    const [x, y] = circle[(first + step) % CORNERS]!;
    seen.push([x, y]);
  }
  const start: Pair = [Math.cos(middle + half), Math.sin(middle + half)];
  const end: Pair = [Math.cos(middle - half), Math.sin(middle - half)];
  const isFromStart =
    Math.hypot(seen[0]![0] - start[0], seen[0]![1] - start[1]) <
    Math.hypot(seen[0]![0] - end[0], seen[0]![1] - end[1]);
  const border = isFromStart ? seen : seen.reverse();
  return [start, ...border, ...rim(middle - half, middle + half)];
}

function rim(from: number, to: number): readonly Pair[] {
  const steps = Math.max(2, Math.ceil((Math.abs(to - from) / (2 * Math.PI)) * CORNERS));
  return Array.from({ length: steps + 1 }, (_, index): Pair => {
    const angle = from + ((to - from) * index) / steps;
    return [Math.cos(angle), Math.sin(angle)];
  });
}

const between = (one: Oklab, other: Oklab, part: number): string =>
  oklabToHex({
    l: one.l + part * (other.l - one.l),
    a: one.a + part * (other.a - one.a),
    b: one.b + part * (other.b - one.b),
  });

/** From which cosine on which colour is shown, lowest first. */
function bandsOf(colours: LightColours): { readonly from: number; readonly fill: string }[] {
  const given = PLATEAUS.flatMap(([part, from, to]) => {
    const hex = colours[part];
    return hex === null ? [] : [{ hex, from, to }];
  });
  return given.flatMap(({ hex, from }, index) => {
    const below = given[index - 1];
    if (!below) return [{ from: -1, fill: hex }];
    const [one, other] = [hexToOklab(below.hex), hexToOklab(hex)];
    const mixed = Array.from({ length: STEPS }, (_, step) => ({
      from: below.to + ((from - below.to) * step) / STEPS,
      fill: between(one, other, (step + 1) / (STEPS + 1)),
    }));
    return [...mixed, { from, fill: hex }];
  });
}

/** The ground is seen from a little above: depth appears by so much shorter. */
const FLAT = 0.26;
/** No shadow is thrown farther than so many radii. */
const FARTHEST = 1.5;

/** The shadow on the ground below a ball of radius 1 that stands on it. */
function castShadow([x, y, z]: LightVector, fill: string, place: BallPlace): BallShape | undefined {
  const up = -y;
  // Light from below throws none on the ground.
  if (up < 0.05) return undefined;
  const flat = Math.hypot(x, z);
  const [awayX, awayZ] = flat < 1e-9 ? [1, 0] : [-x / flat, -z / flat];
  const reach = Math.min(FARTHEST, flat / up);
  const [long, wide] = [0.74 + 0.3 * reach, 0.74];
  const points = Array.from({ length: CORNERS / 2 }, (_, index): Pair => {
    const angle = (4 * Math.PI * index) / CORNERS;
    const along = 0.62 * reach + long * Math.cos(angle);
    const side = wide * Math.sin(angle);
    return [along * awayX - side * awayZ, 0.93 + (along * awayZ + side * awayX) * FLAT];
  });
  return { d: pathOf(points, place), fill };
}

/**
 * A ball, by default of radius 1 about the origin (x right, y down), painted in exactly the colours that are given, with mixtures only
 * where one turns into the next: shapes from the back to the front. Where a colour is missing its neighbours meet.
 */
export function ballShapes(
  colours: LightColours,
  direction: LightDirection,
  place: BallPlace = UNIT,
): BallShape[] {
  const to = vectorOf(direction);
  const shadow = colours['cast shadow'];
  const cast = shadow === null ? undefined : castShadow(to, shadow, place);
  const bands = bandsOf(colours);
  const shapes = bands.flatMap(({ from, fill }): BallShape[] => {
    const outline = capOutline(to, from);
    return outline ? [{ d: pathOf(outline, place), fill }] : [];
  });
  return [...(cast ? [cast] : []), ...shapes, ...highlightShapes(colours, to, place)];
}

/** Where a polished ball would mirror the light, softened towards what lies around it. */
function highlightShapes(colours: LightColours, to: LightVector, place: BallPlace): BallShape[] {
  const { highlight } = colours;
  const around = colours.light ?? colours['half-tone'];
  const length = Math.hypot(to[0], to[1], to[2] + 1);
  if (highlight === null || length < 0.3) return [];
  const half: LightVector = [to[0] / length, to[1] / length, (to[2] + 1) / length];
  const steps = around === null ? 0 : STEPS;
  const rings = Array.from({ length: steps + 1 }, (_, step) => ({
    from: HIGHLIGHT.from + ((HIGHLIGHT.to - HIGHLIGHT.from) * step) / Math.max(1, steps),
    fill:
      step === steps || around === null
        ? highlight
        : between(hexToOklab(around), hexToOklab(highlight), (step + 1) / (steps + 1)),
  }));
  return rings.flatMap(({ from, fill }) => {
    const outline = capOutline(half, from);
    return outline ? [{ d: pathOf(outline, place), fill }] : [];
  });
}
