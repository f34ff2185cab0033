import { whyOf } from '@miradero/core/text';
import { useEffect, useRef, useState } from 'react';
import { openBoards, useSync } from '../shell/index.ts';
import { RefusedError, type Sync } from '../sync/index.ts';
import type { Desk } from './desk.ts';
import { OpenDesks } from './open-desks.ts';

/** What came of opening a board; undefined until that is known. */
export type Opened =
  | { readonly desk: Desk }
  | { readonly trouble: string; readonly isGone: boolean }
  | undefined;

const AGAIN_MS = 1_500;
const GONE = 'There is no board at this address: it may be mistyped, or belong to somebody else.';
const perSync = new WeakMap<Sync, OpenDesks>();

/** The desks of this window. A board whose tab was closed is closed with it, once it is no longer in front. */
function desksOf(sync: Sync): OpenDesks {
  const known = perSync.get(sync);
  if (known) return known;
  const desks = new OpenDesks(sync);
  openBoards.store.subscribe((now, before) => {
    for (const id of before) if (!now.includes(id)) closeUnused(desks, id);
  });
  perSync.set(sync, desks);
  return desks;
}
/** Boards that the page in front shows. */
let inFront: readonly string[] = [];
/** Boards that something shows besides the page in front, and how often. */
const held = new Map<string, number>();

/** Closes a board that nobody looks at any more and that has no tab. */
function closeUnused(desks: OpenDesks, id: string): void {
  if (!inFront.includes(id) && !held.has(id) && !openBoards.ids().includes(id)) desks.close(id);
}

/** Keeps a board open whatever this window turns to. @returns a function that lets it go */
export function holdDesk(sync: Sync, id: string): () => void {
  held.set(id, (held.get(id) ?? 0) + 1);
  let isHeld = true;
  return () => {
    if (!isHeld) return;
    isHeld = false;
    const left = held.get(id)! - 1;
    if (left > 0) held.set(id, left);
    else held.delete(id);
    closeUnused(desksOf(sync), id);
  };
}

/**
 * Opens a board and keeps it open, whatever this window turns to; tried again while the server is away.
 *
 * @returns a function that lets it go
 */
export function keepDesk(sync: Sync, id: string, tell: (opened: Opened) => void): () => void {
  const letGo = holdDesk(sync, id);
  const end = keepOpening(desksOf(sync), id, tell);
  return () => {
    end();
    letGo();
  };
}

/** The desk of a board, opened where it is not. @throws RefusedError when there is none, UnreachableError without the server */
export const takeDesk = (sync: Sync, id: string): Promise<Desk> => desksOf(sync).take(id);

/** Begins to open a board that a page will show soon. */
export function openAhead(sync: Sync, id: string): void {
  // What is wrong is said by the page.
  desksOf(sync)
    .take(id)
    .catch(() => {});
}

/** Opens one board, and tries again while the server is away. @returns a function that ends the trying */
function keepOpening(desks: OpenDesks, id: string, tell: (opened: Opened) => void): () => void {
  let isHere = true;
  let timer: ReturnType<typeof setTimeout>;
  const open = async () => {
    try {
      const desk = await desks.take(id);
      if (!isHere) return;
      desks.share(inFront);
      tell({ desk });
    } catch (error) {
      if (!isHere) return;
      const isGone = error instanceof RefusedError;
      tell({
        trouble: isGone ? GONE : whyOf(error),
        isGone,
      });
      if (isGone) openBoards.close(id);
      else timer = setTimeout(() => void open(), AGAIN_MS);
    }
  };
  void open();
  return () => {
    isHere = false;
    clearTimeout(timer);
  };
}

/** Lets a board rest that the page shows no more, or closes it. */
function leave(desks: OpenDesks, id: string): void {
  if (openBoards.ids().includes(id) || held.has(id)) desks.rest(id);
  else desks.close(id);
}

const NONE: ReadonlyMap<string, Opened> = new Map();

/**
 * Opens the boards that a page shows, or brings them to the front where they are open; those that stay among them stay as
 * they are.
 *
 * @returns what came of it, by id; nothing of a board until that is known
 */
export function useDesks(ids: readonly string[]): ReadonlyMap<string, Opened> {
  const sync = useSync();
  const [opened, setOpened] = useState(NONE);
  const opening = useRef(new Map<string, () => void>());
  const key = ids.join();
  useEffect(() => {
    const desks = desksOf(sync);
    const shown = key.split(',');
    inFront = shown;
    for (const [id, end] of opening.current) {
      if (shown.includes(id)) continue;
      end();
      opening.current.delete(id);
      leave(desks, id);
    }
    setOpened((all) => new Map([...all].filter(([id]) => shown.includes(id))));
    for (const id of shown) {
      if (opening.current.has(id)) continue;
      const tell = (one: Opened) => setOpened((all) => new Map(all).set(id, one));
      opening.current.set(id, keepOpening(desks, id, tell));
    }
    desks.share(shown);
  }, [sync, key]);
  useEffect(() => {
    const all = opening.current;
    return () => {
      inFront = [];
      for (const [id, end] of all) {
        end();
        leave(desksOf(sync), id);
      }
      all.clear();
      setOpened(NONE);
    };
  }, [sync]);
  return opened;
}

/** The same for a page of one board. */
export const useDesk = (id: string): Opened => useDesks([id]).get(id);
