import { intersectionOf, type Rectangle } from '../geometry/index.ts';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** In what a new size is said; `percent` of what it was. */
export type ResizeUnit = 'px' | 'cm' | 'percent';
const CM_PER_INCH = 2.54;

/** Whole pixels of a side that is said another way; 0 for nothing. @param was - pixels before */
export function resizedSide(said: number, unit: ResizeUnit, was: number, ppi: number): number {
  const pixels = unit === 'px' ? said : unit === 'percent' ? (was * said) / 100 : (said / CM_PER_INCH) * ppi;
  return pixels > 0 ? Math.max(1, Math.round(pixels)) : 0;
}

/** The other side where the proportions stay: pixels. @param side - which one was said */
export const withAspect = (was: Size, side: 'width' | 'height', pixels: number): Size =>
  side === 'width'
    ? { width: pixels, height: Math.max(1, Math.round((was.height * pixels) / was.width)) }
    : { width: Math.max(1, Math.round((was.width * pixels) / was.height)), height: pixels };

/** Where the picture stays when its paper is another: thirds of the room that is gained or lost, 0, ½ or 1 along each axis. */
export interface Anchor {
  readonly x: 0 | 0.5 | 1;
  readonly y: 0 | 0.5 | 1;
}

export interface PaperChange {
  /** Where the picture's upper left corner comes to lie on the new paper, whole pixels. */
  readonly offset: { readonly x: number; readonly y: number };
  /** What is cut off at each edge of the picture, pixels. */
  readonly cut: {
    readonly left: number;
    readonly top: number;
    readonly right: number;
    readonly bottom: number;
  };
  /** Share of the picture's area that is lost, 0..1. */
  readonly lost: number;
  /** Share of the new paper that is bare, 0..1. */
  readonly bare: number;
}

/** What becomes of a picture on paper of another size: it is cut or gets room, and is not scaled. */
export function changePaper(was: Size, next: Size, { x, y }: Anchor): PaperChange {
  const offset = {
    x: Math.round((next.width - was.width) * x),
    y: Math.round((next.height - was.height) * y),
  };
  const kept = intersectionOf({ x: 0, y: 0, ...next }, { ...offset, ...was });
  const area = ({ width, height }: Size) => width * height;
  const beyond = (length: number) => Math.max(0, length);
  return {
    offset,
    cut: {
      left: beyond(-offset.x),
      top: beyond(-offset.y),
      right: beyond(offset.x + was.width - next.width),
      bottom: beyond(offset.y + was.height - next.height),
    },
    lost: 1 - area(kept) / area(was),
    bare: 1 - area(kept) / area(next),
  };
}

/** What becomes of a picture that is scaled: its sides, and what of its pixels is lost. */
export interface ScaleChange {
  readonly x: number;
  readonly y: number;
  /** Pixels that there are afterwards for one before: below 1 detail is lost, above 1 none is won. */
  readonly pixels: number;
  /** Wider or narrower than it was, as a ratio of the proportions; 1: as it was. */
  readonly squeeze: number;
}

export function scalePicture(was: Size, next: Size): ScaleChange {
  const [x, y] = [next.width / was.width, next.height / was.height];
  return { x, y, pixels: x * y, squeeze: x / y };
}

/** Lines to which placing catches. */
export interface Guides {
  /** Positions of upright and of level lines, in the sheet's pixels. */
  readonly x: readonly number[];
  readonly y: readonly number[];
}

/**
 * How far a rectangle is moved so that the nearest of its edges or middles lies on a guide.
 *
 * @param within - farther guides do not catch
 * @returns the shift, 0 along an axis on which nothing catches
 */
export function caughtByGuides(r: Rectangle, { x, y }: Guides, within: number): { x: number; y: number } {
  const along = (from: number, length: number, lines: readonly number[]) => {
    let best = 0;
    let least = within;
    for (const line of lines)
      for (const at of [from, from + length / 2, from + length]) {
        const away = Math.abs(line - at);
        if (away > least || (away === least && best !== 0)) continue;
        least = away;
        best = line - at;
      }
    return best;
  };
  return { x: along(r.x, r.width, x), y: along(r.y, r.height, y) };
}
