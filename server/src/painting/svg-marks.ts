import { type Affine, applyAffine, compose, scaling, translation } from '@miradero/core/geometry';
import type { Drawn, Path, PathsOnPicture, PictureQuad, TextRun } from '@miradero/core/items';
import { Letters } from './outlines.ts';

/** Text and paths of one item that lie between two pictures of it, or all of them. */
export interface Marks {
  readonly drawn: Drawn;
  readonly primitives: readonly (Path | TextRun | PathsOnPicture)[];
}

/** Letters of one drawing; on a board of long texts the later ones are left out, where nobody could read them. */
const MOST_LETTERS = 40_000;

function textMark({ text, at, scale, colour, clip }: TextRun, letters: Letters): string {
  if (letters.count > MOST_LETTERS) return '';
  // What the clip cuts off is not set at all: it is below, and long.
  const seen = text.lines.filter(
    ({ baseline }) => at.y + (baseline - text.fontSize) * scale < clip.y + clip.height,
  );
  return `<g color="${colour}" fill="${colour}" transform="translate(${at.x} ${at.y}) scale(${scale})">${letters.set({ ...text, lines: seen })}</g>`;
}

const pathMark = ({ d, fill = 'none', stroke }: Path): string =>
  `<path d="${d}" fill="${fill}"${stroke ? ` stroke="${stroke.colour}" stroke-width="${stroke.width}"` : ''}/>`;

const matrixOf = (transform: Affine): string => `matrix(${transform.join(' ')})`;

/** What a hand drew on a picture, cut off where the picture is; each mark as transparent as a whole. */
function marksOnPicture({ place, clip, layers }: PathsOnPicture, id: string): string {
  const toFrame = compose(translation(place.x, place.y), scaling(place.width, place.height));
  const corners = clip.map((corner) => applyAffine(toFrame, corner)).map(({ x, y }) => `${x},${y}`);
  const body = layers.map(
    ({ toPlace, opacity, paths }) =>
      `<g opacity="${opacity}" transform="${matrixOf(compose(toFrame, toPlace))}">${paths.map(pathMark).join('')}</g>`,
  );
  const shape = `<clipPath id="${id}"><polygon clip-rule="evenodd" points="${corners.join(' ')}"/></clipPath>`;
  return `${shape}<g clip-path="url(#${id})">${body.join('')}</g>`;
}

const UNIT_SQUARE = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

/** An image of a drawing: the id under which it is defined there, and its pixels. */
export interface DefinedImage {
  readonly id: string;
  readonly width: number;
  readonly height: number;
}

/** A part of a picture where it stands, cut off as it is trimmed. */
function pictureMark(
  { trim, place, toPlace, clip }: PictureQuad,
  image: DefinedImage | undefined,
  id: string,
): string {
  const toFrame = compose(translation(place.x, place.y), scaling(place.width, place.height));
  const corners = (clip ?? UNIT_SQUARE).map((corner) => applyAffine(toFrame, corner));
  const points = corners.map(({ x, y }) => `${x},${y}`).join(' ');
  if (!image) return `<polygon fill="#808080" fill-opacity="0.4" points="${points}"/>`;
  const whole = toPlace ?? compose(scaling(1 / trim.width, 1 / trim.height), translation(-trim.x, -trim.y));
  const toImage = compose(toFrame, compose(whole, scaling(1 / image.width, 1 / image.height)));
  const shape = `<clipPath id="${id}"><polygon clip-rule="evenodd" points="${points}"/></clipPath>`;
  return `${shape}<g clip-path="url(#${id})"><use href="#${image.id}" transform="${matrixOf(toImage)}"/></g>`;
}

/**
 * A drawing of a board, piece by piece: what it defines stands where it is first needed, and letters at its end.
 *
 * @param region - of the board, board units; the size of the drawing
 * @param imageOf - what stands for a picture; undefined: nothing does
 * @param ground - CSS colour behind it all; null: none
 */
export function* drawBoard(
  list: readonly Drawn[],
  region: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  imageOf: (picture: string) => DefinedImage | undefined,
  ground: string | null,
): Generator<string> {
  const letters = new Letters();
  const { x, y, width, height } = region;
  if (ground !== null)
    yield `<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${ground}"/>\n`;
  for (const [index, drawn] of list.entries()) {
    const marks = drawn.primitives.map((one, part) => {
      const id = `c${index}-${part}`;
      if (one.kind === 'path') return pathMark(one);
      if (one.kind === 'text') return textMark(one, letters);
      return one.kind === 'picture' ? pictureMark(one, imageOf(one.picture), id) : marksOnPicture(one, id);
    });
    const blend = drawn.isMultiplied ? ' style="mix-blend-mode:multiply"' : '';
    yield `<g opacity="${drawn.opacity}"${blend} transform="${matrixOf(drawn.frame)}">${marks.join('')}</g>\n`;
  }
  yield `<defs>${letters.definitions()}</defs>\n`;
}

/** What does not fit into its item is cut off. */
function itemMarks({ drawn, primitives }: Marks, letters: Letters, toTarget: Affine, id: number): string {
  const clip = `<clipPath id="c${id}"><rect width="${drawn.width}" height="${drawn.height}"/></clipPath>`;
  const marks = primitives.map((one, index) => {
    if (one.kind === 'path') return pathMark(one);
    return one.kind === 'text' ? textMark(one, letters) : marksOnPicture(one, `c${id}-${index}`);
  });
  return `<g transform="${matrixOf(toTarget)}"><g opacity="${drawn.opacity}" transform="${matrixOf(drawn.frame)}">${clip}<g clip-path="url(#c${id})">${marks.join('')}</g></g></g>`;
}

/**
 * A drawing of text, as outlines, and paths.
 *
 * @param toTarget - board → pixels of the target
 * @param window - the part of the target that it shows, whole pixels
 */
export function drawMarks(
  marks: readonly Marks[],
  toTarget: Affine,
  window: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
): string {
  const letters = new Letters();
  const { x, y, width, height } = window;
  const body = marks.map((one, index) => itemMarks(one, letters, toTarget, index)).join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${x} ${y} ${width} ${height}"><defs>${letters.definitions()}</defs>${body}</svg>`;
}
