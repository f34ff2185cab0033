import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { SetLetters as LetterRun } from '@miradero/core/board-file';
import {
  type Face,
  isInSerif,
  type PlacedSpan,
  placedSpans,
  rulesOf,
  type SetLine,
  type SetText,
  serifMeasure,
  visualOrder,
} from '@miradero/core/typesetting';
import { create, type Font } from 'fontkit';

const require = createRequire(import.meta.url);

/** Files of each face: those of the variable serif hold its two at 400 without being varied. */
const FILES: Readonly<Record<Face, string>> = {
  roman: '@fontsource-variable/newsreader/files/newsreader-{}-wght-normal.woff2',
  italic: '@fontsource-variable/newsreader/files/newsreader-{}-wght-italic.woff2',
  bold: '@fontsource/newsreader/files/newsreader-{}-700-normal.woff2',
  boldItalic: '@fontsource/newsreader/files/newsreader-{}-700-italic.woff2',
};
const fonts = new Map<Face, Font[]>();

/** The shipped serif, subset by subset, at the weights at which text is laid out. */
function serifFonts(face: Face): Font[] {
  let read = fonts.get(face);
  if (read === undefined) {
    read = ['latin', 'latin-ext', 'vietnamese'].map(
      (subset) => create(readFileSync(require.resolve(FILES[face].replace('{}', subset)))) as Font,
    );
    fonts.set(face, read);
  }
  return read;
}

export interface Outline {
  /** Path data in font units, y up. */
  readonly d: string;
  readonly unitsPerEm: number;
}

const outlines = new Map<string, Outline>();

/** @param letter - the name of a face, a blank, and the character */
export function outlineOf(letter: string): Outline {
  let outline = outlines.get(letter);
  if (outline === undefined) {
    const blank = letter.indexOf(' ');
    const codePoint = letter.codePointAt(blank + 1)!;
    const font = serifFonts(letter.slice(0, blank) as Face).find((one) =>
      one.hasGlyphForCodePoint(codePoint),
    );
    outline = font
      ? { d: font.glyphForCodePoint(codePoint).path.toSVG(), unitsPerEm: font.unitsPerEm }
      : { d: '', unitsPerEm: 1 };
    outlines.set(letter, outline);
  }
  return outline;
}

/** A letter where it was set: `letter` names an outline; null: the serif lacks it. */
export interface PlacedLetter {
  readonly letter: string | null;
  readonly x: number;
  readonly baseline: number;
  readonly advance: number;
}

/** Every letter of a span that leaves a trace, from left to right. */
function lettersOfSpan(
  { text, face, x: from, isRightToLeft }: PlacedSpan,
  baseline: number,
  fontSize: number,
): PlacedLetter[] {
  const measure = serifMeasure(fontSize, face);
  let x = from;
  return [...visualOrder(text, isRightToLeft)].flatMap((character) => {
    const at = x;
    const advance = measure(character);
    x += advance;
    if (/\s/.test(character) || advance <= 0) return [];
    return [{ letter: isInSerif(character) ? `${face} ${character}` : null, x: at, baseline, advance }];
  });
}

/** Set text as outlines that stand where they were set, its top left corner at the origin. */
export function setLetters(
  text: SetText,
  numberOf: (letter: string) => number,
): Pick<LetterRun, 'letters' | 'rules' | 'boxes'> {
  const [letters, rules, boxes]: [number[], number[], number[]] = [[], [], []];
  for (const line of text.lines) {
    const placed = placedSpans(text, line);
    for (const { x, y, width, height } of rulesOf(placed, line.baseline, text.fontSize))
      rules.push(x, y, width, height);
    for (const one of placed.flatMap((span) => lettersOfSpan(span, line.baseline, text.fontSize))) {
      if (one.letter !== null) letters.push(numberOf(one.letter), one.x, one.baseline, text.fontSize);
      else boxes.push(...boxOf(one, text.fontSize));
    }
  }
  return { letters: letters.map(short), rules: rules.map(short), boxes: boxes.map(short) };
}

/** Hundredths of a unit are not seen. */
const short = (figure: number): number => Math.round(figure * 100) / 100;

/** A drawing's letters: each outline stands in it once. */
export class Letters {
  readonly #used = new Map<string, number>();
  #count = 0;

  /** How many letters were set. */
  get count(): number {
    return this.#count;
  }

  /** SVG elements of set text, its top left corner at the origin; what the serif lacks is a box, as printers do it. */
  set(text: SetText): string {
    return text.lines.map((line) => this.#line(text, line)).join('');
  }

  /** The outlines that were used, for the drawing's `defs`. */
  definitions(): string {
    return [...this.#used].map(([letter, id]) => `<path id="g${id}" d="${outlineOf(letter).d}"/>`).join('');
  }

  #line(text: SetText, line: SetLine): string {
    const placed = placedSpans(text, line);
    const rules = rulesOf(placed, line.baseline, text.fontSize).map(
      ({ x, y, width, height }) =>
        `<rect x="${x.toFixed(2)}" y="${y.toFixed(2)}" width="${width.toFixed(2)}" height="${height.toFixed(2)}"/>`,
    );
    return placed.map((span) => this.#span(span, line.baseline, text.fontSize)).join('') + rules.join('');
  }

  #span(span: PlacedSpan, baseline: number, fontSize: number): string {
    const placed = lettersOfSpan(span, baseline, fontSize);
    this.#count += placed.length;
    return placed
      .map((one) =>
        one.letter === null ? box(one, fontSize) : this.#letter(one.letter, one.x, baseline, fontSize),
      )
      .join('');
  }

  #letter(letter: string, x: number, baseline: number, fontSize: number): string {
    const { unitsPerEm } = outlineOf(letter);
    let id = this.#used.get(letter);
    if (id === undefined) {
      id = this.#used.size;
      this.#used.set(letter, id);
    }
    const scale = fontSize / unitsPerEm;
    return `<use href="#g${id}" transform="translate(${x.toFixed(2)} ${baseline}) scale(${scale} ${-scale})"/>`;
  }
}

/** What stands for a letter that the serif lacks, as printers do it: x, y, width, height. */
function boxOf({ x, baseline, advance }: PlacedLetter, fontSize: number): [number, number, number, number] {
  const [inset, height] = [advance * 0.12, fontSize * 0.62];
  return [x + inset, baseline - height, advance - 2 * inset, height];
}

const box = (placed: PlacedLetter, fontSize: number): string => {
  const [x, y, width, height] = boxOf(placed, fontSize);
  const d = `M${x} ${y + height}v${-height}h${width}v${height}Z`;
  return `<path d="${d}" fill="none" stroke="currentColor" stroke-width="${fontSize * 0.05}"/>`;
};
