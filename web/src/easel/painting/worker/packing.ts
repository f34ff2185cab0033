import { oneColourOf, type TilePixels, tileOfOneColour } from '@miradero/core/paint';
import type { NumberedTile, PackedTile } from '../messages.ts';

type Format = 'deflate' | 'deflate-raw';

/** The bytes are written into the stream, not read from a `Blob`: those go by way of another process, which takes thrice as long. */
async function through(
  bytes: Uint8Array<ArrayBuffer>,
  { writable, readable }: CompressionStream | DecompressionStream,
): Promise<Uint8Array<ArrayBuffer>> {
  const writer = writable.getWriter();
  // What is damaged is heard of by reading.
  writer.write(bytes).catch(() => {});
  writer.close().catch(() => {});
  return new Uint8Array(await new Response(readable).arrayBuffer());
}

export const packed = (bytes: Uint8Array<ArrayBuffer>, format: Format) =>
  through(bytes, new CompressionStream(format));

/** @throws TypeError where it is damaged */
export const unpacked = (bytes: Uint8Array<ArrayBuffer>, format: Format) =>
  through(bytes, new DecompressionStream(format));

/** No deflated bytes begin with it (RFC 1951, 3.2.3: a type of block that there is not): a tile of one colour, three bytes of that, what it covers. */
const ONE_COLOUR = 0b110;
const HEAD = 4;

/** A tile as it is kept. What has one colour, as most strokes do, is packed and unpacked in a quarter of the time. */
export async function packedTile(pixels: TilePixels): Promise<Uint8Array<ArrayBuffer>> {
  const one = oneColourOf(pixels);
  if (!one) return packed(new Uint8Array(pixels.buffer), 'deflate-raw');
  const coverage = await packed(one.coverage, 'deflate-raw');
  const bytes = new Uint8Array(HEAD + coverage.length);
  bytes.set([ONE_COLOUR, one.colour & 255, (one.colour >> 8) & 255, one.colour >> 16]);
  bytes.set(coverage, HEAD);
  return bytes;
}

/** A tile as it is painted on. @throws TypeError, RangeError where it is damaged */
export async function unpackedTile({ tile, bytes }: PackedTile): Promise<NumberedTile> {
  const [first, red, green, blue] = bytes;
  if (first !== ONE_COLOUR)
    return { tile, pixels: new Uint8ClampedArray((await unpacked(bytes, 'deflate-raw')).buffer) };
  const coverage = await unpacked(bytes.slice(HEAD), 'deflate-raw');
  return { tile, pixels: tileOfOneColour({ colour: (blue! << 16) | (green! << 8) | red!, coverage }) };
}
