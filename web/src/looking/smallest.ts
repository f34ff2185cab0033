import { smallestSet } from '@miradero/core/board';
import { isPlacement } from '@miradero/core/items';
import type { Picture, PurposeName } from '@miradero/core/schema';
import { resolvedLines } from '@miradero/core/subject';
import type { Desk } from '../desk/index.ts';
import { askPictures } from '../sync/index.ts';

const servedBy = (known: Picture | undefined): PurposeName[] => [
  ...new Set(known?.purposes.filter(({ isNot }) => !isNot).map(({ purpose }) => purpose)),
];

/** How many pictures on the board serve each purpose. */
export function servedOn(desk: Desk): Map<PurposeName, number> {
  const counts = new Map<PurposeName, number>();
  for (const item of desk.session.standing.filter(isPlacement))
    for (const one of servedBy(desk.sync.shelf.get(item.picture)?.picture))
      counts.set(one, (counts.get(one) ?? 0) + 1);
  return counts;
}

/** Selects the fewest pictures that serve all of some purposes, the sharper ones of as many, and says what none serves. */
export async function selectSmallest(desk: Desk, needs: readonly PurposeName[]): Promise<void> {
  const placements = desk.session.standing.filter(isPlacement);
  const { shelf } = desk.sync;
  const useful = placements.filter((item) =>
    servedBy(shelf.get(item.picture)?.picture).some((one) => needs.includes(one)),
  );
  // Without the server any of as many serves.
  const measured = await askPictures(useful.map(({ picture }) => picture)).catch(
    () => new Map<string, Picture>(),
  );
  const candidates = useful.map(({ id, picture }) => {
    const known = measured.get(picture);
    return {
      id,
      serves: servedBy(shelf.get(picture)?.picture),
      sharpness: (known && resolvedLines(known)) ?? 0,
    };
  });
  const { ids, missing } = smallestSet(candidates, needs);
  desk.select(ids.filter((id) => desk.session.items.get(id)?.removed === false));
  const lacking = missing.length > 0 ? [`None here is for ${missing.join(', ')}.`] : [];
  const count = ids.length === 1 ? 'One picture serves' : `${ids.length} pictures serve`;
  const what = missing.length > 0 ? 'what any here serves' : 'all that was asked for';
  if (ids.length === 0) desk.say('No picture here says that it is for any of these.', lacking);
  else desk.say(`${count} ${what}.`, lacking);
  desk.fitSelection();
}
