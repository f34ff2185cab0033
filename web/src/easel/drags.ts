import type { Point } from '@miradero/core/geometry';
import type { PointerEvent } from 'react';

/** Hears of one pointer until it is lifted. */
function follow(
  { currentTarget, pointerId }: PointerEvent<HTMLElement>,
  onMove: (now: globalThis.PointerEvent) => void,
  onEnd: () => void,
): void {
  const target: HTMLElement = currentTarget;
  target.setPointerCapture(pointerId);
  const ending = new AbortController();
  const { signal } = ending;
  const isIts = (event: globalThis.PointerEvent) => event.pointerId === pointerId;
  target.addEventListener('pointermove', (event) => isIts(event) && onMove(event), { signal });
  for (const end of ['pointerup', 'pointercancel'] as const)
    target.addEventListener(
      end,
      (event) => {
        if (!isIts(event)) return;
        ending.abort();
        onEnd();
      },
      { signal },
    );
}

/** Follows a drag from a press on. @param onMove - the way since the press, CSS pixels */
export function drag(event: PointerEvent<HTMLElement>, onMove: (dx: number, dy: number) => void): void {
  event.preventDefault();
  const { clientX, clientY } = event;
  follow(
    event,
    (now) => onMove(now.clientX - clientX, now.clientY - clientY),
    () => {},
  );
}

/** Moves what one pointer drags, and zooms between two of them. */
export class PanAndPinch {
  /** By pointer: where it is, CSS pixels of the window. */
  readonly #at = new Map<number, Point>();

  /**
   * @param onMove - the way, how much further apart two pointers are than before (1 for one), and about which point; CSS pixels of
   *   what is pressed
   */
  press(event: PointerEvent<HTMLElement>, onMove: (way: Point, factor: number, about: Point) => void): void {
    event.preventDefault();
    const { currentTarget: target, pointerId, clientX, clientY } = event;
    this.#at.set(pointerId, { x: clientX, y: clientY });
    follow(
      event,
      (now) => {
        const before = this.#grip();
        this.#at.set(pointerId, { x: now.clientX, y: now.clientY });
        const after = this.#grip();
        const { left, top } = target.getBoundingClientRect();
        onMove(
          { x: after.middle.x - before.middle.x, y: after.middle.y - before.middle.y },
          before.span > 0 ? after.span / before.span : 1,
          { x: after.middle.x - left, y: after.middle.y - top },
        );
      },
      () => this.#at.delete(pointerId),
    );
  }

  #grip(): { readonly middle: Point; readonly span: number } {
    const [a, b = a] = [...this.#at.values()] as [Point, Point?];
    return {
      middle: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
      span: Math.hypot(a.x - b.x, a.y - b.y),
    };
  }
}
