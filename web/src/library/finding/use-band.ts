import { overlaps, type Point, type Rectangle } from '@miradero/core/geometry';
import { type PointerEvent, useState } from 'react';
import type { Found } from './use-library.ts';
import type { Selection } from './use-selection.ts';

/** A press that moves less than this is none. */
const CLICK_PX = 4;

const between = (a: Point, b: Point): Rectangle => ({
  ...{ x: Math.min(a.x, b.x), y: Math.min(a.y, b.y) },
  ...{ width: Math.abs(a.x - b.x), height: Math.abs(a.y - b.y) },
});

/** A band drawn from the bare ground of the wall: what it touches is selected, as on a board. CSS pixels of the window. */
export function useBand(found: Found, selection: Selection) {
  const [start, setStart] = useState<Point>();
  const [band, setBand] = useState<Rectangle>();
  const end = () => {
    setStart(undefined);
    setBand(undefined);
  };
  return {
    band,
    hand: {
      onPointerDown(event: PointerEvent<HTMLElement>) {
        // A finger scrolls.
        if (event.button !== 0 || event.pointerType === 'touch') return;
        if ((event.target as HTMLElement).closest('[role="option"]')) return;
        // The bar at the right edge is no ground.
        if (
          event.clientX >
          event.currentTarget.getBoundingClientRect().left + event.currentTarget.clientWidth
        )
          return;
        event.currentTarget.setPointerCapture(event.pointerId);
        setStart({ x: event.clientX, y: event.clientY });
      },
      onPointerMove(event: PointerEvent<HTMLElement>) {
        if (!start) return;
        const next = between(start, { x: event.clientX, y: event.clientY });
        if (!band && Math.max(next.width, next.height) < CLICK_PX) return;
        setBand(next);
        const touched = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-index]')].filter(
          (hung) => overlaps(hung.getBoundingClientRect(), next),
        );
        selection.set(touched.flatMap(({ dataset }) => found.at(Number(dataset.index)) ?? []));
      },
      onPointerUp() {
        if (start && !band) selection.clear();
        end();
      },
      onPointerCancel: end,
    },
  };
}
