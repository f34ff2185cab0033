import { keptOnScreen } from '@miradero/core/perch';
import { useEffect, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { Message, Notice } from '../shell/index.ts';
import { ArrangementStore, arrangementShowing } from './arrangement.ts';
import { keptIsWhole } from './kept.ts';
import { onTopWords } from './on-top-words.ts';
import { PerchRoom } from './perch-room.tsx';
import { canFloat } from './perch-window.ts';
import { popups } from './popups.ts';
import { moveWindow, onScreens, placeOfWindow } from './screens.ts';
import { followArranging, onHost } from './window-channel.ts';

const NO_PART = 'No part of the screen is marked yet: say “where windows belong”.';

const ALONE = 'This window shows its own: the perch of the page where things are selected follows them.';
const followWords = ({ now }: ArrangementStore) =>
  now.isFollowing ? 'It shows what is selected on the board.' : 'It follows no more.';

/** Keeps where a further window stands, moves it where it belongs, and brings it back from a screen that went. */
function attend(name: string, say: (words: string) => void): () => void {
  const ends = [
    popups.attend(name, window),
    followArranging(name, window, () => say(NO_PART)),
    onScreens(window, (screens) => {
      const { place, isBroughtBack } = keptOnScreen(placeOfWindow(window), screens);
      if (!isBroughtBack) return;
      moveWindow(window, place);
      say('The screen this window was on is gone: it is here now.');
    }),
  ];
  return () => {
    for (const end of ends) end();
  };
}

/** The window that opened this one as its perch, while it is there. */
function openerOf(name: string | undefined): Window['miraderoPerch'] {
  try {
    return name?.startsWith('window-') ? undefined : (window.opener as Window | null)?.miraderoPerch;
  } catch {
    // It went to another address.
    return undefined;
  }
}

/** What a window shows: what is kept for it, else the board of its address. */
function arrangementOf(name: string | undefined, board: string | undefined): ArrangementStore | undefined {
  if (name === undefined) return undefined;
  const kept = ArrangementStore.kept(name);
  if (kept) return new ArrangementStore(name, kept);
  return board === undefined
    ? undefined
    : new ArrangementStore(name, arrangementShowing({ kind: 'board', board }));
}

/** The perch as a page of its own: a popup that survives the window that opened it, or a narrow window beside the work. */
export function PerchPage() {
  const { id } = useParams();
  const [search] = useSearchParams();
  const name = search.get('arrangement') ?? id;
  const [arrangement, setArrangement] = useState<ArrangementStore | null>();
  useEffect(() => {
    let isHere = true;
    void keptIsWhole().then(() => {
      if (isHere) setArrangement(arrangementOf(name, id) ?? null);
    });
    return () => {
      isHere = false;
    };
  }, [name, id]);
  const [said, setSaid] = useState(() => (canFloat() || window.opener === null ? '' : onTopWords()));
  useEffect(() => {
    document.title = 'Perch';
    const keep = () => arrangement?.keep();
    window.addEventListener('pagehide', keep);
    return () => window.removeEventListener('pagehide', keep);
  }, [arrangement]);
  useEffect(() => {
    if (!arrangement) return;
    const join = () => openerOf(name)?.adopt(arrangement, window);
    join();
    return onHost(join);
  }, [arrangement, name]);
  useEffect(
    () => (arrangement && name?.startsWith('window-') ? attend(name, setSaid) : undefined),
    [arrangement, name],
  );
  if (arrangement === undefined) return null;
  if (arrangement === null)
    return <Message title="Nothing is kept for this window">Close it, and open the perch again.</Message>;
  return (
    <main className="perch">
      <PerchRoom
        arrangement={arrangement}
        window={window}
        isFloating={false}
        onFollow={() => {
          const opener = openerOf(name);
          opener?.adopt(arrangement, window);
          opener?.follow();
          setSaid(opener ? followWords(arrangement) : ALONE);
        }}
        onClose={() => window.close()}
      />
      <div role="status" aria-live="polite" className="absolute inset-x-2 top-2 z-20">
        <Notice
          notice={said === '' ? undefined : { text: said, detail: [] }}
          onClose={() => setSaid('')}
          className="px-2.5 py-1.5 text-[12px]"
        />
      </div>
    </main>
  );
}
