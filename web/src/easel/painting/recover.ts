import { isPlacement } from '@miradero/core/items';
import type { Desk } from '../../desk/index.ts';
import { isUnversioned } from './unversioned.ts';

/** What was painted on this board and is no version yet, because everything ended before: it is opened, and made one. */
export async function takeUpPainted(desk: Desk): Promise<void> {
  const drawn = desk.session.standing
    .filter(isPlacement)
    .filter(({ drawing }) => typeof drawing === 'string');
  const painted = await Promise.all(drawn.map(({ drawing }) => isUnversioned(drawing!)));
  const item = drawn.find((_, at) => painted[at]);
  if (!item) return;
  const { openStanding } = await import('./versions/open-painting.ts');
  await openStanding(desk, item).then(
    ({ versions }) => versions.makeNow(),
    // Another window has it, or nothing of it can be read: then it is as it was.
    () => {},
  );
}
