import { lazy, Suspense, useCallback, useEffect, useMemo, useRef } from 'react';
import { createPortal } from 'react-dom';
import {
  CommandsProvider,
  PERCHABLE,
  useCommands,
  useKeymap,
  useKeys,
  usePlace,
  useStanding,
} from '../commands/index.ts';
import { BOARD } from '../desk/index.ts';
import { useStore, watch } from '../state/index.ts';
import type { ArrangementStore } from './arrangement.ts';
import { PERCH_ANYWHERE } from './commands.ts';
import { keepSize, perch, type Say } from './open-perch.ts';
import type { PerchWindow } from './perch-window.ts';

const PerchRoom = lazy(() => import('./perch-room.tsx').then((room) => ({ default: room.PerchRoom })));

function FloatingKeys({ window }: { window: Window }): null {
  useKeys(useKeymap(), window);
  return null;
}

function Floating({
  arrangement,
  opened,
  onFollow,
}: {
  arrangement: ArrangementStore;
  opened: PerchWindow;
  onFollow: () => void;
}) {
  const { registry, places } = useCommands();
  const { window } = opened;
  useEffect(() => {
    const onResize = () => keepSize({ width: window.innerWidth, height: window.innerHeight });
    window.addEventListener('resize', onResize);
    return () => window.removeEventListener('resize', onResize);
  }, [window]);
  return (
    <CommandsProvider registry={registry} beyond={places}>
      <FloatingKeys window={window} />
      <Suspense>
        <PerchRoom {...{ arrangement, window, onFollow }} onClose={perch.close} />
      </Suspense>
    </CommandsProvider>
  );
}

/** Lets the pane in front show what is selected on the board in front, while that is asked for. */
function useFollowing(arrangement: ArrangementStore | undefined): void {
  const desk = useStanding(BOARD);
  const isFollowing = useFollows(arrangement);
  useEffect(() => {
    if (!desk || !arrangement || !isFollowing) return;
    const follow = () => {
      const items = desk.selected.map(({ id }) => id);
      if (items.length > 0) arrangement.show({ kind: 'items', board: desk.session.id, items });
    };
    follow();
    return watch(desk.store, ({ selection }) => selection, follow);
  }, [desk, arrangement, isFollowing]);
}

const NONE = { getState: () => undefined, getInitialState: () => undefined, subscribe: () => () => {} };
const useFollows = (arrangement: ArrangementStore | undefined): boolean =>
  useStore(arrangement?.store ?? NONE, (now) => now?.isFollowing ?? false);

/** The perch of this window: it stays while pages come and go. @param say - where the person is */
export function PerchHost({ say }: { say: Say }) {
  const { arrangement, window: opened } = useStore(perch.store);
  const desk = useStanding(BOARD);
  const latest = useRef(say);
  latest.current = (text, detail) => (desk ? desk.say(text, detail) : say(text, detail));
  const tell = useCallback<Say>((text, detail) => latest.current(text, detail), []);
  useFollowing(arrangement);
  const follow = useCallback(() => {
    if (!arrangement) {
      tell('No perch is open.', ['P opens one.']);
      return;
    }
    const isFollowing = !arrangement.now.isFollowing;
    arrangement.set({ isFollowing });
    tell(isFollowing ? 'The perch shows what is selected here.' : 'The perch follows no more.');
  }, [arrangement, tell]);
  const { places } = useCommands();
  const anywhere = useMemo(
    () => ({
      toggle() {
        const shows = places.get(PERCHABLE)?.shows();
        void (shows ? perch.toggle(shows, tell) : perch.restore(tell));
      },
      restore: () => void perch.restore(tell),
      ...{ follow, close: perch.close },
    }),
    [places, follow, tell],
  );
  usePlace(PERCH_ANYWHERE, anywhere);
  if (!arrangement || !opened?.holder) return null;
  return createPortal(
    <Floating key={arrangement.name} arrangement={arrangement} opened={opened} onFollow={follow} />,
    opened.holder,
  );
}
