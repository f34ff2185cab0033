import type { Point } from '@miradero/core/geometry';

export const DARK = 'rgba(20, 20, 20, 0.9)';
export const LIGHT = 'rgba(255, 255, 255, 0.95)';
export const TICK_PX = 12;
export const TICK_OUT_PX = 5;

export type Context = CanvasRenderingContext2D;

export function tracePolygon(context: Context, points: readonly Point[]): void {
  context.beginPath();
  points.forEach((p, index) => {
    if (index === 0) context.moveTo(p.x, p.y);
    else context.lineTo(p.x, p.y);
  });
  context.closePath();
}

const isAlike = (a: number, b: number) => Math.abs(a - b) < 0.01;

/** An upright rectangle on the middles of pixels, so that its hairlines are not smeared over two; others as they are. */
export function crisp(points: readonly Point[]): readonly Point[] {
  const isUpright = points.every((p, index) => {
    const next = points[(index + 1) % points.length]!;
    return isAlike(p.x, next.x) || isAlike(p.y, next.y);
  });
  const middle = (at: number) => Math.floor(at) + 0.5;
  return isUpright ? points.map(({ x, y }) => ({ x: middle(x), y: middle(y) })) : points;
}

/** A dark and a light hairline side by side: one of them shows on any picture. */
export function strokeDouble(context: Context, corners: readonly Point[]): void {
  const points = crisp(corners);
  tracePolygon(context, points);
  context.lineWidth = 3;
  context.strokeStyle = DARK;
  context.stroke();
  context.lineWidth = 1;
  context.strokeStyle = LIGHT;
  context.stroke();
}

/** A corner tick: two short strokes along the sides, just outside the frame. */
export function strokeTick(context: Context, at: Point, alongX: Point, alongY: Point): void {
  const out = {
    x: at.x - (alongX.x + alongY.x) * TICK_OUT_PX,
    y: at.y - (alongX.y + alongY.y) * TICK_OUT_PX,
  };
  for (const [width, style] of [
    [5, DARK],
    [2, LIGHT],
  ] as const) {
    context.beginPath();
    context.moveTo(out.x + alongX.x * TICK_PX, out.y + alongX.y * TICK_PX);
    context.lineTo(out.x, out.y);
    context.lineTo(out.x + alongY.x * TICK_PX, out.y + alongY.y * TICK_PX);
    context.lineWidth = width;
    context.strokeStyle = style;
    context.stroke();
  }
}

export const unit = (from: Point, to: Point): Point => {
  const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
  return { x: (to.x - from.x) / length, y: (to.y - from.y) / length };
};
