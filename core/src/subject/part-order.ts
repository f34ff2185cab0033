import type { SubjectPart } from '../schema/index.ts';

type Parts = readonly SubjectPart[];

/** A part as a line of the list: parts lie at depth 0, parts of parts at 1; deeper there is nothing. */
interface Line {
  readonly id: string;
  readonly name: string;
  readonly depth: 0 | 1;
}

const linesOf = (parts: Parts): Line[] =>
  parts.flatMap(({ id, name, parts: inner }): Line[] => [
    { id, name, depth: 0 },
    ...inner.map((one): Line => ({ id: one.id, name: one.name, depth: 1 })),
  ]);

function partsOf(lines: readonly Line[]): SubjectPart[] {
  const parts: { id: string; name: string; parts: { id: string; name: string }[] }[] = [];
  for (const { id, name, depth } of lines) {
    const last = parts.at(-1);
    // What has nothing above it lies at the top.
    if (depth === 0 || !last) parts.push({ id, name, parts: [] });
    else last.parts.push({ id, name });
  }
  return parts;
}

/** The lines that move with a part: itself, and what lies within it. */
function blockAt(lines: readonly Line[], index: number): number {
  if (lines[index]!.depth === 1) return 1;
  const end = lines.findIndex((line, at) => at > index && line.depth === 0);
  return (end < 0 ? lines.length : end) - index;
}

export type PartMove = 'up' | 'down' | 'in' | 'out';

/**
 * Moves a part by a step: up or down among its like (one within another goes on into the next part), into the part above it,
 * or out of the one that holds it. What lay within a part that goes into another lies beside it there.
 *
 * @returns the same parts where there is nowhere to go
 */
export function movePart(parts: Parts, id: string, move: PartMove): Parts {
  const lines = linesOf(parts);
  const at = lines.findIndex((line) => line.id === id);
  if (at < 0) return parts;
  const length = blockAt(lines, at);
  const block = lines.slice(at, at + length);
  const rest = [...lines.slice(0, at), ...lines.slice(at + length)];
  const { depth } = lines[at]!;
  const put = (index: number, moved: readonly Line[] = block) =>
    partsOf([...rest.slice(0, index), ...moved, ...rest.slice(index)]);
  if (move === 'in') {
    if (depth === 1 || at === 0) return parts;
    return put(
      at,
      block.map((line) => ({ ...line, depth: 1 as const })),
    );
  }
  if (move === 'out') {
    if (depth === 0) return parts;
    const after = rest.findIndex((line, index) => index >= at && line.depth === 0);
    return put(after < 0 ? rest.length : after, [{ ...block[0]!, depth: 0 }]);
  }
  if (move === 'up') {
    if (depth === 1) {
      // Above the first within a part lies that part; above it, the last of the part before.
      return at <= 1 ? parts : put(at - 1);
    }
    const before = rest.slice(0, at).findLastIndex((line) => line.depth === 0);
    return before < 0 ? parts : put(before);
  }
  if (depth === 1) return at >= rest.length ? parts : put(at + 1);
  if (at >= rest.length) return parts;
  return put(at + blockAt(rest, at));
}

export type PartPlace = 'before' | 'after' | 'within';

/**
 * Lays a part before or after another, at the depth at which that lies, or within it as the last one.
 *
 * @returns the same parts where it is laid onto itself, or into what lies within it
 */
export function layPart(parts: Parts, id: string, place: PartPlace, target: string): Parts {
  const lines = linesOf(parts);
  const at = lines.findIndex((line) => line.id === id);
  const onto = lines.findIndex((line) => line.id === target);
  if (at < 0 || onto < 0) return parts;
  const length = blockAt(lines, at);
  if (onto >= at && onto < at + length) return parts;
  const rest = [...lines.slice(0, at), ...lines.slice(at + length)];
  const to = rest.findIndex((line) => line.id === target);
  const { depth } = rest[to]!;
  const whole = blockAt(rest, to);
  const index = place === 'before' ? to : depth === 0 || place === 'within' ? to + whole : to + 1;
  const deep = place === 'within' || depth === 1 ? 1 : 0;
  const moved = lines
    .slice(at, at + length)
    .map((line, number): Line => ({ ...line, depth: deep === 1 ? 1 : number === 0 ? 0 : 1 }));
  return partsOf([...rest.slice(0, index), ...moved, ...rest.slice(index)]);
}
