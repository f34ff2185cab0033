import latinExtItalic from '@fontsource-variable/newsreader/files/newsreader-latin-ext-wght-italic.woff2?url';
import latinExt from '@fontsource-variable/newsreader/files/newsreader-latin-ext-wght-normal.woff2?url';
import latinItalic from '@fontsource-variable/newsreader/files/newsreader-latin-wght-italic.woff2?url';
import latin from '@fontsource-variable/newsreader/files/newsreader-latin-wght-normal.woff2?url';
import vietnameseItalic from '@fontsource-variable/newsreader/files/newsreader-vietnamese-wght-italic.woff2?url';
import vietnamese from '@fontsource-variable/newsreader/files/newsreader-vietnamese-wght-normal.woff2?url';
import { type Face, isItalicFace } from '@miradero/core/typesetting';

const FALLBACK = 'Georgia, serif';

/** What each file is for, as the style sheets of the font have it: the later face wins where two have a character. */
const RANGES = [
  'U+0102-0103,U+0110-0111,U+0128-0129,U+0168-0169,U+01A0-01A1,U+01AF-01B0,U+1EA0-1EF9,U+20AB',
  'U+0100-02BA,U+02BD-02C5,U+1D00-1DBF,U+1E00-1E9F,U+1EF2-1EFF,U+20A0-20AB,U+20AD-20C0,U+A720-A7FF',
  'U+0000-00FF,U+0131,U+0152-0153,U+02C6,U+02DA,U+02DC,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212',
] as const;

/** The slanted faces are a family of their own: each is named no earlier than it is there. */
const FAMILIES = {
  upright: { name: 'Newsreader Variable', style: 'normal', files: [vietnamese, latinExt, latin] },
  slanted: {
    ...{ name: 'Newsreader Variable Italic', style: 'italic' },
    files: [vietnameseItalic, latinExtItalic, latinItalic],
  },
} as const;

const loaded = { upright: FALLBACK, slanted: FALLBACK };

/**
 * What a worker's canvas is to be told. The serif is not named before it is there: Chromium 156 goes on drawing a name
 * that once fell back with the fallback, even after its face was added.
 */
export const canvasSerif = (face: Face): string => (isItalicFace(face) ? loaded.slanted : loaded.upright);

/** Loads the serif for canvases: a worker has fonts of its own. */
export async function loadSerif(fonts: FontFaceSet, which: keyof typeof FAMILIES): Promise<void> {
  const { name, style, files } = FAMILIES[which];
  const faces = files.map(
    (url, index) =>
      new FontFace(name, `url(${url})`, { weight: '200 800', style, unicodeRange: RANGES[index]! }),
  );
  await Promise.all(faces.map((face) => face.load()));
  for (const face of faces) fonts.add(face);
  loaded[which] = `'${name}', ${FALLBACK}`;
}
