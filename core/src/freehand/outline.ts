import { getStrokeOutlinePoints, getStrokePoints } from 'perfect-freehand';
import { boundsOfPoints, type Point } from '../geometry/index.ts';
import { type Pen, widthUnder } from './pens.ts';
import { grainsAlong, hatchingAlong, type LinePoint, type Shapes } from './texture.ts';

/** Where a pen was. */
export interface StrokePoint extends Point {
  /** 0..1; a half for what tells none. */
  readonly pressure: number;
  /** How far the pen leant, degrees from upright; 0 for what tells none. */
  readonly tilt?: number;
}

export interface StrokeWish {
  readonly pen: Pen;
  /** Width at half the pressure, in the units of the points. */
  readonly nib: number;
  /** How much of a trembling hand is left out, 0..1. */
  readonly smoothing: number;
}

/** Of what a hand draws the pen follows so much behind at most: more than that, and corners are lost. */
const MOST_LAG = 0.85;

/** The width in which outlines are found, so that the same stroke is the same in any units. */
const FOUND_IN = 16;
/** A stroke within so much of the pen's width is a dot, of so many corners. */
const DOT = { within: 0.1, corners: 16 } as const;

const isDot = (points: readonly StrokePoint[], nib: number): boolean => {
  const { width, height } = boundsOfPoints(points);
  return Math.max(width, height) <= nib * DOT.within;
};

/** The way of a stroke as outlines are found along it: `FOUND_IN` wide, its first point at the origin. */
function wayOf(points: readonly StrokePoint[], { pen, nib, smoothing }: StrokeWish) {
  const scale = FOUND_IN / nib;
  const { x, y } = points[0]!;
  const streamline = smoothing * MOST_LAG;
  // Half the width at each point is told in place of the pressure.
  return getStrokePoints(
    points.map((at) => [(at.x - x) * scale, (at.y - y) * scale, widthUnder(pen, at.pressure, at.tilt) / 2]),
    { size: FOUND_IN, streamline, last: true },
  );
}

/** The outline of a stroke: closed, in the units of the points; a circle for a dot. */
export function strokeOutline(points: readonly StrokePoint[], wish: StrokeWish): Point[] {
  const [first] = points;
  if (!first) return [];
  const { pen, nib } = wish;
  if (isDot(points, nib)) {
    const radius =
      (nib / 2) * Math.max(0.1, ...points.map(({ pressure, tilt }) => widthUnder(pen, pressure, tilt)));
    return Array.from({ length: DOT.corners }, (_, corner) => {
      const angle = (corner / DOT.corners) * 2 * Math.PI;
      return { x: first.x + radius * Math.cos(angle), y: first.y + radius * Math.sin(angle) };
    });
  }
  const outline = getStrokeOutlinePoints(wayOf(points, wish), {
    ...{ size: FOUND_IN, thinning: 1, smoothing: 0.5, simulatePressure: false, last: true },
  });
  const scale = FOUND_IN / nib;
  return outline.map(([x, y]) => ({ x: first.x + x! / scale, y: first.y + y! / scale }));
}

/** The line along which a stroke lies, and its width there; a dot has two points in one place. */
function lineOf(points: readonly StrokePoint[], wish: StrokeWish): LinePoint[] {
  const { pen, nib } = wish;
  const { x, y, pressure, tilt } = points[0]!;
  const at = (from: Point, half: number, pressed: number) => ({
    ...{ x: from.x, y: from.y, width: 2 * half * nib, pressure: pressed },
  });
  if (isDot(points, nib)) {
    const dot = at({ x, y }, widthUnder(pen, pressure, tilt) / 2, pressure);
    return [dot, dot];
  }
  const scale = FOUND_IN / nib;
  const way = wayOf(points, wish);
  return way.map(({ point, pressure: half }, index) => {
    const drawn = points[Math.round((index / Math.max(1, way.length - 1)) * (points.length - 1))]!;
    return at({ x: x + point[0]! / scale, y: y + point[1]! / scale }, half, drawn.pressure);
  });
}

/** Rounds to so many decimals. */
function roundingTo(decimals: number): (value: number) => number {
  const parts = 10 ** decimals;
  return (value) => Math.round(value * parts) / parts;
}

/**
 * An outline as path data: curves that pass the middles between its corners.
 *
 * @param decimals - of its figures
 */
export function outlineToPath(outline: readonly Point[], decimals: number): string {
  const [first] = outline;
  if (!first) return '';
  const figure = roundingTo(decimals);
  const at = ({ x, y }: Point) => `${figure(x)} ${figure(y)}`;
  const curves = outline.map((corner, index) => {
    const next = outline[(index + 1) % outline.length]!;
    return `${at(corner)} ${at({ x: (corner.x + next.x) / 2, y: (corner.y + next.y) / 2 })}`;
  });
  const last = outline.at(-1)!;
  return `M${at({ x: (first.x + last.x) / 2, y: (first.y + last.y) / 2 })}Q${curves.join(' ')}Z`;
}

const DARK = '#1d1d1b';
const LIGHT = '#fafaf9';
/** Width of the edge that stands off from any ground, of the pen's. */
const EDGE = 0.28;
const HATCHED_EDGE = 0.01;

/** Luma of a colour, 0..255. Source: ITU-R BT.601-7, 2.5.1. */
function lumaOf(hex: string): number {
  const code = Number.parseInt(hex.slice(1), 16);
  return 0.299 * (code >>> 16) + 0.587 * ((code >>> 8) & 0xff) + 0.114 * (code & 0xff);
}

/** What a stroke looks like: path data that is filled with the ink (nonzero), over its edge where it has one. */
export interface StrokeShape {
  readonly d: string;
  readonly edge: { readonly colour: string; readonly width: number } | undefined;
}

/** How far what a stroke leaves reaches beyond its outline, of the pen's width. */
export const STROKE_REACH = 0.2;

const shapesToPath = (shapes: Shapes, decimals: number): string => {
  const figure = roundingTo(decimals);
  return shapes
    .map((corners) => `M${corners.map(({ x, y }) => `${figure(x)} ${figure(y)}`).join(' ')}Z`)
    .join('');
};

/**
 * @param ink - `#rrggbb`
 * @param seed - of its grain and its trembling
 * @param scale - from the units of the points to those of the shape
 * @param decimals - of the figures of its path
 */
export function shapeOfStroke(
  points: readonly StrokePoint[],
  wish: StrokeWish & { readonly ink: string; readonly seed: number },
  scale: number,
  decimals: number,
): StrokeShape {
  if (points.length === 0) return { d: '', edge: undefined };
  const { pen, nib, ink, seed } = wish;
  const { texture } = pen;
  const larger = ({ x, y }: Point) => ({ x: x * scale, y: y * scale });
  const isHatched = texture === 'hatching' || texture === 'cross-hatching';
  const edge = {
    colour: lumaOf(ink) > 128 ? DARK : LIGHT,
    width: nib * scale * (isHatched ? HATCHED_EDGE : EDGE),
  };
  if (isHatched) {
    const lines = hatchingAlong(lineOf(points, wish), nib, seed, texture === 'cross-hatching');
    return {
      d: shapesToPath(
        lines.map((line) => line.map(larger)),
        decimals,
      ),
      edge,
    };
  }
  const outline = outlineToPath(strokeOutline(points, wish).map(larger), decimals);
  const grains = texture === 'grain' ? grainsAlong(lineOf(points, wish), nib, seed) : [];
  const d =
    outline +
    shapesToPath(
      grains.map((grain) => grain.map(larger)),
      decimals,
    );
  return { d, edge: pen.isEdged ? edge : undefined };
}
