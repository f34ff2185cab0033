import { type TextBlock, type TextMark, type TextRunOf, wordsOfBlock } from '../text/index.ts';
import { lineStarts, remembering } from './break-lines.ts';
import { isRightToLeft } from './direction.ts';
import { type Face, faceOf, serifMeasure } from './face.ts';
import type { SetLine, SetSpan, SetText, Setting } from './lay-out.ts';

/** How formatted text is set. */
export interface BlockSetting extends Setting {
  /** What is not marked is in this face; marked by what it is already, it is not. */
  readonly face: Face;
}

/** How far an entry of a list stands in from the one around it, ems. */
export const LIST_INDENT = 1.5;
const BULLET = '•';

const has = ({ marks }: TextRunOf, mark: TextMark): boolean => marks?.includes(mark) === true;

/** The face of a run: slanted in a slanted text is upright, bold in a bold one stays bold. */
export const faceOfRun = (run: TextRunOf, base: Face): Face =>
  faceOf(
    has(run, 'bold') || base === 'bold' || base === 'boldItalic',
    has(run, 'italic') !== (base === 'italic' || base === 'boldItalic'),
  );

export const indentOf = ({ list, depth = 0 }: TextBlock, fontSize: number): number =>
  list === undefined ? 0 : (depth + 1) * LIST_INDENT * fontSize;

/** Measures pieces of a block, each in the faces that it has. Asked from left to right it looks for nothing. */
function measureOf({ runs }: TextBlock, { fontSize, face }: BlockSetting) {
  const measured = runs.map((run) => ({
    text: run.text,
    widthOf: remembering(serifMeasure(fontSize, faceOfRun(run, face))),
  }));
  let [index, start] = [0, 0];
  return (piece: string, at: number): number => {
    if (at < start) [index, start] = [0, 0];
    while (index < measured.length - 1 && at >= start + measured[index]!.text.length) {
      start += measured[index]!.text.length;
      index += 1;
    }
    let [sum, next, from] = [0, index, at - start];
    for (let left = piece; left !== ''; next += 1) {
      const run = measured[next];
      const part = run && next < measured.length - 1 ? left.slice(0, run.text.length - from) : left;
      sum += (run?.widthOf ?? remembering(serifMeasure(fontSize, face)))(part);
      left = left.slice(part.length);
      from = 0;
    }
    return sum;
  };
}

/** Where the lines of a block begin, offsets into its words; a line feed ends one, and belongs to it. */
export function blockLineStarts(block: TextBlock, setting: BlockSetting): number[] {
  const words = wordsOfBlock(block);
  const width = Math.max(setting.fontSize, setting.width - indentOf(block, setting.fontSize));
  const measure = measureOf(block, setting);
  const starts: number[] = [];
  let from = 0;
  for (const line of words.split('\n')) {
    const begun = from;
    starts.push(
      ...lineStarts(line, width, (piece, at) => measure(piece, begun + at)).map((start) => begun + start),
    );
    from += line.length + 1;
  }
  return starts;
}

/** The part of a block between two offsets, formatted as it is. */
function spansOf({ runs }: TextBlock, from: number, to: number, face: Face): SetSpan[] {
  const spans: SetSpan[] = [];
  let at = 0;
  for (const run of runs) {
    const text = run.text.slice(Math.max(0, from - at), Math.max(0, to - at));
    at += run.text.length;
    if (text === '') continue;
    spans.push({
      text,
      face: faceOfRun(run, face),
      ...((has(run, 'underline') || run.link !== undefined) && { isUnderlined: true }),
      ...(has(run, 'strike') && { isStruck: true }),
      ...(run.link !== undefined && { link: run.link }),
    });
  }
  return spans;
}

/** Numbers the entries of lists, each list for itself. */
class Numbering {
  #open: { list: string; count: number }[] = [];

  markerOf({ list, depth = 0 }: TextBlock): string | undefined {
    if (list === undefined) {
      this.#open = [];
      return undefined;
    }
    this.#open.length = Math.min(this.#open.length, depth + 1);
    const open = this.#open[depth];
    const count = open?.list === list ? open.count + 1 : 1;
    this.#open[depth] = { list, count };
    return list === 'number' ? `${count}.` : list === 'bullet' ? BULLET : undefined;
  }
}

/** Sets formatted text as `layOut` does plain text. Its lines are one under the other whatever they hold. */
export function layOutBlocks(blocks: readonly TextBlock[], setting: BlockSetting): SetText {
  const { fontSize, lineHeight, width, face } = setting;
  const numbering = new Numbering();
  const lines: SetLine[] = [];
  for (const [block, one] of blocks.entries()) {
    const words = wordsOfBlock(one);
    const indent = indentOf(one, fontSize);
    const marker = numbering.markerOf(one);
    const starts = blockLineStarts(one, setting);
    const isFromRight = isRightToLeft(words);
    for (const [index, start] of starts.entries()) {
      const text = words.slice(start, starts[index + 1]).trimEnd();
      lines.push({
        ...{ text, block, indent, isRightToLeft: isFromRight },
        baseline: lines.length * lineHeight + fontSize,
        ...(index === 0 && marker !== undefined && { marker }),
        ...(index === 0 && one.list === 'check' && { isDone: one.isDone === true }),
        spans: spansOf(one, start, start + text.length, face),
      });
    }
  }
  return { fontSize, lineHeight, width, lines, height: lines.length * lineHeight };
}
