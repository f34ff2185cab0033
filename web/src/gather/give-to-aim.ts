import type { Sync } from '../sync/index.ts';
import { gatheringOf } from './gathering.ts';

/** Gives a picture that came in to what is being looked for right now. */
export async function giveToAim(sync: Sync, picture: string): Promise<void> {
  const { aim } = gatheringOf(sync).report;
  if (!aim) return;
  // A picture that was here already keeps what it was given to before.
  const known = sync.shelf.get(picture)?.picture;
  const parts = [...new Set([...(known?.parts ?? []), aim.part])];
  const view = aim.view && !known?.views[aim.subject] ? { views: { [aim.subject]: aim.view } } : {};
  await sync.outbox.put({
    kind: 'patch',
    path: `/api/pictures/${picture}`,
    body: { parts, ...view },
    awaits: picture,
  });
}
