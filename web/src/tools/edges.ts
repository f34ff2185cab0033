import type { Point } from '@miradero/core/geometry';
import type { StageView } from '../stage/index.ts';

/** What a pen alone does along an edge of the view: the right one zooms, the lower one pans. */
export type Edge = 'zoom' | 'pan';

/** Width of the strips along the edges, CSS pixels. */
export const EDGE_PX = 22;

/** The edge strip under a point; for a pen only: a mouse has a wheel, a hand two fingers. */
export function edgeAt(view: StageView, point: Point, pointerType: string): Edge | undefined {
  if (pointerType !== 'pen') return undefined;
  const { width, height } = view.holderSize;
  const { x, y } = view.inHolder(point);
  if (x >= width - EDGE_PX) return 'zoom';
  return y >= height - EDGE_PX ? 'pan' : undefined;
}
