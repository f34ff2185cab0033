import { boundsOf, group } from '@miradero/core/board';
import type { Placement } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';
import { arrive, type BroughtFile } from '../gather/index.ts';
import { newGesture } from '../sync/index.ts';

/** So many of its own heights below the top of something its stills come to stand. */
const BELOW = 1.6;

/** Pictures that were taken of something come to stand below it; several together, under a title. One undo takes all of it back. */
export async function bringBelow(
  desk: Desk,
  item: Placement,
  files: readonly BroughtFile[],
  title: string,
): Promise<void> {
  const gesture = newGesture();
  const { x, y, width, height } = boundsOf(item);
  const ids = await arrive(desk, files, { x: x + width / 2, y: y + height * BELOW }, gesture);
  const came = ids.flatMap((id) => desk.session.items.get(id) ?? []).filter(({ removed }) => !removed);
  if (came.length < 2) return;
  const id = crypto.randomUUID();
  desk.session.commit([...group(desk.session.items, came, id), { item: id, set: { title } }], gesture);
  desk.select([id]);
}
