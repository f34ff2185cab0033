import type { Rectangle } from '../geometry/index.ts';
import { visualParts } from './direction.ts';
import { serifMeasure } from './face.ts';
import type { SetLine, SetSpan, SetText } from './lay-out.ts';

/** A piece of a line and where it stands; all of it runs one way. */
export interface PlacedSpan extends SetSpan {
  /** Its left end, from the left end of the text. */
  readonly x: number;
  readonly width: number;
  readonly isRightToLeft: boolean;
}

/** The spans between two offsets into a line, the ends cut. */
function spansBetween(spans: readonly SetSpan[], from: number, to: number): SetSpan[] {
  const found: SetSpan[] = [];
  let at = 0;
  for (const span of spans) {
    const text = span.text.slice(Math.max(0, from - at), Math.max(0, to - at));
    if (text !== '') found.push({ ...span, text });
    at += span.text.length;
  }
  return found;
}

/** What stands in a line, from left to right, its marker included. @param measure - width of a piece; by default of the advances of its face */
export function placedSpans(
  { fontSize, width }: SetText,
  line: SetLine,
  measure: (span: SetSpan) => number = ({ text, face }) => serifMeasure(fontSize, face)(text),
): PlacedSpan[] {
  const { isRightToLeft, indent = 0, marker } = line;
  const spans = line.spans ?? [{ text: line.text, face: 'roman' as const }];
  const pieces = visualParts(line.text, isRightToLeft).flatMap((part) => {
    const inside = spansBetween(spans, part.from, part.to);
    if (part.isRightToLeft) inside.reverse();
    return inside.map((span) => ({ ...span, width: measure(span), isRightToLeft: part.isRightToLeft }));
  });
  const all = pieces.reduce((sum, piece) => sum + piece.width, 0);
  let x = isRightToLeft ? width - indent - all : indent;
  const placed = pieces.map((piece): PlacedSpan => {
    const from = x;
    x += piece.width;
    return { ...piece, x: from };
  });
  if (marker === undefined) return placed;
  const before = { text: marker, face: 'roman' as const };
  const markerWidth = measure(before);
  const gap = fontSize * MARKER_GAP;
  const markerX = isRightToLeft ? width - indent + gap : indent - gap - markerWidth;
  return [{ ...before, x: markerX, width: markerWidth, isRightToLeft }, ...placed];
}

/** Between a marker and its line, ems. */
const MARKER_GAP = 0.45;

/** Where and how thick lines at text are drawn, ems from the baseline down. */
const UNDER = { at: 0.11, thick: 0.06 } as const;
const THROUGH = { at: -0.27, thick: 0.06 } as const;

/** The lines under and through what was placed in a line, in its unit. */
export const rulesOf = (placed: readonly PlacedSpan[], baseline: number, fontSize: number): Rectangle[] =>
  placed.flatMap(({ x, width, isUnderlined, isStruck }) =>
    [...(isUnderlined ? [UNDER] : []), ...(isStruck ? [THROUGH] : [])].map(({ at, thick }) => ({
      ...{ x, width, y: baseline + (at - thick / 2) * fontSize, height: thick * fontSize },
    })),
  );
