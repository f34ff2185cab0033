import type { Placement } from '@miradero/core/items';
import { useEffect, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { playersOf } from './players.ts';

/** The frame of something that is shown now, followed while it plays. */
export function useFrame(desk: Desk, item: Placement): number | undefined {
  const players = playersOf(desk);
  const [frame, setFrame] = useState(() => players.frameOf(item));
  useEffect(() => {
    let request = 0;
    const look = () => {
      cancelAnimationFrame(request);
      setFrame(players.frameOf(item));
      if (players.movingOf(item.id)?.isRunning) request = requestAnimationFrame(look);
    };
    look();
    const end = players.store.subscribe(look);
    return () => {
      end();
      cancelAnimationFrame(request);
    };
  }, [players, item]);
  return frame;
}
