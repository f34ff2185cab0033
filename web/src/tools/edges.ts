import type { Point } from '@miradero/core/geometry';
import type { StageView } from '../stage/index.ts';

/** What a pen alone does along an edge of the view: the right one zooms, the lower one pans. */
export type Edge = 'zoom' | 'pan';

/** Width of the strips along the edges, CSS pixels. */
export const EDGE_PX = 22;

/** The edge strip under a point; for a pen only: a mouse has a wheel, a hand two fingers. */
export function edgeAt({ viewport }: StageView, point: Point, pointerType: string): Edge | undefined {
  if (pointerType !== 'pen') return undefined;
  if (point.x >= viewport.width - EDGE_PX) return 'zoom';
  return point.y >= viewport.height - EDGE_PX ? 'pan' : undefined;
}
