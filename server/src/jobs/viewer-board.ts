import { boundsOf, drawList, isDrawn, rowsOf, withMarks } from '@miradero/core/board';
import type { ViewerBoard, ViewerPicture, ViewerPrimitive } from '@miradero/core/board-file';
import { sourceLineOf } from '@miradero/core/formats';
import { unionOf } from '@miradero/core/geometry';
import { isOutOfHand, isPlacement, type Primitive, wordsOf } from '@miradero/core/items';
import type { Item, Picture } from '@miradero/core/schema';
import { outlineOf, setLetters } from '../painting/outlines.ts';

/** Longest sides of the copies that the viewer shows, pixels. */
const SMALL_PX = 256;
const LARGE_PX = 1024;
const NOWHERE = { x: 0, y: 0, width: 100, height: 100 };

const creditOf = (picture: Picture): string => {
  const { creator, licence, page, address } = sourceLineOf(picture);
  return [creator && `by ${creator}`, licence, page || address].filter(Boolean).join(', ');
};

/** A copy beside the page, and the bytes that are it. */
export interface CopyPath {
  readonly path: string;
  readonly hash: string;
}

/** Numbers letters as they come up: each outline goes along once. */
class Alphabet {
  readonly #numbers = new Map<string, number>();
  numberOf = (letter: string): number => {
    const known = this.#numbers.get(letter);
    if (known !== undefined) return known;
    this.#numbers.set(letter, this.#numbers.size);
    return this.#numbers.size - 1;
  };
  get outlines() {
    return [...this.#numbers.keys()].map(outlineOf);
  }
}

/**
 * A board as the viewer of its file shows it.
 *
 * @param pictures - those of which copies go along
 */
export function viewerBoardOf(
  name: string,
  ground: string,
  given: readonly Item[],
  pictures: ReadonlyMap<string, Picture>,
): { readonly viewer: ViewerBoard; readonly paths: readonly CopyPath[] } {
  const items = new Map(given.map((item) => [item.id, item]));
  const seen = given.filter((item) => isDrawn(items, item));
  const extent = unionOf(seen.map(boundsOf)) ?? NOWHERE;
  const alphabet = new Alphabet();
  const drawnFor = (one: Primitive): ViewerPrimitive => {
    if (one.kind !== 'text') return one;
    const { at, scale, colour, clip, text } = one;
    return { kind: 'letters', ...{ at, scale, colour, clip }, ...setLetters(text, alphabet.numberOf) };
  };
  const paths: CopyPath[] = [];
  const copyOf = (picture: Picture, side: number): string | null => {
    const level = picture.levels.find((one) => one.side >= side) ?? picture.levels.at(-1);
    if (!level) return null;
    const path = `viewer/${side}/${picture.id}.webp`;
    paths.push({ path, hash: level.hash });
    return path;
  };
  const told = [...pictures.values()].map((picture): [string, ViewerPicture] => {
    const small = copyOf(picture, SMALL_PX);
    const isSmall = (picture.levels.at(-1)?.side ?? 0) <= SMALL_PX;
    const large = isSmall ? small : copyOf(picture, LARGE_PX);
    return [
      picture.id,
      { name: picture.name, credit: creditOf(picture), small, large, hash: picture.thumbhash },
    ];
  });
  const nameOf = (picture: string) => pictures.get(picture)?.name;
  const drawn = drawList(withMarks(items, seen), extent);
  const numbers = new Map(drawn.map(({ id }, number) => [id, number]));
  const viewer: ViewerBoard = {
    ...{ name, ground, extent, pictures: Object.fromEntries(told) },
    items: drawn.map(({ id, frame, width, height, opacity, isMultiplied, primitives }) => ({
      ...{ id, frame, width, height, opacity, words: wordsOf(items.get(id)!, nameOf) },
      ...(isMultiplied && { isMultiplied }),
      drawn: primitives.map(drawnFor),
      ...(isOutOfHand(items.get(id)!) && { isGround: true as const }),
    })),
    walk: rowsOf(seen.filter(isPlacement))
      .flat()
      .flatMap((id) => numbers.get(id) ?? []),
    letters: [],
  };
  // Known once everything is set.
  return { viewer: { ...viewer, letters: alphabet.outlines }, paths };
}
