import type { Affine } from '@miradero/core/geometry';
import type { Drawn, Path, TextRun } from '@miradero/core/items';
import { Letters } from './outlines.ts';

/** Text and paths of one item that lie between two pictures of it, or all of them. */
export interface Marks {
  readonly drawn: Drawn;
  readonly primitives: readonly (Path | TextRun)[];
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

/** What does not fit into its item is cut off. */
function itemMarks({ drawn, primitives }: Marks, letters: Letters, toTarget: Affine, id: number): string {
  const clip = `<clipPath id="c${id}"><rect width="${drawn.width}" height="${drawn.height}"/></clipPath>`;
  const marks = primitives.map((one) => (one.kind === 'path' ? pathMark(one) : textMark(one, letters)));
  return `<g transform="matrix(${toTarget.join(' ')})"><g opacity="${drawn.opacity}" transform="matrix(${drawn.frame.join(' ')})">${clip}<g clip-path="url(#c${id})">${marks.join('')}</g></g></g>`;
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
