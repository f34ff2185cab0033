import url from '@fontsource-variable/newsreader/files/newsreader-latin-wght-normal.woff2?url';
import { breakLines, type MeasureText, NOTE_TYPE } from '@miradero/core/board';

/** The serif of notes and labels, as CSS names it. */
export const NOTE_FONT = "'Newsreader Variable', Georgia, serif";

/** The same for canvases of a worker, as far as it is loaded. */
let loaded = 'Georgia, serif';

/**
 * What a worker's canvas is to be told. The serif is not named before it is there: Chromium 156 goes on drawing a name
 * that once fell back with the fallback, even after its face was added.
 */
export const canvasNoteFont = (): string => loaded;

/** Loads the serif for canvases: a worker has fonts of its own. */
export async function loadNoteFont(fonts: FontFaceSet): Promise<void> {
  const face = new FontFace('Newsreader Variable', `url(${url})`, { weight: '200 800' });
  await face.load();
  fonts.add(face);
  loaded = NOTE_FONT;
}

let context: OffscreenCanvasRenderingContext2D | undefined;
const measures = new Map<string, MeasureText>();

/** Measures in a font; the same function for the same font, so that widths are remembered from text to text. */
function measureIn(font: string): MeasureText {
  let measure = measures.get(font);
  if (measure === undefined) {
    measure = (piece) => {
      context ??= new OffscreenCanvas(1, 1).getContext('2d')!;
      context.font = font;
      return context.measureText(piece).width;
    };
    measures.set(font, measure);
  }
  return measure;
}

/** Texts whose lines are remembered: what stands in view is painted again and again. */
const MOST_TEXTS = 1_000;
const broken = new Map<string, readonly string[]>();

/** The lines of a text in a font, CSS pixels. */
export function linesIn(font: string, text: string, width: number): readonly string[] {
  const key = `${font}\n${width}\n${text}`;
  let lines = broken.get(key);
  if (lines === undefined) {
    lines = breakLines(text, width, measureIn(font));
    if (broken.size >= MOST_TEXTS) broken.delete(broken.keys().next().value!);
    broken.set(key, lines);
  }
  return lines;
}

/** Height of a note of the given width that holds all of its text, board units. */
export function noteHeightFor(text: string, width: number): number {
  // What was measured before the serif came is not what is drawn after it: the fallback is named alone until then.
  const isThere = document.fonts.check(`${NOTE_TYPE.fontSize}px 'Newsreader Variable'`);
  const font = `${NOTE_TYPE.fontSize}px ${isThere ? NOTE_FONT : 'Georgia, serif'}`;
  const lines = linesIn(font, text, NOTE_TYPE.width - 2 * NOTE_TYPE.padding).length;
  const height = Math.max(NOTE_TYPE.minHeight, 2 * NOTE_TYPE.padding + lines * NOTE_TYPE.lineHeight);
  return (height * width) / NOTE_TYPE.width;
}
