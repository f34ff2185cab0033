import { breakLines } from './break-lines.ts';
import { isRightToLeft } from './direction.ts';
import { type Face, serifMeasure } from './face.ts';

/** How text is set: one face, one size; all lengths in one unit. */
export interface Setting {
  readonly fontSize: number;
  /** From baseline to baseline. */
  readonly lineHeight: number;
  /** Lines are no longer than this. */
  readonly width: number;
}

/** A piece of a line that is formatted alike. */
export interface SetSpan {
  readonly text: string;
  readonly face: Face;
  readonly isUnderlined?: boolean;
  readonly isStruck?: boolean;
  readonly link?: string;
}

export interface SetLine {
  readonly text: string;
  readonly baseline: number;
  /** The line begins at the right end of the width and runs left. */
  readonly isRightToLeft: boolean;
  /** How far from that end it begins; 0 where this is missing. */
  readonly indent?: number;
  /** What stands in the indent, before the line. */
  readonly marker?: string;
  /** Whether the entry that begins here is checked off; undefined where none is to be. */
  readonly isDone?: boolean;
  /** The block to which it belongs, from 0. */
  readonly block?: number;
  /** Its text piece by piece; all roman where this is missing. */
  readonly spans?: readonly SetSpan[];
}

/** Text broken into lines; its origin is the top left corner. */
export interface SetText extends Setting {
  readonly lines: readonly SetLine[];
  readonly height: number;
}

/** Texts whose lines are remembered: what stands in view is drawn again and again. */
const MOST_REMEMBERED = 2_000;
const remembered = new Map<string, SetText>();

/** Sets a text in the shipped serif, alike on every computer: what that lacks is estimated. */
export function layOut(text: string, setting: Setting): SetText {
  const { fontSize, lineHeight, width } = setting;
  const key = `${fontSize} ${lineHeight} ${width} ${text}`;
  const known = remembered.get(key);
  if (known !== undefined) return known;
  const lines: SetLine[] = [];
  for (const paragraph of text.split('\n')) {
    const isFromRight = isRightToLeft(paragraph);
    for (const line of breakLines(paragraph, width, serifMeasure(fontSize)))
      lines.push({
        text: line,
        baseline: lines.length * lineHeight + fontSize,
        isRightToLeft: isFromRight,
      });
  }
  const set = { fontSize, lineHeight, width, lines, height: lines.length * lineHeight };
  if (remembered.size >= MOST_REMEMBERED) remembered.delete(remembered.keys().next().value!);
  remembered.set(key, set);
  return set;
}
