/** Type of a note, board units: serif text with a line height that reads well at arm's length. */
export const NOTE_TYPE = { fontSize: 16, lineHeight: 23, padding: 14, width: 240, minHeight: 51 } as const;

/**
 * Breaks text into lines no wider than `width`. Words longer than a line are broken between characters.
 *
 * @param measure - width of a piece of text, in the unit of `width`
 */
export function breakLines(text: string, width: number, measure: (piece: string) => number): string[] {
  const lines: string[] = [];
  for (const paragraph of text.split('\n')) {
    let line = '';
    for (const word of paragraph.split(/(?<=\s)/)) {
      if (line !== '' && measure((line + word).trimEnd()) > width) {
        lines.push(line.trimEnd());
        line = '';
      }
      let rest = word;
      while (measure(rest.trimEnd()) > width && [...rest].length > 1) {
        const letters = [...rest];
        let count = letters.length - 1;
        while (count > 1 && measure(letters.slice(0, count).join('')) > width) count -= 1;
        lines.push(letters.slice(0, count).join(''));
        rest = letters.slice(count).join('');
      }
      line += rest;
    }
    lines.push(line.trimEnd());
  }
  return lines;
}
