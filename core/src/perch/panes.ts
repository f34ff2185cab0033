import type { Rectangle } from '../geometry/index.ts';

/** Two parts of a window beside or below each other, each a pane or parted again; `share` (0..1) is the first one's. */
export type PaneTree =
  | { readonly pane: string }
  | {
      readonly side: 'beside' | 'below';
      readonly share: number;
      readonly first: PaneTree;
      readonly second: PaneTree;
    };

/** A browser grants one floating window; more panes than this leave none of them large enough to look at. */
export const MOST_PERCH_PANES = 4;
/** A divider stops here: a pane with less shows nothing. */
const LEAST_SHARE = 0.12;

/** Which of two parts, from the outside in. */
export type PanePath = readonly ('first' | 'second')[];

export interface PlacedDivider {
  readonly path: PanePath;
  readonly side: 'beside' | 'below';
  /** The line between the parts, with the width of the gap. */
  readonly at: Rectangle;
  /** What the divider parts. */
  readonly within: Rectangle;
}

const isPane = (tree: PaneTree): tree is { readonly pane: string } => 'pane' in tree;

/** Panes from left to right, from top to bottom. */
export const panesOf = (tree: PaneTree): string[] =>
  isPane(tree) ? [tree.pane] : [...panesOf(tree.first), ...panesOf(tree.second)];

/**
 * Parts a pane in two halves; the new one comes to the right of it, or below.
 *
 * @returns undefined where there are as many panes as there may be, or no such pane
 * @throws RangeError for a name that is taken
 */
export function splitPane(
  tree: PaneTree,
  pane: string,
  fresh: string,
  side: 'beside' | 'below',
): PaneTree | undefined {
  const all = panesOf(tree);
  if (all.includes(fresh)) throw new RangeError(`there is a pane ${fresh} already`);
  if (all.length >= MOST_PERCH_PANES || !all.includes(pane)) return undefined;
  const split = (part: PaneTree): PaneTree =>
    isPane(part)
      ? part.pane === pane
        ? { side, share: 0.5, first: part, second: { pane: fresh } }
        : part
      : { ...part, first: split(part.first), second: split(part.second) };
  return split(tree);
}

/** What is left without a pane: what stood beside it takes its room. @returns undefined for nothing */
export function withoutPane(tree: PaneTree, pane: string): PaneTree | undefined {
  if (isPane(tree)) return tree.pane === pane ? undefined : tree;
  const first = withoutPane(tree.first, pane);
  const second = withoutPane(tree.second, pane);
  return first && second ? { ...tree, first, second } : (first ?? second);
}

/** Moves a divider. @param share - of the first part, 0..1; kept from either end */
export function withShare(tree: PaneTree, path: PanePath, share: number): PaneTree {
  if (isPane(tree)) return tree;
  const [part, ...rest] = path;
  if (part) return { ...tree, [part]: withShare(tree[part], rest, share) };
  return { ...tree, share: Math.min(1 - LEAST_SHARE, Math.max(LEAST_SHARE, share)) };
}

/**
 * Where panes and the dividers between them lie in a window.
 *
 * @param within - CSS pixels, whole numbers; so are all results, and they tile it
 * @param gapPx - width of a divider
 */
export function placePanes(
  tree: PaneTree,
  within: Rectangle,
  gapPx: number,
): { readonly panes: ReadonlyMap<string, Rectangle>; readonly dividers: readonly PlacedDivider[] } {
  const panes = new Map<string, Rectangle>();
  const dividers: PlacedDivider[] = [];
  const place = (part: PaneTree, room: Rectangle, path: PanePath): void => {
    if (isPane(part)) {
      panes.set(part.pane, room);
      return;
    }
    const isBeside = part.side === 'beside';
    const length = isBeside ? room.width : room.height;
    const gap = Math.min(gapPx, length);
    const before = Math.round((length - gap) * part.share);
    const cut = (from: number, to: number): Rectangle =>
      isBeside
        ? { ...room, x: room.x + from, width: to - from }
        : { ...room, y: room.y + from, height: to - from };
    dividers.push({ path, side: part.side, at: cut(before, before + gap), within: room });
    place(part.first, cut(0, before), [...path, 'first']);
    place(part.second, cut(before + gap, length), [...path, 'second']);
  };
  place(tree, within, []);
  return { panes, dividers };
}

/** Whether something read from a store is such a tree, with no pane twice and no more than there may be. */
export function isPaneTree(value: unknown): value is PaneTree {
  const names: string[] = [];
  const isTree = (part: unknown, depth: number): boolean => {
    if (typeof part !== 'object' || part === null || depth > MOST_PERCH_PANES) return false;
    const { pane, side, share, first, second } = part as Record<string, unknown>;
    if (pane !== undefined) return typeof pane === 'string' && names.push(pane) > 0;
    const isShare = typeof share === 'number' && share > 0 && share < 1;
    return (
      (side === 'beside' || side === 'below') &&
      isShare &&
      isTree(first, depth + 1) &&
      isTree(second, depth + 1)
    );
  };
  return isTree(value, 0) && names.length <= MOST_PERCH_PANES && new Set(names).size === names.length;
}
