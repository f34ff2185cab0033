import type { Picture } from '@miradero/core/schema';
import type { PixelSource } from '../pixels/index.ts';
import type { SceneSource, SourcesOnStage } from '../stage/index.ts';
import type { PictureShelf, ShelvedPicture, WaitingFile } from '../sync/index.ts';

/** What this browser can decode itself, so that the original serves as the finest level. */
const DECODABLE = new Set(['image/jpeg', 'image/png', 'image/webp', 'image/avif', 'image/gif']);

function wholePathOf(picture: Picture): string | null {
  if (picture.reading !== null) return `/api/levels/${picture.reading}`;
  return DECODABLE.has(picture.type) ? `/api/pictures/${picture.id}/original` : null;
}

/** What this browser can show of a file that it keeps. */
function shownOf({ poster, type, bytes }: WaitingFile): Blob | null {
  if (poster) return poster;
  // Whoever reads it takes the merged picture out of it.
  if (type === 'image/openraster') return new Blob([bytes], { type });
  return DECODABLE.has(type) ? bytes : null;
}

/** What browsers read of a picture's colours: eight bits, of sRGB or of Display P3. */
function spaceOf(picture: Picture | undefined): PixelSource['space'] {
  if (!picture?.colour) return 'srgb';
  if (picture.depth !== null && picture.depth > 8) return 'own';
  if (/^(?:sRGB|grey|gr[ae]y)/i.test(picture.colour)) return 'srgb';
  // Its lossless copy, where there is one, is in sRGB.
  return /P3/.test(picture.colour) && picture.reading === null ? 'display-p3' : 'own';
}

function sourceOf({ id, name, picture, file }: ShelvedPicture): SceneSource | undefined {
  const facts = picture ?? file;
  if (facts === undefined) return undefined;
  return {
    id,
    name,
    width: facts.width,
    height: facts.height,
    levels: picture?.levels ?? [],
    atlas: picture?.atlas ?? null,
    thumbhash: picture?.thumbhash ?? null,
    file: picture?.state === 'ready' || !file ? null : shownOf(file),
    wholePath: picture?.state === 'ready' ? wholePathOf(picture) : null,
    hasTiles: picture?.hasTiles ?? false,
    exact: picture?.exact ?? null,
    space: spaceOf(picture),
    failure: picture?.failure ?? file?.refusal ?? null,
  };
}

/** Where the pixels of a picture are that the server has. */
export const sourceOfPicture = (picture: Picture): PixelSource =>
  sourceOf({ id: picture.id, name: picture.name, picture, file: undefined })!;

/** The shelf as the stage wants to see it. */
export const sourcesOf = (shelf: PictureShelf): SourcesOnStage => ({
  source(id) {
    const known = shelf.get(id);
    return known && sourceOf(known);
  },
  subscribe: (listener) => shelf.subscribe(listener),
});
