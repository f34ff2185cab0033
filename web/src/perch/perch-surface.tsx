import { boundsOf } from '@miradero/core/board';
import { surroundColour } from '@miradero/core/colour';
import type { Point } from '@miradero/core/geometry';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { cameraKeeper, type Desk, keptCamera, ZoomFigure } from '../desk/index.ts';
import { listenForIncoming } from '../gather/index.ts';
import { type Drag, Gestures, type Hand, StageView } from '../stage/index.ts';

/** In the perch the hand only looks: every drag pans. */
class LookingHand implements Hand {
  readonly #view: StageView;
  pointer: Point | undefined;

  constructor(view: StageView) {
    this.#view = view;
  }
  pan(deltaPx: Point): void {
    this.#view.pan(deltaPx);
  }
  zoom(pointPx: Point, factor: number): void {
    this.#view.zoom(pointPx, factor);
  }
  hover(point: Point | undefined): void {
    this.pointer = point;
  }
  secondary(): void {}
  double(point: Point): void {
    const item = this.#view.itemAt(point);
    if (item) this.#view.comeClose(item.id, boundsOf(item));
    else this.#view.goBack();
  }
  press({ point }: { point: Point }): Drag {
    let last = point;
    return {
      move: (to) => {
        this.#view.pan({ x: to.x - last.x, y: to.y - last.y });
        last = to;
      },
      end: () => {},
      cancel: () => {},
    };
  }
  /** Come close to what is under the pointer, or in the middle of the view. */
  comeClose(): void {
    if (this.#view.isClose) {
      this.#view.goBack();
      return;
    }
    const { width, height } = this.#view.viewport;
    this.double(this.pointer ?? { x: width / 2, y: height / 2 });
  }
}

/** Plain keys of another window: tinykeys takes only events of its own. @returns a function that ends it */
function listenToKeys(window: Window, keys: Readonly<Record<string, () => void>>): () => void {
  const onKey = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
    keys[event.key.toLowerCase()]?.();
  };
  window.addEventListener('keydown', onKey);
  return () => window.removeEventListener('keydown', onKey);
}

function mountPerch(holder: HTMLElement, desk: Desk, onClose: () => void) {
  const view = new StageView(holder, desk.feed, keptCamera('perch', desk.session.id));
  const hand = new LookingHand(view);
  const gestures = new Gestures(holder, hand, (event) => view.pointOf(event));
  const keeper = cameraKeeper('perch', desk.session.id);
  const ends = [
    view.onCamera(() => {
      if (!view.isFitted) keeper.moved(view.camera);
    }),
    listenForIncoming({
      ...{ window: holder.ownerDocument.defaultView!, sync: desk.sync, desk },
      view: () => view,
    }),
    listenToKeys(holder.ownerDocument.defaultView!, {
      f: () => hand.comeClose(),
      0: () => view.showWholeBoard(),
      p: onClose,
      escape: () => {
        if (desk.notice) desk.unsay();
        else if (view.isClose) view.goBack();
      },
    }),
  ];
  holder.focus();
  return {
    view,
    close() {
      keeper.keep();
      for (const end of ends) end();
      gestures.close();
      view.close();
    },
  };
}

/** The board as the perch shows it: the same stage with its own camera, and next to nothing around it. */
export function PerchSurface({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const holder = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<StageView>();
  const board = useSyncExternalStore(desk.session.subscribeBoard, () => desk.session.board);
  useSyncExternalStore(desk.subscribe, desk.version);
  const { notice } = desk;
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
          {notice && (
            <div className="max-h-32 overflow-auto border border-line bg-raised px-3 py-2 text-[12px] text-ink">
              <p className="flex items-start gap-3 break-words font-medium">
                <span className="min-w-0 flex-1">{notice.text}</span>
                <button type="button" className="text-muted underline" onClick={() => desk.unsay()}>
                  Close
                </button>
              </p>
              {notice.detail.map((line) => (
                <p key={line} className="mt-0.5 break-words text-muted">
                  {line}
                </p>
              ))}
            </div>
          )}
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
