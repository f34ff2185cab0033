import { boundsOf } from '@miradero/core/board';
import { overlaps, unionOf } from '@miradero/core/geometry';
import { isPictureMark } from '@miradero/core/items';
import { useCallback, useEffect, useRef } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { useCommands, useStanding } from '../commands/index.ts';
import { BOARD, type Desk } from '../desk/index.ts';
import { amongPanes, isInDialog, type Notice, useSync } from '../shell/index.ts';
import { createStore, useStore } from '../state/index.ts';
import { boardAt, type Turned } from '../sync/index.ts';

const NOTICE_MS = 8_000;

/** What is said of a step that was taken back or made again; nothing where the screen shows it. */
function wordsOf({ side, words, skipped }: Turned, isInView: boolean): Notice | undefined {
  const what = skipped === 1 ? 'One property was' : `${skipped} properties were`;
  const kept = skipped > 0 ? `${what} left as another window has set it since.` : '';
  if (isInView) return kept ? { text: kept, detail: [] } : undefined;
  return { text: `${side === 'undo' ? 'Taken back' : 'Made again'}: ${words}.`, detail: kept ? [kept] : [] };
}

/** What was said last: it is seen on the page that was gone to, too. */
const saying = createStore<{ readonly said: Notice | undefined }>(() => ({ said: undefined }));
/** What was done on a board that is being gone to. */
let toShow: Turned | undefined;
const setNotice = (said: Notice | undefined): void => saying.setState({ said });

/** A board has a place of its own for what is said. */
function say(desk: Desk | undefined, notice: Notice | undefined): void {
  if (desk && notice) desk.say(notice.text, notice.detail);
  setNotice(desk ? undefined : notice);
}

/** Brings what a step touched into view where none of it is. @returns whether some of it was in view */
function show(desk: Desk, { touched }: Turned): boolean {
  const ids = touched.find(({ board }) => board === desk.session.id)?.items ?? [];
  const { items } = desk.session;
  const shown = ids.flatMap((id) => {
    const item = items.get(id);
    // What is drawn on a picture is where the picture is.
    return (item && isPictureMark(item) ? items.get(item.on) : item) ?? [];
  });
  const bounds = unionOf(shown.map(boundsOf));
  if (!bounds || !desk.view || overlaps(bounds, desk.view.view)) return true;
  desk.view.showPart(bounds);
  return false;
}

/** Undo and redo on every page: what a step did out of view is said, and gone to. */
export function useSteps(): {
  readonly notice: Notice | undefined;
  turn(side: 'undo' | 'redo'): void;
  /** Says something that is of no board. */
  say(text: string, detail?: readonly string[]): void;
  unsay(): void;
} {
  const { steps } = useSync();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { places } = useCommands();
  const desk = useStanding(BOARD);
  const path = useRef(pathname);
  path.current = pathname;
  const notice = useStore(saying, ({ said }) => said);
  const unsay = useCallback(() => setNotice(undefined), []);
  const sayHere = useCallback(
    (text: string, detail: readonly string[] = []) => setNotice({ text, detail }),
    [],
  );
  const turn = useCallback(
    (side: 'undo' | 'redo') => {
      const onBoard = places.get(BOARD);
      if (onBoard?.tool?.step?.(onBoard, side)) return;
      const tell = (turned: Turned | undefined) => {
        const desk = places.get(BOARD);
        if (!turned) {
          const what = side === 'undo' ? 'take back' : 'make again';
          say(desk, { text: `There is nothing to ${what}.`, detail: [] });
          return;
        }
        const isElsewhere = turned.at !== path.current;
        const isOnBoard = desk !== undefined && turned.at === boardAt(desk.session.id);
        const notice = wordsOf(turned, isOnBoard && !isElsewhere && show(desk, turned));
        // Said where it is gone to.
        say(isElsewhere ? undefined : desk, notice);
        if (!isElsewhere) return;
        toShow = turned;
        void navigate(amongPanes(turned.at, window.location), { state: { turned: side } });
      };
      (side === 'undo' ? steps.undo() : steps.redo()).then(tell, (error: Error) =>
        say(places.get(BOARD), {
          text: 'It could not be taken back now; it is kept as it was.',
          detail: [error.message],
        }),
      );
    },
    [steps, navigate, places],
  );
  useEffect(() => {
    // The page that was gone to is there.
    if (!desk || toShow?.at !== boardAt(desk.session.id)) return;
    show(desk, toShow);
    say(desk, saying.getState().said);
    toShow = undefined;
  }, [desk]);
  useEffect(() => {
    if (!notice) return;
    const timer = setTimeout(unsay, NOTICE_MS);
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || isInDialog(event)) return;
      event.stopImmediatePropagation();
      unsay();
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => {
      clearTimeout(timer);
      window.removeEventListener('keydown', onKey, { capture: true });
    };
  }, [notice, unsay]);
  return { notice, turn, say: sayHere, unsay };
}
