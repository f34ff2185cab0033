import { cornersOf, type Guide, HANDLES, handlePoint } from '@miradero/core/board';
import {
  boardToScreen,
  boardToScreenAffine,
  type Point,
  type Rectangle,
  unionOf,
} from '@miradero/core/geometry';
import type { Item, Placement } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';
import { plumbOf, sizeGrips } from './handles.ts';
import type { TrimGhost } from './trim-ghost.ts';

const DARK = 'rgba(20, 20, 20, 0.9)';
const LIGHT = 'rgba(255, 255, 255, 0.95)';
const OCHRE = '#b9791a';
const FRAMES_MOST = 400;
const TICK_PX = 12;
const TICK_OUT_PX = 5;

/** What a drag is marking right now, CSS pixels of the view. */
export interface Marks {
  readonly band: Rectangle | undefined;
  /** Corners of a trim in the making, board units. */
  readonly trim: readonly Point[] | undefined;
  /** What the dragged things lie along, board units. */
  readonly guides: readonly Guide[];
  /** What the drag comes to, beside the pointer. */
  readonly figure: { readonly text: string; readonly at: Point } | undefined;
}

type Context = CanvasRenderingContext2D;

function tracePolygon(context: Context, points: readonly Point[]): void {
  context.beginPath();
  points.forEach((p, index) => {
    if (index === 0) context.moveTo(p.x, p.y);
    else context.lineTo(p.x, p.y);
  });
  context.closePath();
}

const isAlike = (a: number, b: number) => Math.abs(a - b) < 0.01;

/** An upright rectangle on the middles of pixels, so that its hairlines are not smeared over two; others as they are. */
function crisp(points: readonly Point[]): readonly Point[] {
  const isUpright = points.every((p, index) => {
    const next = points[(index + 1) % points.length]!;
    return isAlike(p.x, next.x) || isAlike(p.y, next.y);
  });
  const middle = (at: number) => Math.floor(at) + 0.5;
  return isUpright ? points.map(({ x, y }) => ({ x: middle(x), y: middle(y) })) : points;
}

