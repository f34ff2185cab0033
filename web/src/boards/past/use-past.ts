import { boundsOf } from '@miradero/core/board';
import { unionOf } from '@miradero/core/geometry';
import { deedsOf } from '@miradero/core/history';
import type { Board } from '@miradero/core/schema';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Desk } from '../../desk/index.ts';
import { PastBoard } from '../../history/index.ts';
import { useBoards, useSync } from '../../shell/index.ts';
import { preparePainter, type StageView } from '../../stage/index.ts';
import { useStore } from '../../state/index.ts';
import { RefusedError } from '../../sync/index.ts';

/** So many things that a change did something to are outlined. */
const MOST_LIT = 60;

/** Outlines what the change that led to a state did something to. */
function lightLast(desk: Desk, past: PastBoard): void {
  const ids = past.lastChange ? [...deedsOf(past.lastChange.change).keys()] : [];
  desk.light(ids.length <= MOST_LIT ? ids : []);
}

/** The whole of every state is what stood there then; where somebody has looked closer it stays so. */
export function useHome(desk: Desk) {
  const [view, setView] = useState<StageView>();
  const home = useCallback(() => unionOf(desk.session.standing.map(boundsOf)), [desk]);
  useEffect(() => desk.session.onAltered(() => view?.fitAgain()), [desk, view]);
  return { home, view, setView };
}

/** The revision that the address names; undefined: the latest. */
function useAt(): number | undefined {
  const [parameters] = useSearchParams();
  const text = parameters.get('at');
  const at = Number(text);
  return text !== null && /^\d+$/.test(text) && Number.isSafeInteger(at) ? at : undefined;
}

/** The address follows once the hand rests: browsers take few new ones in a row. */
const ADDRESS_MS = 250;

/** The revision that is wanted: where the hand is on the line, else what the address names. */
function useWanted(): { at: number | undefined; want: (revision: number) => void } {
  const [, setParameters] = useSearchParams();
  const named = useAt();
  const [at, setAt] = useState(named);
  const written = useRef(named);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    // Somebody went to another address: undo, or the browser's own way back.
    if (named !== written.current) setAt(named);
    written.current = named;
  }, [named]);
  useEffect(() => () => clearTimeout(timer.current), []);
  const want = useCallback(
    (revision: number) => {
      setAt(revision);
      clearTimeout(timer.current);
      timer.current = setTimeout(() => {
        written.current = revision;
        setParameters({ at: String(revision) }, { replace: true });
      }, ADDRESS_MS);
    },
    [setParameters],
  );
  return { at, want };
}

/** Shows another state: what is wanted at once on the line, the pictures as soon as they are there. */
export function usePast(desk: Desk, past: PastBoard) {
  const { at, want } = useWanted();
  const [trouble, setTrouble] = useState('');
  const [shown, setShown] = useState(past.revision);
  useEffect(() => {
    let isHere = true;
    past
      .show(at)
      .then((isShown) => {
        if (!isHere || !isShown) return;
        setShown(past.revision);
        lightLast(desk, past);
        setTrouble('');
      })
      .catch((error: Error) => isHere && setTrouble(error.message));
    return () => {
      isHere = false;
    };
  }, [desk, past, at]);
  const show = useCallback(
    (revision: number) => {
      desk.unsay();
      want(revision);
    },
    [desk, want],
  );
  return { at, shown, show, trouble };
}

/** The past of a board, on a desk of its own. */
export interface OpenedPast {
  readonly desk: Desk;
  readonly past: PastBoard;
}

/** What is known of a board before it is asked for: enough to show how it was. */
const unknownBoard = (id: string): Board => ({
  ...{ id, name: '', surround: 5, putAway: false, revision: 0, pictures: 0, preview: null },
  ...{ createdAt: '', changedAt: '', forWhom: '', question: '', due: null, sheet: null },
});

/** The server is away: it is asked again. */
const AGAIN_MS = 1_500;

/** What came of looking into the past of a board; undefined until that is known. */
export type OpenedPastOr = OpenedPast | { readonly trouble: string } | undefined;

/**
 * A desk on which the past of a board lies, with the state that the address names on it from the start; nothing of it is kept
 * when the page is left.
 */
export function usePastDesk(id: string): OpenedPastOr {
  const sync = useSync();
  const at = useAt();
  const atFirst = useRef(at);
  const [opened, setOpened] = useState<OpenedPastOr>();
  useEffect(() => {
    preparePainter();
    let desk: Desk | undefined;
    let isHere = true;
    const past = new PastBoard(sync, unknownBoard(id));
    // The stage begins with everything that it is to show.
    let timer: ReturnType<typeof setTimeout> | undefined;
    const open = async () => {
      try {
        await past.show(atFirst.current);
        if (!isHere) return;
        const made = new Desk(sync, past);
        desk = made;
        past.onRefused = () => made.refuse();
        setOpened({ past, desk: made });
      } catch (error) {
        if (!isHere) return;
        setOpened({ trouble: (error as Error).message });
        if (!(error instanceof RefusedError)) timer = setTimeout(() => void open(), AGAIN_MS);
      }
    };
    void open();
    return () => {
      isHere = false;
      clearTimeout(timer);
      setOpened(undefined);
      if (desk) desk.close();
      else past.close();
    };
  }, [sync, id]);
  return opened;
}

/** Name and surround of the board, as soon as the list of boards is there; the surround may be another one for looking. */
export function usePastFacts(past: PastBoard, enabled: boolean): Board {
  const known = useBoards({ enabled }).data?.find(({ id }) => id === past.id);
  const { name, surround } = known ?? past.board;
  useEffect(() => {
    if (name !== '') past.patchBoard({ name, surround });
  }, [past, name, surround]);
  return useStore(past.store, ({ board }) => board);
}
