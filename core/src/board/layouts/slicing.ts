import type { ScaledPacking, Size } from './packing.ts';

/** Sizes joined without a hole: side by side where their heights are made equal, one above the other where their widths are. */
interface Block extends Size {
  /** By how much it may still be scaled either way, as a logarithm, without any size in it being scaled by more than is allowed. */
  readonly play: number;
  /** Which size it is, or of what it consists. */
  readonly of: number | Join;
}

interface Join {
  readonly isRow: boolean;
  readonly first: Block;
  readonly second: Block;
  /** Factors by which the two are scaled. */
  readonly factors: readonly [number, number];
}

/** Joins two blocks, each scaled as little as need be; undefined where that is too much. */
function join(first: Block, second: Block, isRow: boolean): Block | undefined {
  const apart = Math.log(isRow ? first.height / second.height : first.width / second.width);
  const low = Math.max(-first.play, -second.play - apart);
  const high = Math.min(first.play, second.play - apart);
  if (low > high) return undefined;
  const scale = (low + high) / 2;
  const factors = [Math.exp(scale), Math.exp(scale + apart)] as const;
  const [a, b] = factors;
  return {
    width: isRow ? first.width * a + second.width * b : first.width * a,
    height: isRow ? first.height * a : first.height * a + second.height * b,
    play: (high - low) / 2,
    of: { isRow, first, second, factors },
  };
}

/** So many blocks are joined in every way there is. */
const MOST_AT_ONCE = 9;
/** Ways kept of each set of blocks: those with most play, of different shapes. */
const WAYS = 10;
/** Shapes nearer to each other than this, as a logarithm of their aspect, are one. */
const SHAPE_STEP = 0.05;

const shapeOf = ({ width, height }: Size): number => Math.log(width / height);

/** The ways with most play, one for each shape. */
function bestOf(ways: readonly Block[]): Block[] {
  const byShape = new Map<number, Block>();
  for (const way of ways) {
    const shape = Math.round(shapeOf(way) / SHAPE_STEP);
    if ((byShape.get(shape)?.play ?? -1) < way.play) byShape.set(shape, way);
  }
  return [...byShape.values()].sort((a, b) => b.play - a.play).slice(0, WAYS);
}

/**
 * The ways to join all of some, each of which may itself be made in several ways; found set by set, from the ways with most
 * play to make a part of them.
 */
function joinAll(each: readonly (readonly Block[])[]): Block[] {
  const all = 2 ** each.length - 1;
  const ways: (readonly Block[])[] = Array.from({ length: all + 1 }, () => []);
  for (const [index, one] of each.entries()) ways[1 << index] = one;
  for (let set = 1; set <= all; set += 1) {
    const lowest = set & -set;
    if (set === lowest) continue;
    const found: Block[] = [];
    for (let part = (set - 1) & set; part > 0; part = (part - 1) & set) {
      // Each division once: the first part holds the lowest of the set.
      if (!(part & lowest)) continue;
      for (const first of ways[part]!)
        for (const second of ways[set ^ part]!)
          for (const isRow of [true, false]) {
            const block = join(first, second, isRow);
            if (block) found.push(block);
          }
    }
    ways[set] = set === all ? found : bestOf(found);
  }
  return [...ways[all]!];
}

/** Joins the two that lose least play by it, again and again, until so many are left or nothing fits. */
function joinUntil(given: readonly Block[], most: number): Block[] {
  const blocks = [...given];
  while (blocks.length > most) {
    let best: Block | undefined;
    let pair = [0, 0];
    for (const [index, first] of blocks.entries())
      for (let other = index + 1; other < blocks.length; other += 1)
        for (const isRow of [true, false]) {
          const block = join(first, blocks[other]!, isRow);
          if (block && block.play > (best?.play ?? -1)) [best, pair] = [block, [index, other]];
        }
    if (!best) break;
    blocks.splice(pair[1]!, 1);
    blocks.splice(pair[0]!, 1, best);
  }
  return blocks;
}

/** Deals sizes out so that each group has narrow and wide, small and large ones. */
function dealOut(blocks: readonly Block[], groups: number): Block[][] {
  const dealt: Block[][] = Array.from({ length: groups }, () => []);
  const sorted = [...blocks].sort((a, b) => shapeOf(a) - shapeOf(b) || a.width - b.width);
  for (const [index, block] of sorted.entries()) dealt[index % groups]!.push(block);
  return dealt;
}

/** Writes where every size of a block lies, and by how much it is scaled. */
function write(block: Block, x: number, y: number, scale: number, into: ScaledPacking['at'][number][]): void {
  const { of } = block;
  if (typeof of === 'number') {
    into[of] = { x, y, scale };
    return;
  }
  const [a, b] = [of.factors[0] * scale, of.factors[1] * scale];
  write(of.first, x, y, a, into);
  const [right, down] = of.isRow ? [of.first.width * a, 0] : [0, of.first.height * a];
  write(of.second, x + right, y + down, b, into);
}

/** Up to so many, pairs are joined first; of more, groups in many ways each. */
const FEW = 22;
/** Sizes that can be joined at most. */
export const MOST_SLICED = MOST_AT_ONCE ** 2;
/** As much play as is off from the wanted shape is given up for it. */
const SHAPE_COUNTS = 0.3;

/**
 * Packs sizes without any hole, as one rectangle cut again and again from side to side: each is scaled a little, its aspect kept.
 *
 * @param sizes - at most `MOST_SLICED`
 * @param aspect - width by height of the whole, met as nearly as can be
 * @param mostScale - the greatest factor, > 1, by which any may grow or shrink
 * @returns undefined where they cannot be joined within that
 */
export function slice(sizes: readonly Size[], aspect: number, mostScale: number): ScaledPacking | undefined {
  if (sizes.length === 0 || sizes.length > MOST_SLICED)
    throw new RangeError(`cannot slice ${sizes.length} sizes`);
  const play = Math.log(mostScale);
  const leaves = sizes.map(({ width, height }, of): Block => ({ width, height, play, of }));
  const each =
    leaves.length <= FEW
      ? joinUntil(leaves, MOST_AT_ONCE).map((block) => [block])
      : dealOut(leaves, Math.ceil(leaves.length / MOST_AT_ONCE)).map((group) =>
          bestOf(joinAll(group.map((block) => [block]))),
        );
  if (each.length > MOST_AT_ONCE) return undefined;
  const cost = (block: Block) => SHAPE_COUNTS * Math.abs(shapeOf(block) - Math.log(aspect)) - block.play;
  const [whole] = joinAll(each).sort((a, b) => cost(a) - cost(b));
  if (!whole) return undefined;
  const at: ScaledPacking['at'][number][] = [];
  write(whole, 0, 0, 1, at);
  return { at, width: whole.width, height: whole.height };
}
