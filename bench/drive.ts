import type { Page } from '@playwright/test';

/** How the camera moves: over the whole board, close to it, and from one to the other. */
export const JOURNEYS = ['whole', 'close', 'zooming'] as const;
export type Journey = (typeof JOURNEYS)[number];

/** What frames came to, milliseconds; shares 0..1. `renewedMs` is the longest time a moving view kept one buffer. */
export interface Frames {
  readonly mean: number;
  readonly p95: number;
  readonly unpainted: number;
  readonly renewedMs: number;
}

const SECONDS = 6;

/** Moves the camera of a page for some seconds, one step a frame, and measures the time between frames. */
export function drive(
  page: Page,
  journey: Journey,
  extent: { width: number; height: number },
): Promise<Frames> {
  return page.evaluate(
    ({ journey, extent, seconds }) =>
      new Promise<Frames>((resolve) => {
        const stage = window.miraderoStage;
        const intervals: number[] = [];
        const shares: number[] = [];
        let renewedMs = 0;
        const fit = Math.min(innerWidth / extent.width, innerHeight / extent.height);
        const at = (t: number): [number, number, number] => {
          const middle = [extent.width / 2, extent.height / 2] as const;
          if (journey === 'whole')
            return [middle[0] + Math.sin(t) * extent.width * 0.06, middle[1], fit * 0.95];
          if (journey === 'close')
            return [middle[0] + Math.sin(t * 0.7) * 1400, middle[1] + Math.cos(t * 0.9) * 700, 1];
          return [middle[0] + t * 40, middle[1], fit * (1 / fit) ** (0.5 - 0.5 * Math.cos(t * 1.3))];
        };
        if (stage) {
          stage.onFrame = ({ unpaintedShare, bufferAgeMs }) => {
            shares.push(unpaintedShare);
            // The journey begins at rest: only what is renewed while moving counts.
            if (shares.length > 60) renewedMs = Math.max(renewedMs, bufferAgeMs);
          };
        }
        const show = (t: number) => {
          const [x, y, scale] = at(t);
          if (stage) stage.setCamera({ centre: { x, y }, scale });
          else window.setView!(x, y, scale);
        };
        let last = 0;
        let first = 0;
        const step = (now: number) => {
          if (first === 0) first = now;
          else intervals.push(now - last);
          last = now;
          const t = (now - first) / 1000;
          show(t);
          if (t < seconds) {
            requestAnimationFrame(step);
            return;
          }
          if (stage) stage.onFrame = undefined;
          const measured = intervals.slice(3).sort((a, b) => a - b);
          const mean = (values: number[]) =>
            values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
          resolve({
            mean: mean(measured),
            p95: measured[Math.floor(measured.length * 0.95)]!,
            unpainted: mean(shares),
            renewedMs,
          });
        };
        requestAnimationFrame(step);
      }),
    { journey, extent, seconds: SECONDS },
  );
}
