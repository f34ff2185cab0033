import { emptyTile, oneColourOf, TILE_PX, type TilePixels, tileOfOneColour } from '@miradero/core/paint';

type Format = 'deflate' | 'deflate-raw';

/** The bytes are written into the stream, not read from a `Blob`: those go by way of another process, which takes thrice as long. */
function through(
  bytes: Uint8Array<ArrayBuffer>,
  { writable, readable }: CompressionStream | DecompressionStream,
): ReadableStream<Uint8Array> {
  const writer = writable.getWriter();
  // What is damaged is heard of by reading.
  writer.write(bytes).catch(() => {});
  writer.close().catch(() => {});
  return readable;
}

const allOf = async (stream: ReadableStream<Uint8Array>) =>
  new Uint8Array(await new Response(stream).arrayBuffer());

export const packed = (bytes: Uint8Array<ArrayBuffer>, format: Format) =>
  allOf(through(bytes, new CompressionStream(format)));

/** @throws TypeError where it is damaged */
export const unpacked = (bytes: Uint8Array<ArrayBuffer>, format: Format) =>
  allOf(through(bytes, new DecompressionStream(format)));

/** The same where it is known how much it is, in three quarters of the time. @throws RangeError where it is more or less */
async function unpackedInto<T extends Uint8Array | Uint8ClampedArray>(
  into: T,
  bytes: Uint8Array<ArrayBuffer>,
): Promise<T> {
  const reader = through(bytes, new DecompressionStream('deflate-raw')).getReader();
  let at = 0;
  for (let some = await reader.read(); !some.done; some = await reader.read()) {
    into.set(some.value, at);
    at += some.value.length;
  }
  if (at !== into.length) throw new RangeError(`${at} bytes of ${into.length}`);
  return into;
}

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
export async function unpackedTile(bytes: Uint8Array<ArrayBuffer>): Promise<TilePixels> {
  const [first, red, green, blue] = bytes;
  if (first !== ONE_COLOUR) return unpackedInto(emptyTile(), bytes);
  const coverage = await unpackedInto(new Uint8Array(TILE_PX * TILE_PX), bytes.subarray(HEAD));
  return tileOfOneColour({ colour: (blue! << 16) | (green! << 8) | red!, coverage });
}
