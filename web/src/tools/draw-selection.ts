import { cornersOf } from '@miradero/core/board';
import { boardToScreen, type Point, type Rectangle, unionOf } from '@miradero/core/geometry';
import type { Item } from '@miradero/core/schema';
import type { Marks, Seat } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';
import { plumbOf, sideGrips, sizeGrips } from './handles.ts';
import { type Context, DARK, LIGHT, strokeDouble, strokeTick, tracePolygon, unit } from './strokes.ts';

const OCHRE = '#b9791a';
const FRAMES_MOST = 400;

export function drawSelection(context: Context, view: StageView, items: readonly Item[]): void {
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

/** Short strokes on the sides by which words are wrapped. */
function drawSides(context: Context, view: StageView, items: readonly Item[]): void {
  for (const { point, anchor } of sideGrips(items)) {
    const [at, from] = [point, anchor].map((p) => boardToScreen(view.camera, view.viewport, p)) as [
      Point,
      Point,
    ];
    const across = unit(from, at);
    const down = { x: -across.y, y: across.x };
    strokeTick(context, at, down, { x: -down.x, y: -down.y });
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
function drawGuides(context: Context, view: StageView, guides: Marks['guides']): void {
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
export function drawFigure(context: Context, { text, at }: NonNullable<Marks['figure']>): void {
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

/** Pictures on their way in: their shapes and names stand already. */
export function drawArrivals(context: Context, { view, desk }: Seat): void {
  for (const { place, name } of desk.now.arrivals) {
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

/** Drawn one by one: more would be a thicket. */
const LIT_MOST = 300;
const LIT_OFF_PX = 5;

/** What something happened to while nobody looked: a hairline of dots that stands off, with its corners drawn out. */
export function drawLit(context: Context, { view, desk }: Seat): void {
  const { lit } = desk.now;
  if (lit.size === 0) return;
  let left = LIT_MOST;
  for (const id of lit) {
    const item = desk.feed.isSeen(id) ? desk.session.shown(id) : undefined;
    if (!item || left === 0) continue;
    left -= 1;
    const corners = cornersOf(item).map((p) => boardToScreen(view.camera, view.viewport, p));
    const middle = boardToScreen(view.camera, view.viewport, item.centre);
    const off = corners.map((corner) => {
      const away = unit(middle, corner);
      return { x: corner.x + away.x * LIT_OFF_PX, y: corner.y + away.y * LIT_OFF_PX };
    });
    context.setLineDash([1, 4]);
    strokeDouble(context, off);
    context.setLineDash([]);
    for (const [index, at] of off.entries()) {
      const [next, before] = [off[(index + 1) % off.length]!, off[(index + off.length - 1) % off.length]!];
      strokeTick(context, at, unit(at, next), unit(at, before));
    }
  }
}

/** What keys would act on while nothing is selected. */
function drawHovered(context: Context, { desk, view }: Seat): void {
  if (desk.hovered === undefined || desk.selection.size > 0 || desk.now.walkedTo !== undefined) return;
  const hovered = desk.session.shown(desk.hovered);
  if (!hovered || hovered.removed) return;
  context.setLineDash([1, 3]);
  strokeDouble(
    context,
    cornersOf(hovered).map((p) => boardToScreen(view.camera, view.viewport, p)),
  );
  context.setLineDash([]);
}

/** Where one has walked to: the double hairline of every selection, dashed and standing off, and the frame of the stage that has the keyboard. */
function drawWalked(context: Context, { desk, view }: Seat): void {
  const { walkedTo } = desk.now;
  const item = walkedTo === undefined ? undefined : desk.session.shown(walkedTo);
  if (!item || item.removed) return;
  const { width, height } = view.viewport;
  strokeDouble(context, frameOf({ x: 2, y: 2, width: width - 4, height: height - 4 }));
  if (desk.selection.size > 0) return;
  const corners = cornersOf(item).map((p) => boardToScreen(view.camera, view.viewport, p));
  const middle = boardToScreen(view.camera, view.viewport, item.centre);
  const off = corners.map((corner) => {
    const away = unit(middle, corner);
    return { x: corner.x + away.x * WALKED_OFF_PX, y: corner.y + away.y * WALKED_OFF_PX };
  });
  context.setLineDash([7, 4]);
  strokeDouble(context, off);
  context.setLineDash([]);
}

const WALKED_OFF_PX = 6;

const frameOf = ({ x, y, width, height }: Rectangle): Point[] => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];

/** What is selected, with the handles that size and turn it, and what a drag marks. */
export function drawSelecting(context: Context, seat: Seat): void {
  const { desk, view, marks } = seat;
  drawHovered(context, seat);
  drawWalked(context, seat);
  const selected = [...desk.selection].flatMap((id) => desk.session.shown(id) ?? []);
  if (selected.length > 0) {
    drawSelection(context, view, selected);
    drawSides(context, view, selected);
    if (marks.guides.length === 0) drawPlumb(context, view, selected);
  }
  drawMarks(context, seat);
}

/** Guides, figure and band of the drag that is under way. */
export function drawMarks(context: Context, { view, marks }: Seat): void {
  drawGuides(context, view, marks.guides);
  if (marks.figure) drawFigure(context, marks.figure);
  if (!marks.band) return;
  const { x, y, width, height } = marks.band;
  context.fillStyle = 'rgba(255, 255, 255, 0.08)';
  context.fillRect(x, y, width, height);
  strokeDouble(context, frameOf(marks.band));
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
