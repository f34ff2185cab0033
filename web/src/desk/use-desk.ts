import { useEffect, useState } from 'react';
import { useSync } from '../shell/index.ts';
import { BoardSession, RefusedError } from '../sync/index.ts';
import { Desk } from './desk.ts';

type Opened = { desk: Desk } | { trouble: string; isGone: boolean } | undefined;

/** Opens a board for as long as the component stands; tries again while the server is away. */
export function useDesk(id: string): Opened {
  const sync = useSync();
  const [opened, setOpened] = useState<Opened>();
  useEffect(() => {
    let isHere = true;
    let desk: Desk | undefined;
    let timer: ReturnType<typeof setTimeout>;
    const open = async () => {
      try {
        const [session] = await Promise.all([BoardSession.open(sync, id), sync.shelf.loadBoard(id)]);
        if (!isHere) return session.close();
        desk = new Desk(sync, session);
        setOpened({ desk });
      } catch (error) {
        if (!isHere) return;
        const isGone = error instanceof RefusedError;
        setOpened({ trouble: error instanceof Error ? error.message : String(error), isGone });
        if (!isGone) timer = setTimeout(() => void open(), 1_500);
      }
    };
    void open();
    return () => {
      isHere = false;
      clearTimeout(timer);
      desk?.close();
      setOpened(undefined);
    };
  }, [sync, id]);
  return opened;
}
