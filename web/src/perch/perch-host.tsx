import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
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
import { stageNow } from '../looking/index.ts';
import { later } from '../shell/index.ts';
import { useStore, watch } from '../state/index.ts';
import { type ArrangementStore, arrangementShowing } from './arrangement.ts';
import { PERCH_ANYWHERE } from './commands.ts';
import { perch, type Say } from './open-perch.ts';
import { shownOf } from './perch-button.tsx';
import { BLOCKED, type PerchWindow } from './perch-window.ts';
import { popups } from './popups.ts';
import { tellHostIsHere } from './window-channel.ts';

declare global {
  interface Window {
    /** What a popup says to the window that opened it. */
    miraderoPerch?: { adopt(arrangement: ArrangementStore, popup: Window): void; follow(): void } | undefined;
  }
}

const PerchRoom = later(() => import('./perch-room.tsx').then((room) => room.PerchRoom));

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
    const onResize = () =>
      arrangement.set({ size: { width: window.innerWidth, height: window.innerHeight } });
    window.addEventListener('resize', onResize);
    return () => window.removeEventListener('resize', onResize);
  }, [window, arrangement]);
  return (
    <CommandsProvider registry={registry} beyond={places}>
      <FloatingKeys window={window} />
      <PerchRoom {...{ arrangement, window, onFollow }} isFloating onClose={perch.close} />
    </CommandsProvider>
  );
}

/** Opens everything as it was together last; what the browser keeps from opening waits for a press each. */
async function restoreAll(say: Say, wait: (names: readonly string[]) => void): Promise<void> {
  const names = await popups.last();
  await perch.restore(say, names.length > 0);
  const blocked: string[] = [];
  for (const name of names) if ((await popups.again(name, window)) === BLOCKED) blocked.push(name);
  wait(blocked);
}

/** Lets the pane in front show what is selected on the board in front, while that is asked for. */
function useFollowing(arrangement: ArrangementStore | undefined): void {
  const desk = useStanding(BOARD);
  const isFollowing = useFollows(arrangement);
  useEffect(() => {
    if (!desk || !arrangement || !isFollowing) return;
    const follow = () => {
      if (desk.selection.size > 0) arrangement.show(shownOf(desk));
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
  const [waiting, setWaiting] = useState<readonly string[]>([]);
  const desk = useStanding(BOARD);
  const latest = useRef(say);
  latest.current = (text, detail) => (desk ? desk.say(text, detail) : say(text, detail));
  const tell = useCallback<Say>((text, detail) => latest.current(text, detail), []);
  useFollowing(arrangement);
  const follow = useCallback(() => {
    // As it is now: a popup that asks may have been adopted just before.
    const { arrangement } = perch.store.getState();
    if (!arrangement) {
      tell('No perch is open.', ['P opens one.']);
      return;
    }
    const isFollowing = !arrangement.now.isFollowing;
    arrangement.set({ isFollowing });
    tell(isFollowing ? 'The perch shows what is selected here.' : 'The perch follows no more.');
  }, [tell]);
  useEffect(() => {
    window.miraderoPerch = { adopt: perch.adopt, follow };
    tellHostIsHere();
    return () => {
      window.miraderoPerch = undefined;
    };
  }, [follow]);
  const { places } = useCommands();
  const anywhere = useMemo(
    () => ({
      toggle() {
        const shows = places.get(PERCHABLE)?.shows();
        void (shows ? perch.toggle(shows, tell) : perch.restore(tell));
      },
      another(isNarrow: boolean) {
        const shows = places.get(PERCHABLE)?.shows();
        const like = arrangement?.now ?? (shows && arrangementShowing(shows));
        if (!like) tell('There is nothing in front to open a window with.');
        else void popups.another(like, window, isNarrow).then((words) => words && tell(words));
      },
      showStage() {
        const desk = places.get(BOARD);
        if (!desk) tell('Open the board whose working set it is.');
        else if (!stageNow(desk.session))
          tell('This board has no working set yet.', ['S takes what is selected into one.']);
        else void perch.toggle({ kind: 'stage', board: desk.session.id }, tell);
      },
      restore: () => void restoreAll(tell, setWaiting),
      ...{ follow, close: perch.close },
    }),
    [places, follow, tell, arrangement],
  );
  usePlace(PERCH_ANYWHERE, anywhere);
  const openNext = async () => {
    const [next, ...others] = waiting;
    const words = next && (await popups.again(next, window));
    if (words !== BLOCKED) setWaiting(others);
    if (words) tell(words);
  };
  return (
    <>
      {waiting.length > 0 && (
        <section
          aria-label="Windows of the perch"
          className="fixed right-4 bottom-14 z-30 flex items-baseline gap-3 border border-line bg-raised px-4 py-3 text-[13px] text-ink"
        >
          <p>The browser opens one window for one press.</p>
          <button type="button" className="underline" onClick={() => void openNext()}>
            open the next of {waiting.length}
          </button>
          <button type="button" className="text-muted underline" onClick={() => setWaiting([])}>
            leave them
          </button>
        </section>
      )}
      {arrangement &&
        opened?.holder &&
        createPortal(
          <Floating key={arrangement.name} arrangement={arrangement} opened={opened} onFollow={follow} />,
          opened.holder,
        )}
    </>
  );
}
