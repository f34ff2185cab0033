/** Text as it is compared: without case, accents and the difference between kinds of blanks and quotes. */
export const foldText = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[‘’]/g, "'")
    .replace(/[“”]/g, '"')
    .replace(/\s+/g, ' ')
    .trim();

/** Tells whether texts hold every word of `query`, in any order, each somewhere in a word. An empty query finds nothing. */
export function textMatcher(query: string): (text: string) => boolean {
  const words = foldText(query).split(' ').filter(Boolean);
  return (text) => {
    if (words.length === 0) return false;
    const folded = foldText(text);
    return words.every((word) => folded.includes(word));
  };
}
