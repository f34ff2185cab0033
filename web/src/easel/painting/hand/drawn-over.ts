import type { Point } from '@miradero/core/geometry';
import type { Brush } from '@miradero/core/paint';
import type { Sample, StageView } from '../../../stage/index.ts';

/** What of a stroke the worker has not shown yet: it is seen as the hand made it, CSS pixels of the view. */
export interface Tail {
  readonly view: StageView;
  readonly brush: Brush;
  readonly colour: string | undefined;
  /** CSS pixels of the view for one of the sheet. */
  readonly scale: number;
  points: readonly (Sample & { readonly number: number })[];
  /** Where the pen will most likely be next. */
  ahead: readonly Sample[];
}

/** More of it is not drawn: a worker that is far behind is not to be held up. */
const MOST_OF_TAIL = 24;

/** Nearly as the worker paints it: for the one or two frames until it has. */
export function drawTail(
  context: CanvasRenderingContext2D,
  { points, ahead, brush, colour, scale }: Tail,
): void {
  if (colour === undefined || points.length === 0) return;
  const way = [...points.slice(-MOST_OF_TAIL), ...ahead];
  context.save();
  context.lineCap = 'round';
  context.strokeStyle = colour;
  for (const [index, to] of way.entries()) {
    const from = way[Math.max(0, index - 1)]!;
    const pressed = brush.pressureTo.size ? to.pressure : 1;
    const strength = brush.pressureTo.opacity ? to.pressure : 1;
    context.globalAlpha =
      brush.opacity * strength * (0.4 + 0.6 * brush.hardness) * Math.min(1, brush.flow * 2);
    context.lineWidth = Math.max(1, brush.sizePx * scale * pressed * (0.6 + 0.4 * brush.hardness));
    context.beginPath();
    context.moveTo(from.x, from.y);
    context.lineTo(to.x, to.y);
    context.stroke();
  }
  context.restore();
}

/** A closed line that is seen on any picture. */
export function drawOutline(context: CanvasRenderingContext2D, points: readonly Point[]): void {
  context.beginPath();
  for (const { x, y } of points) context.lineTo(x, y);
  context.closePath();
  context.lineWidth = 2.5;
  context.strokeStyle = '#ffffff';
  context.stroke();
  context.lineWidth = 1;
  context.strokeStyle = '#2c7a6b';
  context.stroke();
}

/** How large the brush is, where the pointer is. @param radius - CSS pixels */
export function drawRing(context: CanvasRenderingContext2D, { x, y }: Point, radius: number): void {
  for (const [colour, width] of [
    ['#ffffff', 2.5],
    ['#000000', 1],
  ] as const) {
    context.beginPath();
    context.arc(x, y, Math.max(2, radius), 0, 2 * Math.PI);
    context.lineWidth = width;
    context.strokeStyle = colour;
    context.stroke();
  }
}
