/**
 * AVIF sequences as sharp reads them. It knows AVIF by its first brand alone, which is `avis` for a sequence; those that
 * also hold a still (`avif` among their other brands) are read as that. Source: AV1 Image File Format 1.1, 6.2 and 6.3.
 */
export function asStillAvif<B extends Uint8Array>(bytes: B): B | Buffer {
  const at = (from: number) => Buffer.from(bytes.buffer, bytes.byteOffset + from, 4).toString('latin1');
  if (bytes.length < 16 || at(4) !== 'ftyp' || at(8) !== 'avis') return bytes;
  const still = Buffer.from(bytes);
  still.write('avif', 8, 'latin1');
  return still;
}
