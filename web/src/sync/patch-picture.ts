import { factsBefore } from '@miradero/core/board';
import type { PatchPicture, Picture } from '@miradero/core/schema';
import { pathOfPicture } from './picture-shelf.ts';
import type { Gesture } from './steps/index.ts';
import type { Sync } from './sync.ts';

interface About {
  /** What is known of the picture, where the shelf may not know it. */
  readonly known?: Picture;
  /** It may still be on its way to the server: the patch waits for it. */
  readonly isArriving?: boolean;
  /** Meant for it only where it was not there before. */
  readonly onlyNew?: boolean;
  readonly gesture?: Gesture;
  readonly words?: string;
  readonly at?: string;
}

/** Says something of a picture: shown at once, kept, sent, and taken back by undo. @returns settles when it is kept */
export function patchPicture(
  sync: Pick<Sync, 'shelf' | 'steps' | 'outbox'>,
  id: string,
  patch: PatchPicture,
  { known, isArriving = true, onlyNew = false, ...about }: About = {},
): Promise<void> {
  const path = pathOfPicture(id);
  const shelved = sync.shelf.get(id);
  const now = known ?? shelved?.picture ?? { name: shelved?.name, source: shelved?.file?.source };
  const awaits = isArriving ? { awaits: id } : {};
  const before = factsBefore({ ...now }, patch);
  // A picture without a name has none to be given back.
  if (before.name === null) delete before.name;
  sync.steps.record({ kind: 'facts', path, before, after: { ...patch }, ...awaits }, about);
  return sync.outbox.put({
    ...{ kind: 'patch', path, body: patch, ...awaits },
    ...(onlyNew ? { onlyNew: true as const } : {}),
  });
}
