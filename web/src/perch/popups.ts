import type { Rectangle } from '@miradero/core/geometry';
import { arrangeWindows, keptOnScreen, type ScreenOfDesktop, screensKey } from '@miradero/core/perch';
import { type Arrangement, ArrangementStore, paneShowing } from './arrangement.ts';
import { keep, keptIsWhole, readKept } from './kept.ts';
import { BLOCKED, openPopup } from './perch-window.ts';
import { placeOfWindow, screensNow } from './screens.ts';

/** A further window of the perch, as this browser keeps it. */
interface KeptWindow {
  /** null while it is open, or was when the browser ended; ms since 1970. */
  readonly closedAtMs: number | null;
  /** When it was last known to be open, ms since 1970. */
  readonly seenAtMs: number;
  /** Where it stood, by the set-up of screens. */
  readonly places: Readonly<Record<string, Rectangle>>;
}
interface Kept {
  readonly windows: Readonly<Record<string, KeptWindow>>;
  /** The part of the desktop in which they are arranged, by the set-up of screens. */
  readonly parts: Readonly<Record<string, Rectangle>>;
}

/** The screens and what stands on them, CSS pixels of the desktop. */
export interface Desktop {
  readonly screens: readonly ScreenOfDesktop[];
  /** The window that asks. */
  readonly here: Rectangle;
  /** The further windows of the perch that are open. */
  readonly windows: readonly Rectangle[];
  /** Where they are arranged; undefined: nowhere yet. */
  readonly part: Rectangle | undefined;
}

const KEY = 'windows';
/** Windows that close within so long of each other were closed together. */
const TOGETHER_MS = 15_000;
const MOST_WINDOWS = 6;
const USUAL = { width: 480, height: 360 };
/** Each further one is seen beside the one before. */
const CASCADE_PX = 40;
const NARROW_PX = 360;
const GAP_PX = 4;

const isRectangle = (value: unknown): value is Rectangle => {
  const { x, y, width, height } = (value ?? {}) as Partial<Rectangle>;
  return [x, y, width, height].every(Number.isFinite) && width! > 0 && height! > 0;
};
const rectanglesIn = (value: unknown): Record<string, Rectangle> =>
  Object.fromEntries(
    Object.entries((value ?? {}) as object).filter((entry): entry is [string, Rectangle] =>
      isRectangle(entry[1]),
    ),
  );

/** What is kept; what of it is torn is left out. */
export function readWindows(text: string | null): Kept {
  try {
    const given = (JSON.parse(text ?? 'null') ?? {}) as Partial<Kept>;
    const windows = Object.entries((given.windows ?? {}) as Record<string, Partial<KeptWindow> | null>)
      .slice(0, MOST_WINDOWS)
      .map(([name, one]): [string, KeptWindow] => [
        name,
        {
          closedAtMs: typeof one?.closedAtMs === 'number' ? one.closedAtMs : null,
          seenAtMs: typeof one?.seenAtMs === 'number' ? one.seenAtMs : 0,
          places: rectanglesIn(one?.places),
        },
      ]);
    return { windows: Object.fromEntries(windows), parts: rectanglesIn(given.parts) };
  } catch {
    return { windows: {}, parts: {} };
  }
}

const kept = (): Kept => readWindows(readKept(KEY));
const setWindow = (name: string, part: Partial<KeptWindow>): void => {
  const all = kept();
  const before = all.windows[name] ?? { closedAtMs: null, places: {} };
  const next = { ...before, seenAtMs: Date.now(), ...part };
  keep(KEY, { ...all, windows: { ...all.windows, [name]: next } });
};

/** Those that were open when the last of them was closed, or when the browser ended. */
export function lastTogether({ windows }: Pick<Kept, 'windows'>): string[] {
  const all = Object.entries(windows);
  const last = Math.max(...all.map(([, { closedAtMs, seenAtMs }]) => closedAtMs ?? seenAtMs));
  return all
    .filter(([, { closedAtMs }]) => closedAtMs === null || last - closedAtMs <= TOGETHER_MS)
    .map(([name]) => name);
}

const pathOf = (name: string) =>
  new URL(`/perch?arrangement=${encodeURIComponent(name)}`, location.href).href;

/** Where a window goes that stands nowhere yet: to another screen where there is one, else beside those there are. */
function freshPlace(screens: readonly ScreenOfDesktop[], from: Window, count: number): Rectangle {
  const here = keptOnScreen(placeOfWindow(from), screens);
  const other = screens.find(
    ({ available }) =>
      here.place.x + here.place.width <= available.x ||
      here.place.x >= available.x + available.width ||
      here.place.y + here.place.height <= available.y ||
      here.place.y >= available.y + available.height,
  );
  const { available } = other ?? screens.find(({ isPrimary }) => isPrimary) ?? screens[0]!;
  const shift = CASCADE_PX * (count + 1);
  return { x: available.x + shift, y: available.y + shift, ...USUAL };
}

