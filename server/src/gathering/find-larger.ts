import { copyBetween, INTAKE_LIMITS } from '@miradero/core/picture';
import type { FoundPage, FoundPicture, LargerAnswer, Picture, PictureSource } from '@miradero/core/schema';
import { completeSource, findPicture } from '../database/pictures.ts';
import { ProblemError } from '../requests/problem.ts';
import { withBlobFiles } from '../storage/blob-store.ts';
import { withFetchedFile } from './fetch-safely.ts';
import { type Gathering, keepFetched, lookAtAddress } from './look-at-address.ts';

/** Pictures of the page that are compared with the small one. */
const MOST_COMPARED = 6;

const sourceOf = ({ address, title, creator, licence }: FoundPage): Partial<PictureSource> => ({
  ...{ page: address, title, creator, licence },
});

/** Takes the picture at an address in when it is the same as the small one; undefined when it is another. */
async function takeIfSame(
  gathering: Gathering,
  found: FoundPicture,
  page: FoundPage,
  small: Uint8Array,
): Promise<Picture | undefined> {
  const { rules, decoders } = gathering;
  try {
    return await withFetchedFile(
      rules,
      found.address,
      { bytes: INTAKE_LIMITS.bytes, page: page.address },
      async (file) => {
        const print = await decoders.run('print', { path: file.path }).catch(() => undefined);
        if (!print || !copyBetween(print, small)) return undefined;
        return (await keepFetched(gathering, file, { source: sourceOf(page) })).picture;
      },
    );
  } catch (error) {
    if (error instanceof ProblemError) return undefined;
    throw error;
  }
}

/**
 * Follows the link of a small picture to its page, finds there the same picture larger, and takes that in. Where the page
 * has only the small one, that learns its source at least.
 *
 * @throws ProblemError `picture-missing`, `address-…`
 */
export async function findLarger(gathering: Gathering, id: string, link: string): Promise<LargerAnswer> {
  const { knex, owner, decoders } = gathering;
  const small = await findPicture(knex, owner, id);
  if (!small) throw new ProblemError('picture-missing');
  const looked = await lookAtAddress(gathering, link);
  if (looked.kind === 'picture') {
    const isLarger = looked.picture.width > small.width && looked.picture.id !== id;
    return { isLarger, picture: isLarger ? looked.picture : small };
  }
  const { page } = looked;
  const print = await withBlobFiles(knex, [small.sha256], ([path]) => decoders.run('print', { path: path! }));
  const candidates = page.pictures
    .filter(({ width }) => (width ?? 0) > small.width)
    .sort((one, other) => (other.width ?? 0) - (one.width ?? 0))
    .slice(0, MOST_COMPARED);
  for (const candidate of candidates) {
    const picture = await takeIfSame(gathering, candidate, page, print);
    if (picture) return { isLarger: true, picture };
  }
  await completeSource(knex, id, sourceOf(page));
  return { isLarger: false, picture: (await findPicture(knex, owner, id))! };
}
