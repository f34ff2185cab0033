import { pathOfPicture, type Sync } from '../../sync/index.ts';
import { aiming } from './aim.ts';

/** Gives a picture that came in to what is being looked for right now. */
export async function giveToAim(sync: Sync, picture: string): Promise<void> {
  const { aim } = aiming;
  if (!aim) return;
  // Added by the server: a picture that was here already keeps what it was given to and what was said of its view.
  const view = aim.view ? { fillViews: { [aim.subject]: aim.view } } : {};
  await sync.outbox.put({
    kind: 'patch',
    path: pathOfPicture(picture),
    body: { addParts: [aim.part], ...view },
    awaits: picture,
  });
}
