import type { Affine } from '@miradero/core/geometry';
import type { TextRun } from '@miradero/core/items';
import {
  type Face,
  isBoldFace,
  isItalicFace,
  type PlacedSpan,
  placedSpans,
  rulesOf,
  type SetLine,
  type SetText,
} from '@miradero/core/typesetting';
import { canvasSerif } from './serif.ts';

type Context = OffscreenCanvasRenderingContext2D;

/** Text smaller than this many device pixels is only suggested. */
const READABLE_PX = 4;

export function paintText(context: Context, run: TextRun, frame: Affine): void {
  const [a, b] = frame;
  context.setTransform(...frame);
  if (Math.hypot(a, b) * run.scale * run.text.fontSize < READABLE_PX) return;
  context.save();
  context.beginPath();
  context.rect(run.clip.x, run.clip.y, run.clip.width, run.clip.height);
  context.clip();
  context.translate(run.at.x, run.at.y);
  context.scale(run.scale, run.scale);
  context.fillStyle = run.colour;
  paintLines(context, run.text);
  context.restore();
}

/** Set text from its top left corner on; the serif is the same everywhere, the lines stand as they were set. */
export function paintLines(context: Context, text: SetText, face: Face = 'roman'): void {
  const { lines, fontSize, width } = text;
  context.textBaseline = 'alphabetic';
  const plain = fontOf(face, fontSize);
  context.font = plain;
  let isPlain = true;
  for (const line of lines) {
    if (line.spans !== undefined) {
      paintSpans(context, text, line);
      isPlain = false;
      continue;
    }
    if (!isPlain) context.font = plain;
    isPlain = true;
    context.direction = line.isRightToLeft ? 'rtl' : 'ltr';
    context.textAlign = line.isRightToLeft ? 'right' : 'left';
    context.fillText(line.text, line.isRightToLeft ? width : 0, line.baseline);
  }
}

const fontOf = (face: Face, fontSize: number): string =>
  `${isItalicFace(face) ? 'italic' : 'normal'} ${isBoldFace(face) ? 700 : 400} ${fontSize}px ${canvasSerif(face)}`;

/** Where the pieces of a line stand, as the fonts that were there measured them. */
const placedLines = new WeakMap<
  SetLine,
  { readonly fonts: string; readonly placed: readonly PlacedSpan[] }
>();

function placedIn(context: Context, text: SetText, line: SetLine): readonly PlacedSpan[] {
  const fonts = `${canvasSerif('roman')} ${canvasSerif('italic')} ${text.fontSize} ${text.width}`;
  const known = placedLines.get(line);
  if (known?.fonts === fonts) return known.placed;
  const placed = placedSpans(text, line, (span) => {
    context.font = fontOf(span.face, text.fontSize);
    return context.measureText(span.text).width;
  });
  placedLines.set(line, { fonts, placed });
  return placed;
}

/** A line piece by piece: each is as wide as it is with its pairs kerned, as where it is written. */
function paintSpans(context: Context, text: SetText, line: SetLine): void {
  context.textAlign = 'left';
  const placed = placedIn(context, text, line);
  for (const span of placed) {
    context.font = fontOf(span.face, text.fontSize);
    context.direction = span.isRightToLeft ? 'rtl' : 'ltr';
    context.fillText(span.text, span.x, line.baseline);
  }
  for (const { x, y, width, height } of rulesOf(placed, line.baseline, text.fontSize))
    context.fillRect(x, y, width, height);
}
