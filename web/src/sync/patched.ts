import type { PatchPicture, Picture } from '@miradero/core/schema';

/** A picture as it will be once the server knows a patch. */
export function patched(picture: Picture, patch: PatchPicture): Picture {
  const { source, views, addParts, fillViews, stance, ...rest } = patch;
  const parts = rest.parts ?? picture.parts;
  return {
    ...picture,
    ...(rest as Partial<Picture>),
    ...(addParts ? { parts: [...new Set([...parts, ...addParts])] } : {}),
    ...(stance ? { facts: { ...picture.facts, stance } } : {}),
    ...(source ? { source: { ...picture.source, ...source } } : {}),
    ...(views || fillViews ? { views: { ...fillViews, ...picture.views, ...views } } : {}),
  };
}

/** A picture with patches on top, oldest first. */
export const patchedBy = (picture: Picture, patches: readonly object[]): Picture =>
  patches.reduce<Picture>((known, patch) => patched(known, patch as PatchPicture), picture);
