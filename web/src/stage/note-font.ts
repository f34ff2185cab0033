import url from '@fontsource-variable/newsreader/files/newsreader-latin-wght-normal.woff2?url';
import { breakLines, NOTE_TYPE } from '@miradero/core/board';

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

/** Height of a note of the given width that holds all of its text, board units. */
export function noteHeightFor(text: string, width: number): number {
  context ??= new OffscreenCanvas(1, 1).getContext('2d')!;
  context.font = `${NOTE_TYPE.fontSize}px ${NOTE_FONT}`;
  const measure = (piece: string) => context!.measureText(piece).width;
  const lines = breakLines(text, NOTE_TYPE.width - 2 * NOTE_TYPE.padding, measure).length;
  const height = Math.max(NOTE_TYPE.minHeight, 2 * NOTE_TYPE.padding + lines * NOTE_TYPE.lineHeight);
  return (height * width) / NOTE_TYPE.width;
}
