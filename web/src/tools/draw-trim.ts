import { cornersOf, HANDLES, handlePoint } from '@miradero/core/board';
import { boardToScreen, boardToScreenAffine, type Point } from '@miradero/core/geometry';
import { keptOnBoard } from '@miradero/core/items';
import type { Placement } from '@miradero/core/schema';
import type { Seat } from '../desk/index.ts';
import { drawFigure } from './draw-selection.ts';
import {
  type Context,
  DARK,
  LIGHT,
  strokeDouble,
  strokeTick,
  TICK_OUT_PX,
  TICK_PX,
  unit,
} from './strokes.ts';
import type { TrimGhost } from './trim-ghost.ts';

/** The whole picture with what is kept of it, and the eight handles that move its edges. */
export function drawTrim(
  context: Context,
  { view, marks }: Seat,
  placement: Placement,
  ghost: TrimGhost,
): void {
  const toScreen = (p: Point) => boardToScreen(view.camera, view.viewport, p);
  ghost.draw(context, placement, boardToScreenAffine(view.camera, view.viewport));
  const kept = (marks.trim ?? keptOnBoard(placement)).map(toScreen);
  context.save();
  context.beginPath();
  context.rect(0, 0, view.viewport.width, view.viewport.height);
  kept.forEach((p, index) => {
    if (index === 0) context.moveTo(p.x, p.y);
    else context.lineTo(p.x, p.y);
  });
  context.closePath();
  context.fillStyle = 'rgba(24, 24, 24, 0.62)';
  context.fill('evenodd');
  context.restore();
  strokeDouble(context, kept);
  if (marks.line) strokeDouble(context, marks.line.map(toScreen));
  if (marks.figure) drawFigure(context, marks.figure);
  if (marks.trim || marks.line) return;
  // What is kept may be less than its frame, by which it is grasped.
  if (placement.trim.outline) strokeDouble(context, cornersOf(placement).map(toScreen));
  const centre = toScreen(placement.centre);
  for (const handle of HANDLES) {
    const at = toScreen(handlePoint(placement, handle));
    if (handle.x !== 0 && handle.y !== 0) {
      const towards = (x: number, y: number) =>
        unit(at, toScreen(handlePoint(placement, { x, y } as typeof handle)));
      strokeTick(context, at, towards(-handle.x, handle.y), towards(handle.x, -handle.y));
      continue;
    }
    const inward = unit(at, centre);
    const along = { x: -inward.y, y: inward.x };
    const out = { x: at.x - inward.x * TICK_OUT_PX, y: at.y - inward.y * TICK_OUT_PX };
    for (const [width, style] of [
      [5, DARK],
      [2, LIGHT],
    ] as const) {
      context.beginPath();
      context.moveTo(out.x - along.x * TICK_PX, out.y - along.y * TICK_PX);
      context.lineTo(out.x + along.x * TICK_PX, out.y + along.y * TICK_PX);
      context.lineWidth = width;
      context.strokeStyle = style;
      context.stroke();
    }
  }
}
