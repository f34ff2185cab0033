import { useEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import type { Desk } from '../../desk/index.ts';
import { useStore } from '../../state/index.ts';
import { TraceView } from './trace-view.ts';
import { type Tracing, tracing } from './tracing.ts';

declare global {
  interface Window {
    /** What is laid over another window, for those who measure it. */
    miraderoTracing?: TraceView | undefined;
  }
}

/** A turn of the wheel, and a press of an arrow, alters how strong it is by so much. */
const STEP = 0.05;

/** What is laid over another window, rendered into its own. */
export function TraceRoom({ desk }: { desk: Desk }) {
  const now = useStore(tracing, (state) => state.now);
  useEffect(
    () => () => {
      // What lies over another window shows what is open here.
      const { now } = tracing.getState();
      if (now?.desk === desk) now.close();
    },
    [desk],
  );
  return now?.desk === desk ? createPortal(<Trace key="trace" tracing={now} />, now.holder) : null;
}

function Trace({ tracing }: { tracing: Tracing }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [view, setView] = useState<TraceView>();
  useEffect(() => {
    const own = new TraceView(canvas.current!, tracing);
    setView(own);
    window.miraderoTracing = own;
    const { document } = tracing.window;
    const onKey = (event: KeyboardEvent) => {
      if (event.code === 'Space') own.hide(event.type === 'keydown');
      else if (event.type === 'keyup') return;
      else if (event.key === 'Escape') tracing.close();
      else if (event.key === 'ArrowUp') own.setOpacity(own.store.getState().opacity + STEP);
      else if (event.key === 'ArrowDown') own.setOpacity(own.store.getState().opacity - STEP);
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    document.addEventListener('keyup', onKey);
    return () => {
      document.removeEventListener('keydown', onKey);
      document.removeEventListener('keyup', onKey);
      window.miraderoTracing = undefined;
      own.close();
    };
  }, [tracing]);
  return (
    <main aria-label="Tracing paper" className="flex h-full w-full flex-col overflow-hidden bg-[#797979]">
      <div className="relative min-h-0 flex-1">
        <canvas
          ref={canvas}
          role="img"
          aria-label="The drawing, with its references over it"
          className="absolute inset-0 size-full touch-none"
          onWheel={({ deltaY }) => view?.setOpacity(view.store.getState().opacity - Math.sign(deltaY) * STEP)}
        />
      </div>
      {view && <Words view={view} onClose={() => tracing.close()} />}
    </main>
  );
}

function Words({ view, onClose }: { view: TraceView; onClose: () => void }) {
  const { opacity, isLost, isOver, isEmpty } = useStore(view.store);
  const trouble = isOver
    ? 'That window is shared no more. This is what it showed last.'
    : isLost
      ? 'The canvas cannot be followed: let all of the sheet be seen for a moment.'
      : isEmpty
        ? 'Nothing stands on the sheet that could lie over the drawing.'
        : '';
  return (
    <footer className="flex shrink-0 flex-wrap items-center gap-x-3 bg-paper px-2 py-1 text-[12px]">
      {trouble ? (
        <span role="status" className="text-vermilion">
          {trouble}
        </span>
      ) : (
        <>
          <label className="flex items-center gap-2">
            <span className="text-muted">over it</span>
            <input
              type="range"
              aria-label="How strong what lies over it is"
              min={0}
              max={100}
              value={Math.round(opacity * 100)}
              onChange={({ target }) => view.setOpacity(Number(target.value) / 100)}
            />
            <span className="figures">{Math.round(opacity * 100)} %</span>
          </label>
          <button
            type="button"
            className="touch-none underline underline-offset-3"
            title="Space"
            onPointerDown={() => view.hide(true)}
            onPointerUp={() => view.hide(false)}
            onPointerLeave={() => view.hide(false)}
          >
            hold: without it
          </button>
        </>
      )}
      <span className="flex-1" />
      <button type="button" className="underline underline-offset-3" onClick={onClose}>
        done
      </button>
    </footer>
  );
}
