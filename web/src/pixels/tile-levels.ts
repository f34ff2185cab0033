import type { TileLevel } from '@miradero/core/schema';
import { PixelError } from './requests.ts';

/** The pyramid of a very large picture, finest first. @throws PixelError */
export async function tileLevelsOf(picture: string, signal?: AbortSignal): Promise<readonly TileLevel[]> {
  let response: Response;
  try {
    response = await fetch(`/api/pictures/${picture}/tiles`, signal ? { signal } : {});
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new PixelError('unreachable', String(error));
  }
  if (!response.ok) throw new PixelError(response.status < 500 ? 'absent' : 'unreachable');
  const { levels } = (await response.json()) as { levels: TileLevel[] };
  return levels;
}
