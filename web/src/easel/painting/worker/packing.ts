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

/** A tile as it is painted on. @throws TypeError where it is damaged */
export async function unpackedTile({ tile, bytes }: PackedTile): Promise<NumberedTile> {
  return { tile, pixels: new Uint8ClampedArray((await unpacked(bytes, 'deflate-raw')).buffer) };
}
