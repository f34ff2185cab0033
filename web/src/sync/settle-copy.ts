import type { SettleCopy } from '@miradero/core/schema';
import { ask } from './http.ts';
import { pathOfPicture } from './picture-shelf.ts';
import { newGesture } from './steps/index.ts';
import type { Sync } from './sync.ts';

/**
 * Decides about two near copies, everywhere; one step takes it back.
 *
 * @throws what `ask` throws; nothing was decided then
 */
export async function settleCopy(
  { shelf, steps }: Pick<Sync, 'shelf' | 'steps'>,
  picture: string,
  other: string,
  keep: SettleCopy['keep'],
): Promise<void> {
  const about = { gesture: newGesture(), words: 'Near copies settled', at: location.pathname };
  const answer = await ask('POST /api/pictures/:id/copies', {
    parameters: { id: picture },
    body: { other, keep },
  });
  for (const { board, done } of answer.changes) steps.record({ kind: 'change', board, done }, about);
  if (answer.putAway !== null) {
    const [before, after] = [{ isPutAway: false }, { isPutAway: true }];
    steps.record({ kind: 'facts', path: pathOfPicture(answer.putAway), before, after }, about);
  }
  steps.record({ kind: 'copies', picture, other, isSettled: true }, about);
  shelf.learn(answer.picture);
  shelf.want([picture, other]);
}
