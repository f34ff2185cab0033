/** Width of a piece of text. Widths are remembered by function: another font or size wants another function. */
export type MeasureText = (piece: string) => number;

/** A piece that no line end divides, and the white space after it, which may hang over the end of a line. */
interface Unit {
  readonly text: string;
  readonly space: string;
}

/** Scripts that are written without spaces between words. */
const UNSPACED = /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Thai}\p{sc=Lao}\p{sc=Khmer}\p{sc=Myanmar}]/u;
/** Such as may be broken between any two characters; the others only between words, which a dictionary knows. */
const IDEOGRAPHS = /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}]/u;
/** What must not begin a line, or end one. Source: Unicode Standard Annex #14, classes CL, CP, EX, NS and OP. */
const NEVER_FIRST = /^[\p{Pe}\p{Pf}、。，．：；？！ーぁぃぅぇぉっゃゅょァィゥェォッャュョ々〻]/u;
const NEVER_LAST = /[\p{Ps}\p{Pi}]$/u;
const BY_DICTIONARY = /[\p{sc=Thai}\p{sc=Lao}\p{sc=Khmer}\p{sc=Myanmar}]/u;
/** Writing in which every code point is a character, as long as no mark joins it. */
const PLAIN = /^[ -~\p{sc=Latin}\p{sc=Greek}\p{sc=Cyrillic}\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{P}]*$/u;
const MARK = /\p{M}/u;

/** Words longer than this are never measured whole: their width is that of their characters. */
const LONGEST_WORD = 60;
/** Pieces whose width is remembered; more than a screen of notes has. */
const MOST_REMEMBERED = 20_000;

let graphemes: Intl.Segmenter | undefined;
let words: Intl.Segmenter | undefined;

const charactersOf = (text: string): string[] => {
  if (PLAIN.test(text) && !MARK.test(text)) return Array.from(text);
  graphemes ??= new Intl.Segmenter('en', { granularity: 'grapheme' });
  return Array.from(graphemes.segment(text), ({ segment }) => segment);
};

function wordsOf(text: string): string[] {
  words ??= new Intl.Segmenter('en', { granularity: 'word' });
  return Array.from(words.segment(text), ({ segment }) => segment);
}

interface Habit {
  readonly isIdeograph: boolean;
  readonly isNeverFirst: boolean;
  readonly isNeverLast: boolean;
}
/** A text has few different characters; asking each once is much quicker than asking each time. */
const habits = new Map<string, Habit>();

function habitOf(character: string): Habit {
  let habit = habits.get(character);
  if (habit === undefined) {
    habit = {
      isIdeograph: IDEOGRAPHS.test(character),
      isNeverFirst: NEVER_FIRST.test(character),
      isNeverLast: NEVER_LAST.test(character),
    };
    if (habits.size >= MOST_REMEMBERED) habits.clear();
    habits.set(character, habit);
  }
  return habit;
}

/** Ideographs and kana one by one; what stands between them whole. */
function atIdeographs(text: string): string[] {
  const pieces: string[] = [];
  let isOpen = false;
  for (const character of charactersOf(text)) {
    const { isIdeograph } = habitOf(character);
    if (isOpen && !isIdeograph) pieces[pieces.length - 1] += character;
    else pieces.push(character);
    isOpen = !isIdeograph;
  }
  return pieces;
}

/** The places within a word of an unspaced script where a line may end. */
function piecesOf(word: string): string[] {
  const fine = BY_DICTIONARY.test(word) ? wordsOf(word).flatMap(atIdeographs) : atIdeographs(word);
  const pieces: string[] = [];
  for (const piece of fine) {
    const last = pieces.length - 1;
    const isBound =
      last >= 0 && (habitOf(piece.slice(0, 1)).isNeverFirst || habitOf(pieces[last]!.slice(-1)).isNeverLast);
    if (isBound && pieces[last]!.length < LONGEST_WORD) pieces[last] += piece;
    else pieces.push(piece);
  }
  return pieces;
}

function* unitsOf(paragraph: string): Generator<Unit> {
  for (const [, text = '', space = ''] of paragraph.matchAll(/(\S*)(\s*)/g)) {
    if (!UNSPACED.test(text)) {
      if (text !== '' || space !== '') yield { text, space };
      continue;
    }
    const pieces = piecesOf(text);
    for (const [index, piece] of pieces.entries())
      yield { text: piece, space: index === pieces.length - 1 ? space : '' };
  }
}

const remembered = new WeakMap<MeasureText, Map<string, number>>();

function remembering(measure: MeasureText): MeasureText {
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

/** Lines as they fill; white space at an end hangs over. */
class Lines {
  readonly done: string[] = [];
  readonly #width: number;
  #line = '';
  #used = 0;
  #hasInk = false;

  constructor(width: number) {
    this.#width = width;
  }

  add(text: string, width: number): void {
    if (this.#hasInk && this.#used + width > this.#width) this.end();
    this.#line += text;
    this.#used += width;
    this.#hasInk ||= text !== '';
  }

  space(text: string, width: number): void {
    this.#line += text;
    this.#used += width;
  }

  end(): void {
    this.done.push(this.#line.trimEnd());
    this.#line = '';
    this.#used = 0;
    this.#hasInk = false;
  }
}

/**
 * Breaks text into lines no wider than `width`, in time that grows with its length: at white space, between the
 * characters of scripts without spaces, and within words that are longer than a line. A line is as wide as its words and
 * spaces together; kerning across a space is left aside.
 *
 * @param measure - width of a piece of text, in the unit of `width`
 */
export function breakLines(text: string, width: number, measure: MeasureText): string[] {
  const widthOf = remembering(measure);
  const lines = new Lines(width);
  for (const paragraph of text.split('\n')) {
    for (const { text: word, space } of unitsOf(paragraph)) {
      const isLong = word.length > LONGEST_WORD;
      const whole = isLong ? Number.POSITIVE_INFINITY : widthOf(word);
      if (whole <= width) lines.add(word, whole);
      else for (const character of charactersOf(word)) lines.add(character, widthOf(character));
      if (space !== '') lines.space(space, space.length * widthOf(' '));
    }
    lines.end();
  }
  return lines.done;
}
