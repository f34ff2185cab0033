import { surroundColour } from '@miradero/core/colour';
import type { Point } from '@miradero/core/geometry';
import { useEffect, useRef, useState } from 'react';
import { cameraKeeper, type Desk, keptCamera, type Seat, ZoomFigure } from '../desk/index.ts';
import { listenForIncoming } from '../gather/index.ts';
import { Notice } from '../shell/index.ts';
import { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { comeCloseAt, LOOK, seatTools } from '../tools/index.ts';

/** Comes close to what is under the pointer, or in the middle of the view; or goes back. */
function comeClose(seat: Seat, pointer: Point | undefined): void {
  const { view } = seat;
  const { width, height } = view.viewport;
  if (view.isClose) view.goBack();
  else comeCloseAt(seat, pointer ?? { x: width / 2, y: height / 2 });
}

/** Own keys of the perch; the others are the board's, wherever its window stands. @returns a function that ends it */
function listenToKeys(perch: Window, keys: Readonly<Record<string, () => void>>): () => void {
  const onKey = (event: KeyboardEvent) => {
    const isPlain = !event.ctrlKey && !event.metaKey && !event.altKey && !event.shiftKey;
    const own = isPlain ? keys[event.key.toLowerCase()] : undefined;
    if (!own) forwardKey(event, perch);
    else if (!event.repeat) own();
  };
  const onUp = (event: KeyboardEvent) => forwardKey(event, perch);
  perch.addEventListener('keydown', onKey);
  perch.addEventListener('keyup', onUp);
  return () => {
    perch.removeEventListener('keydown', onKey);
    perch.removeEventListener('keyup', onUp);
  };
}

/** Gives a key to the board's own window, where commands are; a perch that is a page of its own has none. */
function forwardKey(event: KeyboardEvent, perch: Window): void {
  if (perch === window) return;
  const { type, key, code, ctrlKey, metaKey, altKey, shiftKey, repeat } = event;
  const init = { key, code, ctrlKey, metaKey, altKey, shiftKey, repeat, bubbles: true, cancelable: true };
  // Made by that window: others' events are none to those who listen there.
  if (!window.dispatchEvent(new KeyboardEvent(type, init))) event.preventDefault();
}

function mountPerch(holder: HTMLElement, desk: Desk, onClose: () => void) {
  const view = new StageView(holder, desk.feed, keptCamera('perch', desk.session.id));
  const seated = seatTools(holder, desk, view, LOOK);
  let pointer: Point | undefined;
  holder.addEventListener('pointermove', (event) => {
    pointer = view.pointOf(event);
  });
  holder.addEventListener('pointerleave', () => {
    pointer = undefined;
  });
  const keeper = cameraKeeper('perch', desk.session.id);
  const ends = [
    view.store.subscribe(() => {
      if (!view.isFitted) keeper.moved(view.camera);
    }),
    listenForIncoming({
      ...{ window: holder.ownerDocument.defaultView!, sync: desk.sync, desk },
      view: () => view,
    }),
    listenToKeys(holder.ownerDocument.defaultView!, {
      f: () => comeClose(seated.hand, pointer),
      0: () => view.showWholeBoard(),
      p: onClose,
      escape: () => {
        if (!seated.gestures.cancel()) desk.stepBack(view);
      },
    }),
  ];
  holder.focus();
  return {
    view,
    close() {
      keeper.keep();
      for (const end of ends) end();
      seated.close();
      view.close();
    },
  };
}

/** The board as the perch shows it: the same stage with its own camera, and next to nothing around it. */
export function PerchSurface({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const holder = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<StageView>();
  const board = useStore(desk.session.store, ({ board }) => board);
  const notice = useStore(desk.store, ({ notice }) => notice);
  const close = useRef(onClose);
  close.current = onClose;

  useEffect(() => {
    const mounted = mountPerch(holder.current!, desk, () => close.current());
    setView(mounted.view);
    return () => {
      setView(undefined);
      mounted.close();
    };
  }, [desk]);
  useEffect(() => {
    if (view) view.ground = surroundColour(board.surround);
  }, [view, board.surround]);

  return (
    <div className="flex h-full flex-col">
      <div className="relative min-h-0 flex-1">
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the stage takes keys: Space pans, F comes close */}
        <div ref={holder} className="stage" role="application" aria-label="Board in the perch" tabIndex={0} />
        {/* What is said of a drop here is said here: the board's own page may lie behind. */}
        <div role="status" aria-live="polite" className="absolute inset-x-2 bottom-2">
          <Notice notice={notice} onClose={() => desk.unsay()} className="max-h-32 px-3 py-2 text-[12px]" />
        </div>
      </div>
      <footer className="flex h-7 shrink-0 items-center gap-3 border-line border-t bg-paper px-2.5 text-[12px] text-ink">
        <h1 className="min-w-0 flex-1 truncate font-serif text-[14px] italic">{board.name}</h1>
        <span className="whitespace-nowrap">
          <kbd className="key">F</kbd> come close
        </span>
        <span className="whitespace-nowrap">
          <kbd className="key">0</kbd> all
        </span>
        <ZoomFigure view={view} />
      </footer>
    </div>
  );
}
