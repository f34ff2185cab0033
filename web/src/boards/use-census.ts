import { isPlacement } from '@miradero/core/items';
import { useMemo } from 'react';
import type { Desk } from '../desk/index.ts';
import type { Trouble } from '../shell/index.ts';
import { useMade, useStore } from '../state/index.ts';

/** What the page says of everything on a board; counted again when the board alters, not at every move of the pointer. */
export interface Census {
  readonly pictures: number;
  readonly troubles: readonly Trouble[];
}

/** Pictures that cannot be shown, as one trouble. */
function troublesOf(unshown: ReadonlySet<string>): Trouble[] {
  if (unshown.size === 0) return [];
  const [first] = unshown;
  const title =
    unshown.size === 1 ? `“${first}” cannot be shown` : `${unshown.size} pictures cannot be shown`;
  const detail =
    'Each says why where it stands. Its file is kept as it came; everything else on the board goes on as usual.';
  return [{ id: 'unshown', title, detail }];
}

const UNPAINTED: Trouble = {
  id: 'unpainted',
  title: 'What stands here cannot be painted right now',
  detail: 'It is tried again by itself. Everything is kept; what you see may be out of date.',
};

export function useCensus(desk: Desk): Census {
  const isUnpainted = useStore(desk.feed.painter.trouble);
  const { version, news } = useMade(desk.watch, () => ({
    version: desk.session.version,
    news: desk.sync.shelf.version,
  }));
  return useMemo(() => {
    let pictures = 0;
    const unshown = new Set<string>();
    // What is folded away belongs to the board, too.
    for (const item of desk.session.items.values()) {
      if (item.removed || !isPlacement(item)) continue;
      pictures += 1;
      const known = desk.sync.shelf.get(item.picture);
      if (known?.picture?.failure || known?.file?.refusal) unshown.add(known.name);
    }
    const troubles = [...(isUnpainted ? [UNPAINTED] : []), ...troublesOf(unshown)];
    return { pictures, troubles };
  }, [desk, version, news, isUnpainted]);
}
