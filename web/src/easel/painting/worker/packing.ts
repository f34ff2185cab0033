type Format = 'deflate' | 'deflate-raw';

async function through(
  bytes: Uint8Array<ArrayBuffer>,
  stream: CompressionStream | DecompressionStream,
): Promise<Uint8Array<ArrayBuffer>> {
  const body = new Blob([bytes]).stream().pipeThrough(stream);
  return new Uint8Array(await new Response(body).arrayBuffer());
}

export const packed = (bytes: Uint8Array<ArrayBuffer>, format: Format) =>
  through(bytes, new CompressionStream(format));

/** @throws TypeError where it is damaged */
export const unpacked = (bytes: Uint8Array<ArrayBuffer>, format: Format) =>
  through(bytes, new DecompressionStream(format));
