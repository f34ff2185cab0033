import { whyOf } from '@miradero/core/text';
import { boardOfShows, keyOfShows, type Shows } from '../shell/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { type Arrangement, ArrangementStore, arrangementShowing } from './arrangement.ts';
import { keep, keptIsWhole, readKept } from './kept.ts';
import { openPerch, type PerchWindow, watchPopup } from './perch-window.ts';

/** What a component renders of the perch of this window. */
export interface InPerch {
  readonly arrangement: ArrangementStore | undefined;
  readonly window: PerchWindow | undefined;
  /** The arrangement is the one that is seen: a popup that is on its way has its own. */
  readonly isLive: boolean;
}

/** Says something where the person is. */
export type Say = (text: string, detail?: readonly string[]) => void;

const LAST = 'last';

const CLOSED: InPerch = { arrangement: undefined, window: undefined, isLive: false };
const store = createStore<InPerch>(() => CLOSED);
let isOpening = false;

/** What is kept as one record. */
function record(name: string): Readonly<Record<string, unknown>> {
  try {
    return (JSON.parse(readKept(name) ?? 'null') ?? {}) as Record<string, unknown>;
  } catch {
    return {};
  }
}

function lastName(): string | undefined {
  const { name } = record(LAST);
  return typeof name === 'string' ? name : undefined;
}

/** Each board has an arrangement of its own, and all pictures without one share one. */
const nameOf = (shows: Shows): string => boardOfShows(shows) ?? 'picture';

/** What is kept for a board, with something in front that may be something else than it was. */
function arrangementFor(shows: Shows): Arrangement {
  const kept = ArrangementStore.kept(nameOf(shows));
  if (!kept) return arrangementShowing(shows);
  const front = kept.panes[kept.front]!;
  if (keyOfShows(front.shows) === keyOfShows(shows)) return kept;
  return { ...kept, panes: { ...kept.panes, [kept.front]: { ...front, shows, camera: undefined } } };
}

/** What is meant by the key for the perch: what is selected; of a whole board, what was set for it. */
function meantBy(shows: Shows): Shows {
  if (shows.kind !== 'board' || shows.at !== undefined) return shows;
  const name = nameOf(shows);
  const { arrangement } = store.getState();
  const now = arrangement?.name === name ? arrangement.now : ArrangementStore.kept(name);
  if (now?.opens === 'last') return now.panes[now.front]!.shows;
  return now?.opens === 'stage' ? { kind: 'stage', board: shows.board } : shows;
}

/** Whether the pane in front shows it already. */
const isShown = ({ arrangement }: InPerch, shows: Shows): boolean => {
  const now = arrangement?.now;
  return now !== undefined && keyOfShows(now.panes[now.front]!.shows) === keyOfShows(shows);
};

const pathOf = (name: string): string => `/perch?arrangement=${encodeURIComponent(name)}`;

async function open(name: string, start: Arrangement, say: Say): Promise<void> {
  if (isOpening) return;
  isOpening = true;
  // Kept before the window is asked for: a popup reads it.
  const arrangement = new ArrangementStore(name, start);
  keep(LAST, { name });
  try {
    const window = await openPerch(pathOf(name), 'Perch', start.size, () => {
      // A later one may be open by then.
      if (store.getState().window?.window !== window.window) return;
      // A popup keeps its own.
      if (window.holder) arrangement.keep();
      store.setState(CLOSED);
    });
    store.setState({ arrangement, window, isLive: window.holder !== undefined });
  } catch (error) {
    say('The perch did not open.', [whyOf(error)]);
  } finally {
    isOpening = false;
  }
}

function openNow(): InPerch | undefined {
  const now = store.getState();
  return now.window && !now.window.isClosed() ? now : undefined;
}

/** A window that is gone says so a moment later; longer than this it is not waited for, ms. */
const TOLD_MS = 500;

/** Until a floating window that is gone has said so, and where it looked: what is kept of it is read after that. */
async function untilTold(): Promise<void> {
  const { window } = store.getState();
  if (!window?.holder || !window.isClosed()) return;
  await new Promise<void>((resolve) => {
    const go = () => {
      clearTimeout(timer);
      end();
      // Its panes speak in the same task as the window itself, some of them after it.
      setTimeout(resolve);
    };
    const timer = setTimeout(go, TOLD_MS);
    const end = store.subscribe((now) => {
      if (now.window !== window) go();
    });
  });
}

/** The perch of this window: one, whatever page is in front. */
export const perch = {
  store: store as Readable<InPerch>,
  close(): void {
    store.getState().window?.close();
  },
  /** Shows something: in the pane in front where the perch is open, else it opens with it. */
  async show(shows: Shows, say: Say): Promise<void> {
    await untilTold();
    const now = openNow();
    if (now?.arrangement && now.isLive) {
      if (!isShown(now, shows)) now.arrangement.show(shows);
      return;
    }
    now?.window?.close();
    await keptIsWhole();
    await open(nameOf(shows), arrangementFor(shows), say);
  },
  /** The same for what the key means, and closes it where it shows that already. */
  async toggle(shows: Shows, say: Say): Promise<void> {
    await untilTold();
    const now = openNow();
    const meant = meantBy(shows);
    if (now && isShown(now, meant)) now.window?.close();
    else await perch.show(meant, say);
  },
  /** The page of a popup has come, also again: what it shows is its own, and is altered from here. */
  adopt(arrangement: ArrangementStore, popup: Window): void {
    const { window } = store.getState();
    if (window?.holder) return;
    if (window?.window === popup) store.setState({ arrangement, isLive: true });
    else
      store.setState({ arrangement, isLive: true, window: watchPopup(popup, () => store.setState(CLOSED)) });
  },
  /** Opens it as it was last. @param isAmong - further windows come back with it */
  async restore(say: Say, isAmong = false): Promise<void> {
    await untilTold();
    if (openNow()) {
      if (!isAmong) say('The perch is open.');
      return;
    }
    await keptIsWhole();
    const name = lastName();
    const kept = name === undefined ? undefined : ArrangementStore.kept(name);
    if (name !== undefined && kept) await open(name, kept, say);
    else if (!isAmong) say('No perch was open here yet.', ['P opens one with what is in front.']);
  },
};
