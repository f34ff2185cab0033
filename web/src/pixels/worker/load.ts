import { mergedOfOpenRaster } from '@miradero/core/formats';
import { INTAKE_LIMITS } from '@miradero/core/picture';
import { PixelError, type PixelProgress } from '../requests.ts';

type OnProgress = ((progress: PixelProgress) => void) | undefined;

export async function answerOf(path: string, signal: AbortSignal): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, { signal });
  } catch (error) {
    if (signal.aborted) throw error;
    throw new PixelError('unreachable', String(error));
  }
  if (response.ok) return response;
  throw new PixelError(response.status < 500 ? 'absent' : 'unreachable', `${path}: ${response.status}`);
}

async function bytesOf(response: Response, onProgress: OnProgress): Promise<Blob> {
  if (!onProgress || !response.body) return response.blob();
  const length = Number(response.headers.get('content-length'));
  const total = length > 0 ? length : undefined;
  let done = 0;
  const counted = response.body.pipeThrough(
    new TransformStream<Uint8Array, Uint8Array>({
      transform(piece, controller) {
        done += piece.byteLength;
        onProgress({ done, total });
        controller.enqueue(piece);
      },
    }),
  );
  return new Response(counted, { headers: response.headers }).blob();
}

/** What a browser reads of a file: of OpenRaster the merged picture. */
async function readable(bytes: Blob): Promise<Blob> {
  if (bytes.type !== 'image/openraster') return bytes;
  const archive = new Uint8Array(await bytes.arrayBuffer());
  const merged = mergedOfOpenRaster(archive, INTAKE_LIMITS.bytes);
  return merged ? new Blob([merged], { type: 'image/png' }) : bytes;
}

async function decode(file: Blob, size?: { width: number; height: number }): Promise<ImageBitmap> {
  const bytes = await readable(file);
  try {
    if (size === undefined) return await createImageBitmap(bytes);
    return await createImageBitmap(bytes, {
      resizeWidth: size.width,
      resizeHeight: size.height,
      resizeQuality: 'medium',
    });
  } catch (error) {
    throw new PixelError('undecodable', String(error));
  }
}

export async function fetchBitmap(
  path: string,
  signal: AbortSignal,
  onProgress: OnProgress,
): Promise<ImageBitmap> {
  const response = await answerOf(path, signal);
  let bytes: Blob;
  try {
    bytes = await bytesOf(response, onProgress);
  } catch (error) {
    if (signal.aborted) throw error;
    throw new PixelError('unreachable', String(error));
  }
  return decode(bytes);
}

/** Decodes a file upright, at the given size where one is given. */
export const decodeFile = (file: Blob, size: { width: number; height: number } | undefined) =>
  decode(file, size);
