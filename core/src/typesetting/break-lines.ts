/** Width of a piece of text. Widths are remembered by function: another font or size wants another function. */
export type MeasureText = (piece: string) => number;

/** Scripts that are written without spaces between words. */
const UNSPACED = /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Thai}\p{sc=Lao}\p{sc=Khmer}\p{sc=Myanmar}]/u;

/** What a character is, as bits. */
const ASKED = 1;
/** It is one by itself, as long as no mark joins it. */
const PLAIN = 2;
const MARK = 4;
/** Of a script that may be broken between any two characters. */
const IDEOGRAPH = 8;
/** Of one that may be broken only between words, which a dictionary knows. */
const IN_DICTIONARY = 16;
/** It must not begin a line, or end one. Source: Unicode Standard Annex #14, classes CL, CP, EX, NS and OP. */
const NEVER_FIRST = 32;
const NEVER_LAST = 64;

const PATTERNS: readonly (readonly [number, RegExp])[] = [
  [PLAIN, /[ -~\p{sc=Latin}\p{sc=Greek}\p{sc=Cyrillic}\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{P}]/u],
  [MARK, /\p{M}/u],
  [IDEOGRAPH, /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}]/u],
  [IN_DICTIONARY, /[\p{sc=Thai}\p{sc=Lao}\p{sc=Khmer}\p{sc=Myanmar}]/u],
  [NEVER_FIRST, /[\p{Pe}\p{Pf}、。，．：；？！ーぁぃぅぇぉっゃゅょァィゥェォッャュョ々〻]/u],
  [NEVER_LAST, /[\p{Ps}\p{Pi}]/u],
];
/** By code point. A text has few different ones: asking each once is much quicker than searching all of it for each pattern. */
const natures = new Uint8Array(0x11_0000);

function natureAt(text: string, index: number): number {
  const code = text.codePointAt(index)!;
  if (natures[code] === 0) {
    const character = String.fromCodePoint(code);
    natures[code] = PATTERNS.reduce(
      (bits, [bit, pattern]) => (pattern.test(character) ? bits | bit : bits),
      ASKED,
    );
  }
  return natures[code]!;
}

/** Half of a character beyond the first plane. */
const isSurrogate = (unit: number): boolean => unit >= 0xd800 && unit <= 0xdfff;

/** What all characters of a text are, what any of them is, and whether each is one unit of the text. */
function naturesOf(text: string) {
  let [all, any, isOfUnits] = [~0, 0, true];
  for (let index = 0; index < text.length; index += 1) {
    const unit = text.charCodeAt(index);
    const nature = isSurrogate(unit) ? natureAt(text, index) : natures[unit] || natureAt(text, index);
    all &= nature;
    any |= nature;
    if (isSurrogate(unit)) {
      isOfUnits = false;
      if (text.codePointAt(index)! > 0xffff) index += 1;
    }
  }
  return { all, any, isOfUnits };
}

/** Words longer than this are never measured whole: their width is that of their characters. */
const LONGEST_WORD = 60;
/** Pieces whose width is remembered; more than a screen of notes has. */
const MOST_REMEMBERED = 20_000;

let graphemes: Intl.Segmenter | undefined;
let words: Intl.Segmenter | undefined;

/** Writing of Western Europe: every unit is a character. */
const SIMPLE = /^[ -~¡-ÿ]*$/;

function charactersOf(text: string, known?: ReturnType<typeof naturesOf>): string[] {
  if (SIMPLE.test(text)) return text.split('');
  const { all, any, isOfUnits } = known ?? naturesOf(text);
  if (all & PLAIN && !(any & MARK)) return isOfUnits ? text.split('') : Array.from(text);
  graphemes ??= new Intl.Segmenter('en', { granularity: 'grapheme' });
  return Array.from(graphemes.segment(text), ({ segment }) => segment);
}

function wordsOf(text: string): string[] {
  words ??= new Intl.Segmenter('en', { granularity: 'word' });
  return Array.from(words.segment(text), ({ segment }) => segment);
}

