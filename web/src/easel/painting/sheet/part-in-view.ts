import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  intersectionOf,
  invertAffine,
  type Rectangle,
} from '@miradero/core/geometry';
import type { ViewOfMoving } from '../../../stage/index.ts';
import type { SeenWindow } from '../messages.ts';
import { type PaintSurface, windowFor } from './surface.ts';

/** While the camera moves another part is asked for so often at most, ms: where what is there does not do, and where it does. */
const LOOK_EVERY_MS = { lacking: 150, covered: 400 } as const;

/** Bounds of where a map takes a rectangle. */
export const boundsAfter = (map: Affine, { x, y, width, height }: Rectangle): Rectangle =>
  boundsOfPoints(
    [
      { x, y },
      { x: x + width, y },
      { x: x + width, y: y + height },
      { x, y: y + height },
    ].map((corner) => applyAffine(map, corner)),
  );

/** Which part of a sheet is shown as fine as a view needs it: it is asked for where that is another than before. */
export class PartInView {
  readonly #ask: (window: SeenWindow | null) => void;
  readonly #redraw: () => void;
  #askedAtMs = Number.NEGATIVE_INFINITY;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** @param redraw - draws the view anew, which looks again */
  constructor({ ask, redraw }: { ask: (window: SeenWindow | null) => void; redraw: () => void }) {
    this.#ask = ask;
    this.#redraw = redraw;
  }

  /** @param toBoard - from pixels of the sheet. @returns whether what is shown finer holds what is in view */
  look({ view, camera }: ViewOfMoving, toBoard: Affine, surface: PaintSurface): boolean {
    const { width, height } = surface.size;
    const toSheet = invertAffine(toBoard);
    const { x, y, width: across, height: down } = view;
    const inView = boundsAfter(toSheet, { x, y, width: across, height: down });
    const part = intersectionOf(inView, { x: 0, y: 0, width, height });
    const perUnit = Math.hypot(toSheet[0], toSheet[1]);
    const perPixel = perUnit / (camera.scale * window.devicePixelRatio);
    const isIn = part.width > 0 && part.height > 0;
    const next = windowFor(surface.size, isIn ? part : undefined, perPixel, surface.coarseLevel);
    const isCovered = surface.covers(part);
    if (surface.looksAt(next)) return isCovered;
    const everyMs = isCovered ? LOOK_EVERY_MS.covered : LOOK_EVERY_MS.lacking;
    const restMs = this.#askedAtMs + everyMs - performance.now();
    if (restMs > 0) {
      this.#timer ??= setTimeout(() => {
        this.#timer = undefined;
        this.#redraw();
      }, restMs);
      return isCovered;
    }
    this.#askedAtMs = performance.now();
    surface.look(next);
    this.#ask(next);
    return surface.covers(part);
  }

  stop(): void {
    clearTimeout(this.#timer);
  }
}
