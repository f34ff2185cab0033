import { useEffect, useState } from 'react';
import { openBoards, useSync } from '../shell/index.ts';
import { RefusedError, type Sync } from '../sync/index.ts';
import type { Desk } from './desk.ts';
import { OpenDesks } from './open-desks.ts';

type Opened = { desk: Desk } | { trouble: string; isGone: boolean } | undefined;

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
let inFront: string | undefined;
/** Boards that something shows besides the page in front, and how often. */
const held = new Map<string, number>();

/** Closes a board that nobody looks at any more and that has no tab. */
function closeUnused(desks: OpenDesks, id: string): void {
  if (id !== inFront && !held.has(id) && !openBoards.ids().includes(id)) desks.close(id);
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

/** Begins to open a board that a page will show soon. */
export function openAhead(sync: Sync, id: string): void {
  // What is wrong is said by the page.
  desksOf(sync)
    .take(id)
    .catch(() => {});
}

/** Opens a board, or brings it to the front where it is open; tries again while the server is away. */
export function useDesk(id: string): Opened {
  const sync = useSync();
  const [opened, setOpened] = useState<Opened>();
  useEffect(() => {
    const desks = desksOf(sync);
    let isHere = true;
    let timer: ReturnType<typeof setTimeout>;
    inFront = id;
    const open = async () => {
      try {
        const desk = await desks.take(id);
        if (isHere) setOpened({ desk });
      } catch (error) {
        if (!isHere) return;
        const isGone = error instanceof RefusedError;
        setOpened({
          trouble: isGone ? GONE : error instanceof Error ? error.message : String(error),
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
      inFront = undefined;
      setOpened(undefined);
      if (openBoards.ids().includes(id) || held.has(id)) desks.rest(id);
      else desks.close(id);
    };
  }, [sync, id]);
  return opened;
}