/** Ideographs and kana one by one; what stands between them whole. */
function atIdeographs(characters: readonly string[]): string[] {
  const pieces: string[] = [];
  let isOpen = false;
  for (const character of characters) {
    const isIdeograph = (natureAt(character, 0) & IDEOGRAPH) !== 0;
    if (isOpen && !isIdeograph) pieces[pieces.length - 1] += character;
    else pieces.push(character);
    isOpen = !isIdeograph;
  }
  return pieces;
}

/** The places within a word of an unspaced script where a line may end. */
function piecesOf(word: string): string[] {
  const nature = naturesOf(word);
  const fine =
    nature.any & IN_DICTIONARY
      ? wordsOf(word).flatMap((part) => atIdeographs(charactersOf(part)))
      : atIdeographs(charactersOf(word, nature));
  if (!(nature.any & (NEVER_FIRST | NEVER_LAST))) return fine;
  const pieces: string[] = [];
  for (const piece of fine) {
    const last = pieces.at(-1);
    const isBound =
      last !== undefined &&
      (natureAt(piece, 0) & NEVER_FIRST || natureAt(last, last.length - 1) & NEVER_LAST) !== 0;
    if (isBound && last.length < LONGEST_WORD) pieces[pieces.length - 1] += piece;
    else pieces.push(piece);
  }
  return pieces;
}

const remembered = new WeakMap<MeasureText, Map<string, number>>();

/** Remembers widths from call to call, as long as the function lives. */
export function remembering(measure: MeasureText): MeasureText {
  const widths = remembered.get(measure) ?? new Map<string, number>();
  remembered.set(measure, widths);
  return (piece) => {
    const known = widths.get(piece);
    if (known !== undefined) return known;
    if (widths.size >= MOST_REMEMBERED) widths.clear();
    const width = measure(piece);
    widths.set(piece, width);
    return width;
  };
}

/** Where lines begin, as they fill; white space at an end hangs over. */
class Lines {
  readonly starts = [0];
  readonly #width: number;
  #at = 0;
  #used = 0;

  constructor(width: number) {
    this.#width = width;
  }

  /** Where the text goes on. */
  get at(): number {
    return this.#at;
  }

  add(length: number, width: number): void {
    if (this.#used > 0 && this.#used + width > this.#width) {
      this.starts.push(this.#at);
      this.#used = 0;
    }
    this.space(length, width);
  }

  space(length: number, width: number): void {
    this.#at += length;
    this.#used += width;
  }
}

/**
 * Where the lines of a paragraph begin that are no wider than `width`, in time that grows with its length: at white space,
 * between the characters of scripts without spaces, and within words that are longer than a line. A line is as wide as its
 * words and spaces together; kerning across a space is left aside.
 *
 * @param measure - width of a piece of the paragraph and where it stands, in the unit of `width`
 * @returns offsets into the paragraph, the first 0
 */
export function lineStarts(
  paragraph: string,
  width: number,
  measure: (piece: string, at: number) => number,
): number[] {
  const lines = new Lines(width);
  const place = (word: string) => {
    const whole = word.length > LONGEST_WORD ? Number.POSITIVE_INFINITY : measure(word, lines.at);
    if (whole <= width) lines.add(word.length, whole);
    else
      for (const character of charactersOf(word)) lines.add(character.length, measure(character, lines.at));
  };
  for (const [, word = '', space = ''] of paragraph.matchAll(/(\S*)(\s*)/g)) {
    if (UNSPACED.test(word)) for (const piece of piecesOf(word)) place(piece);
    else if (word !== '' || space !== '') place(word);
    if (space !== '') lines.space(space.length, space.length * measure(' ', lines.at));
  }
  return lines.starts;
}

/** The lines of a text, white space at their ends left out; see {@link lineStarts}. */
export function breakLines(text: string, width: number, measure: MeasureText): string[] {
  const widthOf = remembering(measure);
  return text.split('\n').flatMap((paragraph) => {
    const starts = lineStarts(paragraph, width, widthOf);
    return starts.map((start, index) => paragraph.slice(start, starts[index + 1]).trimEnd());
  });
}
