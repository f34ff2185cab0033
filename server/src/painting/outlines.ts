import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
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

interface Outline {
  /** Path data in font units, y up. */
  readonly d: string;
  readonly unitsPerEm: number;
}

const outlines = new Map<string, Outline>();

/** @param letter - the name of a face, a blank, and the character */
function outlineOf(letter: string): Outline {
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

  #span({ text, face, x: from, isRightToLeft }: PlacedSpan, baseline: number, fontSize: number): string {
    const measure = serifMeasure(fontSize, face);
    let x = from;
    const elements: string[] = [];
    for (const character of visualOrder(text, isRightToLeft)) {
      const advance = measure(character);
      if (!/\s/.test(character) && advance > 0) {
        this.#count += 1;
        elements.push(
          isInSerif(character)
            ? this.#letter(`${face} ${character}`, x, baseline, fontSize)
            : box(x, baseline, advance, fontSize),
        );
      }
      x += advance;
    }
    return elements.join('');
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

const box = (x: number, baseline: number, advance: number, fontSize: number): string => {
  const [inset, height] = [advance * 0.12, fontSize * 0.62];
  const d = `M${x + inset} ${baseline}v${-height}h${advance - 2 * inset}v${height}Z`;
  return `<path d="${d}" fill="none" stroke="currentColor" stroke-width="${fontSize * 0.05}"/>`;
};
