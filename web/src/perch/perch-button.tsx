import { useCallback, useEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import type { Desk } from '../desk/index.ts';
import { PerchSurface } from './perch-surface.tsx';
import { openPerch, type PerchWindow } from './perch-window.ts';

/** Opens and closes the perch, and renders into it. */
export function PerchButton({ desk }: { desk: Desk }) {
  const [perch, setPerch] = useState<PerchWindow>();
  // Known at once, not at the next render: a key may come between.
  const current = useRef<PerchWindow>(undefined);
  const isOpening = useRef(false);
  const hold = (next: PerchWindow | undefined) => {
    current.current = next;
    setPerch(next);
  };

  const toggle = async () => {
    if (current.current && !current.current.isClosed()) {
      current.current.close();
      return;
    }
    if (isOpening.current) return;
    isOpening.current = true;
    try {
      const { id, board } = desk.session;
      const opened = await openPerch(id, `${board.name} · perch`, () => {
        // A later one may be open by then.
        if (current.current === opened) hold(undefined);
      });
      hold(opened);
    } catch (error) {
      desk.say('The perch did not open.', [error instanceof Error ? error.message : String(error)]);
    } finally {
      isOpening.current = false;
    }
  };
  const close = useCallback(() => current.current?.close(), []);
  useEffect(() => close, [close]);

  return (
    <>
      <button
        id="open-perch"
        type="button"
        aria-pressed={perch !== undefined}
        className="flex items-center gap-1.5 bg-ink px-3 py-1 text-paper aria-pressed:bg-verdigris"
        onClick={() => void toggle()}
      >
        <kbd className="font-mono text-[12px] opacity-80">P</kbd>
        perch
      </button>
      {perch?.holder && createPortal(<PerchSurface desk={desk} onClose={close} />, perch.holder)}
    </>
  );
}
