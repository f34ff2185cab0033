import type { PatchPicture, Picture } from '@miradero/core/schema';
import type { Sync } from '../sync/index.ts';

/** A picture as it will be once the server knows a patch. */
export const patched = (picture: Picture, { source, views, ...rest }: PatchPicture): Picture => ({
  ...picture,
  ...(rest as Partial<Picture>),
  ...(source ? { source: { ...picture.source, ...source } } : {}),
  ...(views ? { views: { ...picture.views, ...views } } : {}),
});

/** Pictures as the server told them, with what is still on its way to it on top. */
export async function withUnsent(sync: Sync, pictures: readonly Picture[]): Promise<Picture[]> {
  const unsent = await sync.outbox.patches();
  return pictures.map((picture) =>
    (unsent.get(`/api/pictures/${picture.id}`) ?? []).reduce<Picture>(
      (known, patch) => patched(known, patch as PatchPicture),
      picture,
    ),
  );
}
