import type { Picture } from '@miradero/core/schema';
import { ask } from './http.ts';

/** Ids of one request; its address must stay short. */
const AT_ONCE = 80;

/** Pictures with all that is known of them, their measures, too. @throws UnreachableError without the server */
export async function askPictures(ids: Iterable<string>): Promise<Map<string, Picture>> {
  const all = [...new Set(ids)];
  const pictures = new Map<string, Picture>();
  for (let from = 0; from < all.length; from += AT_ONCE) {
    const answer = await ask('GET /api/pictures', {
      query: { ids: all.slice(from, from + AT_ONCE).join(',') },
    });
    for (const picture of answer.pictures) pictures.set(picture.id, picture);
  }
  return pictures;
}
