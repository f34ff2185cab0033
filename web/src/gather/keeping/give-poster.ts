import { type IntakeType, isPostered } from '@miradero/core/picture';
import type { Picture } from '@miradero/core/schema';
import type { Sync } from '../../sync/index.ts';
import { keepFile } from './keep-file.ts';

/** Those for which one was made, or is being made, in this window. */
const given = new Set<string>();

/**
 * Makes the picture that stands for a clip or a model where it has none, as it has none that the server fetched: no
 * browser has seen that yet. Where it cannot be made everything stays as it is.
 */
export async function givePoster(sync: Sync, picture: Picture): Promise<void> {
  const { id, type, width, height, name, fileName, state } = picture;
  if (!isPostered(type) || state === 'ready' || given.has(id)) return;
  given.add(id);
  try {
    const answer = await fetch(`/api/pictures/${id}/original`);
    if (!answer.ok) throw new Error('it does not come');
    const file = new File([await answer.blob()], fileName, { type });
    await keepFile(sync, file, { type: type as IntakeType, width, height }, name, { source: {} });
  } catch {
    given.delete(id);
  }
}
