import { boundsOf, placeWords, rowsOf } from '@miradero/core/board';
import { heightOf } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import { nameOfItem } from '../items/index.ts';
import type { StageView } from '../stage/index.ts';
import { useMade, useStore } from '../state/index.ts';

/** So many before and after the one that is stood on are listed: thousands in view would take longer than a key. */
const ABOUT = 60;

export const WALKED_LIST = 'walked-list';
export const walkedId = (item: string): string => `walked-${item}`;

function wordsOf(desk: Desk, view: StageView, item: Item): string {
  const size = `${Math.round(item.width)} by ${Math.round(heightOf(item))}`;
  return `${nameOfItem(desk, item)}, ${placeWords(boundsOf(item), view.view)}, ${size}`;
}

/** What is in view in reading order, for those who are told of it: the stage says by it where one has walked to. */
export function WalkedList({ desk, view }: { desk: Desk; view: StageView }) {
  useStore(view.store);
  const { walkedTo, shown } = useMade(desk.watch, () => {
    const { walkedTo } = desk.now;
    if (walkedTo === undefined) return { walkedTo, shown: [] };
    const seen = [...view.feed.itemsWithin(view.view)];
    const stood = desk.session.items.get(walkedTo);
    if (stood && !seen.some(({ id }) => id === walkedTo)) seen.push(stood);
    const ids = rowsOf(seen).flat();
    const at = ids.indexOf(walkedTo);
    return { walkedTo, shown: ids.slice(Math.max(0, at - ABOUT), at + ABOUT + 1) };
  });
  if (walkedTo === undefined) return null;
  const place = (id: string) => desk.session.items.get(id);
  return (
    <div id={WALKED_LIST} role="listbox" aria-label="In view" className="sr-only">
      {shown.map((id) => {
        const item = place(id);
        return item ? (
          // biome-ignore lint/a11y/useFocusableInteractive: named by the stage's aria-activedescendant
          <div key={id} id={walkedId(id)} role="option" aria-selected={id === walkedTo}>
            {wordsOf(desk, view, item)}
          </div>
        ) : null;
      })}
    </div>
  );
}
