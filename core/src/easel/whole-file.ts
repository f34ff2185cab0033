/** Of the end of a file so much is looked at: what tells that it is whole stands there. */
export const TAIL_BYTES = 65_557;

const ascii = (bytes: Uint8Array, at: number, word: string): boolean =>
  [...word].every((letter, index) => bytes[at + index] === letter.charCodeAt(0));

/**
 * Whether a file that another program is writing may be whole, from its first and last bytes: a format that says where it
 * ends has to end there. Of others nothing is known, and whoever decodes it will tell.
 *
 * @param head - 12 bytes at least, where there are as many
 * @param tail - the last `TAIL_BYTES`, or all
 * Source: PNG (ISO/IEC 15948, IEND), JPEG (ITU-T T.81, EOI), RIFF (chunk size), ZIP (end of central directory record).
 */
export function mayBeWhole(head: Uint8Array, tail: Uint8Array, bytes: number): boolean {
  if (ascii(head, 1, 'PNG')) return ascii(tail, tail.length - 8, 'IEND');
  if (head[0] === 0xff && head[1] === 0xd8) {
    for (let at = tail.length - 2; at >= 0; at -= 1)
      if (tail[at] === 0xff && tail[at + 1] === 0xd9) return true;
    return false;
  }
  if (ascii(head, 0, 'RIFF')) {
    const size = head[4]! + head[5]! * 2 ** 8 + head[6]! * 2 ** 16 + head[7]! * 2 ** 24;
    return bytes >= size + 8;
  }
  if (ascii(head, 0, 'PK')) {
    for (let at = tail.length - 22; at >= 0; at -= 1) if (ascii(tail, at, 'PK\u0005\u0006')) return true;
    return false;
  }
  return bytes > 0;
}