/** Opens a window where it stood with these screens. @returns what went wrong, in words; undefined: nothing */
async function open(name: string, from: Window, place?: Rectangle): Promise<string | undefined> {
  const screens = (await screensNow(from, false))!;
  const { windows } = kept();
  const wanted =
    place ??
    windows[name]?.places[screensKey(screens)] ??
    freshPlace(screens, from, Object.keys(windows).length);
  const { place: at, isBroughtBack } = keptOnScreen(wanted, screens);
  if (!openPopup(from, pathOf(name), `perch-${name}`, at)) return BLOCKED;
  setWindow(name, { closedAtMs: null });
  return isBroughtBack ? 'The screen it stood on is not there: the window opens here.' : undefined;
}

const lockOf = (name: string) => `miradero-perch-${name}`;

/** Names of the windows that are there: each holds a lock, which goes with it however it ends. */
async function openNow(): Promise<ReadonlySet<string>> {
  const { held } = await navigator.locks.query();
  const locks = new Set(held?.map(({ name }) => name));
  return new Set(Object.keys(kept().windows).filter((name) => locks.has(lockOf(name))));
}

/** The further windows of the perch: pages of their own that live on without the one that opened them. */
export const popups = {
  /** Opens another with one pane that looks like a given arrangement's front. @returns what to say */
  async another(like: Arrangement, from: Window, isNarrow = false): Promise<string | undefined> {
    const taken = await openNow();
    const name = Array.from({ length: MOST_WINDOWS }, (_, index) => `window-${index + 1}`).find(
      (one) => !taken.has(one),
    );
    if (!name) return 'Six windows are open already. Close one first.';
    const front = like.panes[like.front]!;
    const start = {
      ...like,
      tree: { pane: 'a' },
      front: 'a',
      panes: { a: { ...paneShowing(front.shows), lenses: front.lenses } },
    };
    // Kept before it opens: the window reads it.
    new ArrangementStore(name, start);
    if (!isNarrow) return open(name, from);
    const [{ available }] = (await screensNow(from, false)) as [ScreenOfDesktop];
    const x = available.x + available.width - NARROW_PX;
    return open(name, from, { x, y: available.y, width: NARROW_PX, height: available.height });
  },

  /** Names of those that were open together last and are not now. */
  async last(): Promise<string[]> {
    await keptIsWhole();
    const taken = await openNow();
    return lastTogether(kept()).filter((name) => !taken.has(name));
  },

  /** Opens one as it was. @returns what to say */
  again: (name: string, from: Window): Promise<string | undefined> => open(name, from),

  /** Lets the browser ask whether windows may go to other screens. @returns what to say */
  async useScreens(from: Window): Promise<string> {
    const screens = await screensNow(from, true);
    if (!screens)
      return 'The browser does not let this page know of other screens. Drag the window there; it comes back to where it was.';
    return screens.length > 1
      ? `There are ${screens.length} screens: the next window opens on the other one.`
      : 'There is one screen.';
  },

  /** A window is there: where it stands is kept while it is. @returns what ends that */
  attend(name: string, window: Window): () => void {
    setWindow(name, { closedAtMs: null });
    let letGo = () => {};
    const gone = new Promise<void>((resolve) => {
      letGo = resolve;
    });
    void navigator.locks.request(lockOf(name), () => gone);
    const note = async () => {
      const place = placeOfWindow(window);
      const screens = await screensNow(window, false);
      if (!screens || window.closed) return;
      const { places } = kept().windows[name] ?? { places: {} };
      setWindow(name, { places: { ...places, [screensKey(screens)]: place } });
    };
    const onHide = () => setWindow(name, { closedAtMs: Date.now() });
    const onNote = () => void note();
    const kinds = ['resize', 'blur', 'pointerout'] as const;
    for (const kind of kinds) window.addEventListener(kind, onNote);
    window.addEventListener('pagehide', onHide);
    onNote();
    return () => {
      letGo();
      for (const kind of kinds) window.removeEventListener(kind, onNote);
      window.removeEventListener('pagehide', onHide);
    };
  },

  /** What is known of the desktop around a window. */
  async desktop(window: Window): Promise<Desktop> {
    const screens = (await screensNow(window, false))!;
    const { windows, parts } = kept();
    const key = screensKey(screens);
    const taken = await openNow();
    const open = Object.entries(windows).filter(([name]) => taken.has(name));
    return {
      ...{ screens, here: placeOfWindow(window), part: parts[key] },
      windows: open.flatMap(([, { places }]) => places[key] ?? []),
    };
  },

  /** All of them are arranged in a part of the desktop from now on. */
  async markPart(window: Window, part: Rectangle): Promise<void> {
    const screens = (await screensNow(window, false))!;
    const all = kept();
    keep(KEY, { ...all, parts: { ...all.parts, [screensKey(screens)]: part } });
  },

  /** Where each of the open windows goes in that part. @returns undefined where no part was marked */
  async arranged(window: Window): Promise<ReadonlyMap<string, Rectangle> | undefined> {
    const screens = (await screensNow(window, false))!;
    const { windows, parts } = kept();
    const key = screensKey(screens);
    const part = parts[key];
    if (!part) return undefined;
    const { place } = keptOnScreen(part, screens);
    const taken = await openNow();
    const open = Object.entries(windows).filter(([name]) => taken.has(name));
    const sizes = open.map(([, { places }]) => places[key] ?? { x: 0, y: 0, ...USUAL });
    const placed = arrangeWindows(sizes, place, GAP_PX);
    return new Map(open.map(([name], index) => [name, placed[index]!]));
  },
};
