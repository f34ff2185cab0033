import { SERIF_ADVANCES } from './advances.ts';
import type { MeasureText } from './break-lines.ts';

/** What is drawn by fonts of the platform takes about so much, in thousandths of an em: nobody knows it exactly. */
const FOREIGN = 550;
const FOREIGN_WIDE = 1_000;
/** Written as wide as high. Source: Unicode Standard Annex #11, classes W and F; pictographs are about as wide. */
const WIDE =
  /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Hangul}\p{Extended_Pictographic}\u3000-\u303f\uff00-\uff60]/u;
/** Marks stand on what is before them; joiners and marks of direction show nothing. */
const TAKES_NO_ROOM = /[\p{M}\p{Cf}]/u;
const JOINER = '\u200d';

/** The faces of the shipped serif: weights 400 and 700, upright and slanted. All have the same characters. */
export type Face = keyof typeof SERIF_ADVANCES;
export const FACE_NAMES = Object.keys(SERIF_ADVANCES) as Face[];

export const faceOf = (isBold: boolean, isItalic: boolean): Face =>
  isBold ? (isItalic ? 'boldItalic' : 'bold') : isItalic ? 'italic' : 'roman';
export const isBoldFace = (face: Face): boolean => face === 'bold' || face === 'boldItalic';
export const isItalicFace = (face: Face): boolean => face === 'italic' || face === 'boldItalic';

const advances = new Map<Face, ReadonlyMap<number, number>>();

/** Advances by code point, read when the first text is laid out in a face. */
function serif(face: Face = 'roman'): ReadonlyMap<number, number> {
  const known = advances.get(face);
  if (known !== undefined) return known;
  const read = new Map<number, number>();
  for (const run of SERIF_ADVANCES[face].trim().split('\n')) {
    const [first, row] = run.split(':') as [string, string];
    row.split(' ').forEach((advance, index) => {
      read.set(Number(first) + index, Number(advance));
    });
  }
  advances.set(face, read);
  return read;
}

/** Whether the shipped serif has the character; the platform's fonts draw what it has not. */
export const isInSerif = (character: string): boolean =>
  serif().has(character.codePointAt(0)!) || character === '\t' || character === '\n';

/** Whether something in a text is drawn by fonts that differ from computer to computer. */
export function hasForeign(text: string): boolean {
  for (const character of text) if (!isInSerif(character) && !/\p{Cf}/u.test(character)) return true;
  return false;
}

function advanceOf(character: string, face: Face): number {
  const known = serif(face).get(character.codePointAt(0)!);
  if (known !== undefined) return known;
  if (TAKES_NO_ROOM.test(character)) return 0;
  return WIDE.test(character) ? FOREIGN_WIDE : FOREIGN;
}

const measures: Readonly<Record<Face, Map<number, MeasureText>>> = {
  roman: new Map(),
  italic: new Map(),
  bold: new Map(),
  boldItalic: new Map(),
};

/**
 * Measures text in the shipped serif: the sum of its advances; pairs are not kerned, which would alter a line by a
 * hundredth. The same function for the same size and face, so that widths are remembered from text to text.
 *
 * @param fontSize - of an em, in the unit of the widths
 */
export function serifMeasure(fontSize: number, face: Face = 'roman'): MeasureText {
  let measure = measures[face].get(fontSize);
  if (measure === undefined) {
    measure = (piece) => {
      let sum = 0;
      let isJoined = false;
      for (const character of piece) {
        // What is joined to the character before it shows as one with it.
        if (!isJoined) sum += advanceOf(character, face);
        isJoined = character === JOINER;
      }
      return (sum * fontSize) / 1_000;
    };
    measures[face].set(fontSize, measure);
  }
  return measure;
}
