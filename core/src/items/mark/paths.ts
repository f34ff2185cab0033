import { penOf, shapeOfStroke } from '../../freehand/index.ts';
import type { Path } from '../primitives.ts';
import { partOf, pointsOf, type Stroke } from './stroke.ts';

/** What strokes leave, found once: items are never altered in place. */
const found = new WeakMap<Stroke, readonly Path[]>();

/** What a stroke leaves, in its own frame, units of its plane. */
export function pathsOf(stroke: Stroke): readonly Path[] {
  const known = found.get(stroke);
  if (known) return known;
  const { ink, nib, smoothing, seed } = stroke;
  const part = partOf(stroke);
  const decimals = Math.max(0, Math.ceil(-Math.log10(part)));
  const wish = { pen: penOf(stroke.pen), nib, smoothing, ink, seed };
  const { d, edge } = shapeOfStroke(pointsOf(stroke), wish, part, decimals);
  const paths: Path[] = [
    ...(edge ? [{ kind: 'path', d, stroke: edge } as const] : []),
    { kind: 'path', d, fill: ink },
  ];
  found.set(stroke, paths);
  return paths;
}
