import type { Point, Rectangle } from '../geometry/index.ts';

/** A line that shows along what something was aligned, board units. */
export interface Guide {
  readonly kind: 'edge' | 'centre' | 'gap';
  readonly from: Point;
  readonly to: Point;
}

/** How far to move on so that what is dragged lies along its neighbours, and what it then lies along. */
export interface Alignment {
  readonly delta: Point;
  readonly guides: readonly Guide[];
}

/** Neighbours considered: the nearest ones are what the eye lines things up with. */
const NEIGHBOURS = 24;

/** One axis of a rectangle: `low`..`high` along it, `start`..`end` across it. */
interface Span {
  readonly low: number;
  readonly high: number;
  readonly start: number;
  readonly end: number;
}

interface Snap {
  readonly shift: number;
  /** Lines across the axis (edges, centres) or along it (gaps), in span coordinates, once `shift` is applied. */
  lines(moved: Span): { kind: Guide['kind']; along: [number, number]; across: [number, number] }[];
}

const spanX = (r: Rectangle): Span => ({ low: r.x, high: r.x + r.width, start: r.y, end: r.y + r.height });
const spanY = (r: Rectangle): Span => ({ low: r.y, high: r.y + r.height, start: r.x, end: r.x + r.width });
const middle = (span: Span) => (span.low + span.high) / 2;
const meets = (a: Span, b: Span) => a.start < b.end && b.start < a.end;

function* alignments(moving: Span, other: Span): Generator<Snap> {
  const pairs: ['edge' | 'centre', number, number][] = [
    ['edge', moving.low, other.low],
    ['edge', moving.low, other.high],
    ['edge', moving.high, other.low],
    ['edge', moving.high, other.high],
    ['centre', middle(moving), middle(other)],
  ];
  for (const [kind, own, at] of pairs) {
    yield {
      shift: at - own,
      lines: (moved) => [
        {
          kind,
          along: [at, at],
          across: [Math.min(moved.start, other.start), Math.max(moved.end, other.end)],
        },
      ],
    };
  }
}

/** Where the space to a neighbour equals the space between two neighbours, or lies even between two. */
function* equalGaps(moving: Span, row: readonly Span[]): Generator<Snap> {
  const length = moving.high - moving.low;
  const gapLine = (from: number, to: number, a: Span, b: Span) => {
    const across = (Math.max(a.start, b.start) + Math.min(a.end, b.end)) / 2;
    return {
      kind: 'gap' as const,
      along: [from, to] as [number, number],
      across: [across, across] as [number, number],
    };
  };
  const sorted = [...row].sort((a, b) => a.low - b.low);
  for (let index = 0; index + 1 < sorted.length; index += 1) {
    const [a, b] = [sorted[index]!, sorted[index + 1]!];
    const gap = b.low - a.high;
    if (gap <= 0) continue;
    const between = (moved: Span) => gapLine(a.high, b.low, a, meets(a, b) ? b : moved);
    yield {
      shift: b.high + gap - moving.low,
      lines: (moved) => [between(moved), gapLine(b.high, moved.low, b, moved)],
    };
    yield {
      shift: a.low - gap - moving.high,
      lines: (moved) => [between(moved), gapLine(moved.high, a.low, a, moved)],
    };
    if (gap > length) {
      yield {
        shift: (a.high + b.low - length) / 2 - moving.low,
        lines: (moved) => [gapLine(a.high, moved.low, a, moved), gapLine(moved.high, b.low, moved, b)],
      };
    }
  }
}

function nearestSnap(moving: Span, others: readonly Span[], reach: number): Snap | undefined {
  let best: Snap | undefined;
  const consider = (snaps: Iterable<Snap>) => {
    for (const snap of snaps) {
      const isNearer = Math.abs(snap.shift) < Math.abs(best?.shift ?? reach) - 1e-9;
      if (isNearer || (best === undefined && Math.abs(snap.shift) <= reach)) best = snap;
    }
  };
  for (const other of others) consider(alignments(moving, other));
  consider(
    equalGaps(
      moving,
      others.filter((other) => meets(moving, other)),
    ),
  );
  return best;
}

const shifted = (span: Span, along: number, across: number): Span => ({
  low: span.low + along,
  high: span.high + along,
  start: span.start + across,
  end: span.end + across,
});

const away = (a: Rectangle, b: Rectangle) =>
  Math.max(0, b.x - a.x - a.width, a.x - b.x - b.width) +
  Math.max(0, b.y - a.y - a.height, a.y - b.y - b.height);

/**
 * Lines up what is dragged with what stands near: edges and centres with those of a neighbour, gaps with gaps between
 * neighbours. Each axis is snapped on its own, to the nearest possibility within `reach`.
 *
 * @param moving - bounds of what is dragged, where the hand has it
 * @param standing - bounds of what it may line up with
 * @param reach - board units; 0 lines nothing up
 */
export function alignTo(moving: Rectangle, standing: readonly Rectangle[], reach: number): Alignment {
  const near = [...standing].sort((a, b) => away(moving, a) - away(moving, b)).slice(0, NEIGHBOURS);
  const alongX = nearestSnap(spanX(moving), near.map(spanX), reach);
  const alongY = nearestSnap(spanY(moving), near.map(spanY), reach);
  const delta = { x: alongX?.shift ?? 0, y: alongY?.shift ?? 0 };
  const guides: Guide[] = [];
  for (const { kind, along, across } of alongX?.lines(shifted(spanX(moving), delta.x, delta.y)) ?? []) {
    guides.push({ kind, from: { x: along[0], y: across[0] }, to: { x: along[1], y: across[1] } });
  }
  for (const { kind, along, across } of alongY?.lines(shifted(spanY(moving), delta.y, delta.x)) ?? []) {
    guides.push({ kind, from: { x: across[0], y: along[0] }, to: { x: across[1], y: along[1] } });
  }
  return { delta, guides };
}

/** Guides of a sheet as things that others line up with: as long as the view, and of no width. */
export const guideRectangles = (
  guides: { readonly x: readonly number[]; readonly y: readonly number[] },
  view: Rectangle,
): Rectangle[] => [
  ...guides.x.map((x) => ({ x, y: view.y, width: 0, height: view.height })),
  ...guides.y.map((y) => ({ x: view.x, y, width: view.width, height: 0 })),
];
