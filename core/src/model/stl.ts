import type { ModelLook, ModelTrouble } from './look.ts';

const HEAD = 84;
const TRIANGLE = 50;

/** Whether bytes are those of a binary STL: a header, a count, and room for exactly so many triangles. @param size - of the whole file */
export function isBinaryStl(head: Uint8Array, size: number): boolean {
  if (head.length < HEAD) return false;
  const count = new DataView(head.buffer, head.byteOffset, head.byteLength).getUint32(80, true);
  return count > 0 && size === HEAD + TRIANGLE * count;
}

/** Whether bytes begin as an STL of text does. */
export function isTextStl(head: Uint8Array): boolean {
  const text = new TextDecoder('latin1').decode(head.subarray(0, 1024));
  return /^\s*solid\b[^\n]*\n\s*(?:facet\s+normal|endsolid)\b/.test(text);
}

/** Counts a word in bytes. */
function countOf(word: string, bytes: Uint8Array): number {
  const letters = new TextEncoder().encode(word);
  let count = 0;
  for (let from = bytes.indexOf(letters[0]!); from >= 0; from = bytes.indexOf(letters[0]!, from + 1))
    if (letters.every((letter, index) => bytes[from + index] === letter)) count += 1;
  return count;
}

/** How many triangles an STL has; one of text that was cut off is damaged. */
export function lookAtStl(bytes: Uint8Array): ModelLook | ModelTrouble {
  if (isBinaryStl(bytes, bytes.length)) return { triangles: (bytes.length - HEAD) / TRIANGLE };
  if (!isTextStl(bytes)) return 'damaged';
  const triangles = countOf('endfacet', bytes);
  if (countOf('endsolid', bytes.subarray(Math.max(0, bytes.length - 4096))) === 0) return 'damaged';
  return triangles > 0 ? { triangles } : 'no-form';
}
