import latinExt from '@fontsource-variable/newsreader/files/newsreader-latin-ext-wght-normal.woff2?url';
import latin from '@fontsource-variable/newsreader/files/newsreader-latin-wght-normal.woff2?url';
import vietnamese from '@fontsource-variable/newsreader/files/newsreader-vietnamese-wght-normal.woff2?url';

const SERIF = "'Newsreader Variable', Georgia, serif";
const FALLBACK = 'Georgia, serif';

/** Files and what each is for, as the style sheets of the font have it: the later face wins where two have a character. */
const FACES = [
  [vietnamese, 'U+0102-0103,U+0110-0111,U+0128-0129,U+0168-0169,U+01A0-01A1,U+01AF-01B0,U+1EA0-1EF9,U+20AB'],
  [
    latinExt,
    'U+0100-02BA,U+02BD-02C5,U+1D00-1DBF,U+1E00-1E9F,U+1EF2-1EFF,U+20A0-20AB,U+20AD-20C0,U+A720-A7FF',
  ],
  [
    latin,
    'U+0000-00FF,U+0131,U+0152-0153,U+02C6,U+02DA,U+02DC,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212',
  ],
] as const;

let loaded = FALLBACK;

/**
 * What a worker's canvas is to be told. The serif is not named before it is there: Chromium 156 goes on drawing a name
 * that once fell back with the fallback, even after its face was added.
 */
export const canvasSerif = (): string => loaded;

/** Loads the serif for canvases: a worker has fonts of its own. */
export async function loadSerif(fonts: FontFaceSet): Promise<void> {
  const faces = FACES.map(
    ([url, unicodeRange]) =>
      new FontFace('Newsreader Variable', `url(${url})`, { weight: '200 800', unicodeRange }),
  );
  await Promise.all(faces.map((face) => face.load()));
  for (const face of faces) fonts.add(face);
  loaded = SERIF;
}
