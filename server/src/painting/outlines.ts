import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { isInSerif, type SetText, serifMeasure, visualOrder } from '@miradero/core/typesetting';
import { create, type Font } from 'fontkit';

const require = createRequire(import.meta.url);

let faces: Font[] | undefined;

/** The shipped serif, at the weight at which text is laid out: what its files hold without being varied. */
function serifFaces(): Font[] {
  faces ??= ['latin', 'latin-ext', 'vietnamese'].map(
    (subset) =>
      create(
        readFileSync(
          require.resolve(`@fontsource-variable/newsreader/files/newsreader-${subset}-wght-normal.woff2`),
        ),
      ) as Font,
  );
  return faces;
}

interface Outline {
  /** Path data in font units, y up. */
  readonly d: string;
  readonly unitsPerEm: number;
}

const outlines = new Map<string, Outline>();

function outlineOf(character: string): Outline {
  let outline = outlines.get(character);
  if (outline === undefined) {
    const codePoint = character.codePointAt(0)!;
    const face = serifFaces().find((one) => one.hasGlyphForCodePoint(codePoint));
    outline = face
      ? { d: face.glyphForCodePoint(codePoint).path.toSVG(), unitsPerEm: face.unitsPerEm }
      : { d: '', unitsPerEm: 1 };
    outlines.set(character, outline);
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
    return [...this.#used]
      .map(([character, id]) => `<path id="g${id}" d="${outlineOf(character).d}"/>`)
      .join('');
  }

  #line({ fontSize, width }: SetText, line: SetText['lines'][number]): string {
    const measure = serifMeasure(fontSize);
    let x = line.isRightToLeft ? width - measure(line.text) : 0;
    const elements: string[] = [];
    for (const character of visualOrder(line.text, line.isRightToLeft)) {
      const advance = measure(character);
      if (!/\s/.test(character) && advance > 0) {
        this.#count += 1;
        elements.push(
          isInSerif(character)
            ? this.#letter(character, x, line.baseline, fontSize)
            : box(x, line.baseline, advance, fontSize),
        );
      }
      x += advance;
    }
    return elements.join('');
  }

  #letter(character: string, x: number, baseline: number, fontSize: number): string {
    const { unitsPerEm } = outlineOf(character);
    let id = this.#used.get(character);
    if (id === undefined) {
      id = this.#used.size;
      this.#used.set(character, id);
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
