import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import type { Desk, Opened } from '../desk/index.ts';
import { isBoardPane, openBoards, panesIn, shownIn, useNarrow, useOpenBoards } from '../shell/index.ts';

/** The boards that the address shows side by side; a narrow window has room for the one in front. */
export function usePanes(front: string): readonly string[] {
  const { search } = useLocation();
  const isNarrow = useNarrow();
  const named = panesIn(front, search);
  const open = useOpenBoards();
  useEffect(() => {
    // What an address names is open, until its tab is closed.
    for (const id of named)
      if (id !== front && isBoardPane(id) && !openBoards.ids().includes(id)) openBoards.add(id);
  }, [search]);
  return isNarrow
    ? [front]
    : named.filter((id) => id === front || (isBoardPane(id) ? open.includes(id) : shownIn(id) !== undefined));
}

/** The desk of a board, where it could be opened. */
export const deskOf = (opened: ReadonlyMap<string, Opened>, id: string): Desk | undefined => {
  const one = opened.get(id);
  return one && 'desk' in one ? one.desk : undefined;
};

/** The pane that was pressed last of those side by side, a board or something of one: a key that follows at once means it, before it is drawn in front. */
export function useFrontNow(desk: Desk, opened: ReadonlyMap<string, Opened>) {
  const front = useRef(desk);
  const frontNow = useCallback(() => front.current, []);
  const [part, setPart] = useState<string>();
  const [parts, setParts] = useState<ReadonlyMap<string, Desk>>(new Map());
  const onDesk = useCallback((pane: string, desk: Desk | undefined) => {
    setParts((all) => new Map([...all].filter(([one]) => one !== pane).concat(desk ? [[pane, desk]] : [])));
  }, []);
  // Another board that comes to the front does so before what is shown of one.
  useEffect(() => setPart(undefined), [desk]);
  const inFront = (part !== undefined && parts.get(part)) || desk;
  useLayoutEffect(() => {
    front.current = inFront;
  }, [inFront]);
  const onPressed = (pane: string) => {
    const one = parts.get(pane) ?? deskOf(opened, pane);
    if (one) front.current = one;
    setPart(isBoardPane(pane) ? undefined : pane);
  };
  return { frontNow, onPressed, onDesk, inFront, parts, partInFront: inFront === desk ? undefined : part };
}

/** What is under the pointer, asked for when a key is pressed: the pane in front where none is. */
export function usePointedNow(frontNow: () => Desk, deskIn: (pane: string) => Desk | undefined) {
  const pointed = useRef<string>(undefined);
  const latest = useRef(deskIn);
  latest.current = deskIn;
  const pointedNow = useCallback(
    () => (pointed.current !== undefined && latest.current(pointed.current)) || frontNow(),
    [frontNow],
  );
  const onPointed = useCallback((pane: string | undefined) => {
    pointed.current = pane;
  }, []);
  return { pointedNow, onPointed };
}
