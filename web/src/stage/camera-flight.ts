import type { Camera } from '@miradero/core/geometry';

const FLIGHT_MS = 160;

/** The camera at `progress` 0..1 of a flight: the scale changes evenly by ratio, the centre with it. */
export function cameraBetween(from: Camera, to: Camera, progress: number): Camera {
  const eased = progress < 0.5 ? 2 * progress ** 2 : 1 - (-2 * progress + 2) ** 2 / 2;
  if (progress >= 1) return to;
  const scale = from.scale * (to.scale / from.scale) ** eased;
  // Where scales differ the centre moves in step with 1 / scale: the eye then follows one point.
  const part =
    Math.abs(to.scale - from.scale) < 1e-9
      ? eased
      : (1 / from.scale - 1 / scale) / (1 / from.scale - 1 / to.scale);
  return {
    scale,
    centre: {
      x: from.centre.x + (to.centre.x - from.centre.x) * part,
      y: from.centre.y + (to.centre.y - from.centre.y) * part,
    },
  };
}

/** Flies from one camera to another; at once where the person asked for little motion. @returns a function that stops it */
export function fly(window: Window, from: Camera, to: Camera, show: (camera: Camera) => void): () => void {
  if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) {
    show(to);
    return () => {};
  }
  const started = window.performance.now();
  let frame = 0;
  const step = () => {
    const progress = Math.min(1, (window.performance.now() - started) / FLIGHT_MS);
    show(cameraBetween(from, to, progress));
    if (progress < 1) frame = window.requestAnimationFrame(step);
  };
  step();
  return () => window.cancelAnimationFrame(frame);
}
