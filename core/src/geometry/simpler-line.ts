import type { Point } from './point.ts';

/**
 * A line with fewer corners: none that was left out lies further off than `tolerance`.
 * Source: D. H. Douglas and T. K. Peucker, "Algorithms for the reduction of the number of points", 1973.
 */
export function simplerLine(line: readonly Point[], tolerance: number): Point[] {
  if (line.length < 3) return [...line];
  const kept = new Set([0, line.length - 1]);
  const parts: [number, number][] = [[0, line.length - 1]];
  for (let part = parts.pop(); part; part = parts.pop()) {
    const [from, to] = part;
    const [a, b] = [line[from]!, line[to]!];
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    let worst = -1;
    let off = tolerance;
    for (let at = from + 1; at < to; at += 1) {
      const { x, y } = line[at]!;
      const apart =
        length === 0
          ? Math.hypot(x - a.x, y - a.y)
          : Math.abs((b.x - a.x) * (a.y - y) - (a.x - x) * (b.y - a.y)) / length;
      if (apart > off) {
        off = apart;
        worst = at;
      }
    }
    if (worst < 0) continue;
    kept.add(worst);
    parts.push([from, worst], [worst, to]);
  }
  return [...kept].sort((a, b) => a - b).map((at) => line[at]!);
}