/** A dark and a light hairline side by side: one of them shows on any picture. */
function strokeDouble(context: Context, corners: readonly Point[]): void {
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
function strokeTick(context: Context, at: Point, alongX: Point, alongY: Point): void {
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

const unit = (from: Point, to: Point): Point => {
  const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
  return { x: (to.x - from.x) / length, y: (to.y - from.y) / length };
};

function drawSelection(context: Context, view: StageView, items: readonly Item[]): void {
  const toScreen = (p: Point) => boardToScreen(view.camera, view.viewport, p);
  // Thousands of frames tell nothing that their common one does not.
  if (items.length <= FRAMES_MOST) {
    for (const item of items) strokeDouble(context, cornersOf(item).map(toScreen));
  }
  const corners = sizeGrips(items).map((grip) => toScreen(grip.point));
  if (corners.length !== 4) return;
  const [a, b, c, d] = corners as [Point, Point, Point, Point];
  if (items.length > 1) {
    context.setLineDash([2, 3]);
    strokeDouble(context, corners);
    context.setLineDash([]);
  }
  for (const [at, next, before] of [
    [a, b, d],
    [b, c, a],
    [c, d, b],
    [d, a, c],
  ] as const) {
    strokeTick(context, at, unit(at, next), unit(at, before));
  }
}

/** The plumb line by which the selection is turned: it hangs where the picture's own down is. */
function drawPlumb(context: Context, view: StageView, items: readonly Item[]): void {
  const plumb = plumbOf(items, view);
  if (!plumb) return;
  const { from, bob } = plumb;
  const down = unit(from, bob);
  const across = { x: -down.y, y: down.x };
  const at = (along: number, aside: number) => ({
    x: bob.x + down.x * along + across.x * aside,
    y: bob.y + down.y * along + across.y * aside,
  });
  const tip = [at(-6, -4), at(-6, 4), at(6, 0)];
  for (const [width, style] of [
    [4, DARK],
    [1.5, LIGHT],
  ] as const) {
    context.lineWidth = width;
    context.strokeStyle = style;
    context.beginPath();
    context.moveTo(from.x, from.y);
    context.lineTo(bob.x, bob.y);
    context.stroke();
    tracePolygon(context, tip);
    context.stroke();
  }
  context.fillStyle = LIGHT;
  context.fill();
}

/** Ochre lines along which the dragged things lie; between gaps, one with ends. */
function drawGuides(context: Context, view: StageView, guides: readonly Guide[]): void {
  const toScreen = (p: Point) => boardToScreen(view.camera, view.viewport, p);
  for (const { kind, from, to } of guides) {
    const [a, b] = [toScreen(from), toScreen(to)];
    const along = unit(a, b);
    const end = { x: -along.y * 4, y: along.x * 4 };
    for (const [width, style] of [
      [3, 'rgba(250, 250, 249, 0.75)'],
      [1.25, OCHRE],
    ] as const) {
      context.lineWidth = width;
      context.strokeStyle = style;
      if (kind === 'centre') context.setLineDash([6, 3]);
      context.beginPath();
      context.moveTo(a.x, a.y);
      context.lineTo(b.x, b.y);
      if (kind === 'gap') {
        for (const p of [a, b]) {
          context.moveTo(p.x - end.x, p.y - end.y);
          context.lineTo(p.x + end.x, p.y + end.y);
        }
      }
      context.stroke();
      context.setLineDash([]);
    }
  }
}

/** A figure on paper beside the pointer. */
function drawFigure(context: Context, { text, at }: NonNullable<Marks['figure']>): void {
  context.font = "12px 'JetBrains Mono Variable', ui-monospace, monospace";
  const width = context.measureText(text).width + 14;
  const [x, y] = [Math.round(at.x + 16), Math.round(at.y + 18)];
  context.fillStyle = '#fafaf9';
  context.fillRect(x, y, width, 22);
  context.lineWidth = 1;
  context.strokeStyle = 'rgba(20, 20, 20, 0.35)';
  context.strokeRect(x + 0.5, y + 0.5, width - 1, 21);
  context.fillStyle = '#1d1d1b';
  context.fillText(text, x + 7, y + 15);
}

function drawTrim(
  context: Context,
  view: StageView,
  placement: Placement,
  ghost: TrimGhost,
  marks: Marks,
): void {
  const toScreen = (p: Point) => boardToScreen(view.camera, view.viewport, p);
  ghost.draw(context, placement, boardToScreenAffine(view.camera, view.viewport));
  const kept = (marks.trim ?? cornersOf(placement)).map(toScreen);
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
  if (marks.trim) return;
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

function drawArrivals(context: Context, view: StageView, desk: Desk): void {
  for (const { place, name } of desk.arrivals) {
    const a = boardToScreen(view.camera, view.viewport, place);
    const width = place.width * view.camera.scale;
    const height = place.height * view.camera.scale;
    context.fillStyle = 'rgba(128, 128, 128, 0.55)';
    context.fillRect(a.x, a.y, width, height);
    context.lineWidth = 1;
    context.strokeStyle = LIGHT;
    context.strokeRect(a.x + 0.5, a.y + 0.5, width - 1, height - 1);
    if (width < 60 || height < 30) continue;
    context.save();
    context.beginPath();
    context.rect(a.x, a.y, width, height);
    context.clip();
    context.fillStyle = '#fafaf9';
    context.font = "italic 15px 'Newsreader Variable', Georgia, serif";
    context.fillText(name, a.x + 10, a.y + 24);
    context.restore();
  }
}

/** Draws everything above the pictures: arrivals, what keys would act on, the selection, the trim, the band. */
export function drawOverlay(
  context: Context,
  view: StageView,
  desk: Desk,
  marks: Marks,
  ghost: TrimGhost,
): void {
  drawArrivals(context, view, desk);
  const { mode } = desk;
  const shown = (id: string) => desk.session.shown(id);
  if (mode.kind === 'trim') {
    const placement = shown(mode.id);
    if (placement?.kind === 'placement') drawTrim(context, view, placement, ghost, marks);
    return;
  }
  const selected = [...desk.selection].flatMap((id) => shown(id) ?? []);
  const hovered = desk.hovered === undefined || desk.selection.size > 0 ? undefined : shown(desk.hovered);
  if (hovered && !hovered.removed) {
    const corners = cornersOf(hovered).map((p) => boardToScreen(view.camera, view.viewport, p));
    context.setLineDash([1, 3]);
    strokeDouble(context, corners);
    context.setLineDash([]);
  }
  if (selected.length > 0 && mode.kind === 'rest') {
    drawSelection(context, view, selected);
    if (marks.guides.length === 0) drawPlumb(context, view, selected);
  }
  drawGuides(context, view, marks.guides);
  if (marks.figure) drawFigure(context, marks.figure);
  if (marks.band) {
    const { x, y, width, height } = marks.band;
    context.fillStyle = 'rgba(255, 255, 255, 0.08)';
    context.fillRect(x, y, width, height);
    strokeDouble(context, [
      { x, y },
      { x: x + width, y },
      { x: x + width, y: y + height },
      { x, y: y + height },
    ]);
  }
}

/** Bounds of the selection on screen, CSS pixels; undefined when nothing is selected. */
export function selectionOnScreen(view: StageView, items: readonly Item[]): Rectangle | undefined {
  const bounds = unionOf(
    items.map((item) => {
      const points = cornersOf(item).map((p) => boardToScreen(view.camera, view.viewport, p));
      const xs = points.map((p) => p.x);
      const ys = points.map((p) => p.y);
      const x = Math.min(...xs);
      const y = Math.min(...ys);
      return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
    }),
  );
  return bounds;
}
