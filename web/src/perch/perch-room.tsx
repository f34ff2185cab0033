import { type PanePath, type PlacedDivider, placePanes, withShare } from '@miradero/core/perch';
import { type PointerEvent as ReactPointerEvent, useCallback, useEffect, useState } from 'react';
import { usePlace } from '../commands/index.ts';
import { BOARD } from '../desk/index.ts';
import { nextStage, stageNow } from '../looking/index.ts';
import { boardOfShows } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import type { ArrangementStore } from './arrangement.ts';
import { PERCH, PERCH_ANYWHERE, type PerchAnywhere, type PerchInHand } from './commands.ts';
import { Pane } from './pane.tsx';
import type { PaneControls } from './pane-controls.ts';
import { PerchStrip } from './perch-strip.tsx';
import { popups } from './popups.ts';
import { arrangeAll } from './window-channel.ts';

const DIVIDER_PX = 5;
/** Lower than this there is room for one picture alone. */
const STUB_PX = 140;
/** The pointer this near to their edge brings the controls up, CSS pixels. */
const NEAR_PX = 44;
/** Sizes of the window, one step each. */
const SIZES = [
  { width: 240, height: 120 },
  { width: 240, height: 200 },
  { width: 420, height: 360 },
  { width: 640, height: 480 },
  { width: 900, height: 640 },
] as const;

interface Size {
  readonly width: number;
  readonly height: number;
}

/** How large an element is, also in another window. */
function useSize(element: HTMLElement | null): Size {
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  useEffect(() => {
    if (!element) return;
    const window = element.ownerDocument.defaultView as (Window & typeof globalThis) | null;
    if (!window) return;
    const measure = () => setSize({ width: element.clientWidth, height: element.clientHeight });
    const observer = new window.ResizeObserver(measure);
    observer.observe(element);
    measure();
    return () => observer.disconnect();
  }, [element]);
  return size;
}

function Divider({
  divider,
  onMove,
}: {
  divider: PlacedDivider;
  onMove: (path: PanePath, share: number) => void;
}) {
  const { at, side, within, path } = divider;
  const isBeside = side === 'beside';
  const share = isBeside
    ? (at.x - within.x) / Math.max(1, within.width - at.width)
    : (at.y - within.y) / Math.max(1, within.height - at.height);
  const onPointerMove = (event: ReactPointerEvent<HTMLElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = event.currentTarget.parentElement!.getBoundingClientRect();
    const along = isBeside
      ? (event.clientX - box.left - within.x) / within.width
      : (event.clientY - box.top - within.y) / within.height;
    onMove(path, along);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a line that is dragged is no rule
    <div
      role="separator"
      tabIndex={0}
      aria-label="Between two panes"
      aria-orientation={isBeside ? 'vertical' : 'horizontal'}
      aria-valuenow={Math.round(share * 100)}
      className={`absolute bg-paper hover:bg-verdigris focus-visible:bg-verdigris ${isBeside ? 'cursor-col-resize' : 'cursor-row-resize'}`}
      style={{ left: at.x, top: at.y, width: at.width, height: at.height, touchAction: 'none' }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={onPointerMove}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        onMove(path, share + by * 0.05);
      }}
    />
  );
}

/** What the perch's own keys work on, and those of the board it shows. */
function PerchPlaces({ inHand, anywhere }: { inHand: PerchInHand; anywhere: PerchAnywhere }): null {
  usePlace(BOARD, inHand.pane?.open.desk);
  usePlace(PERCH, inHand);
  usePlace(PERCH_ANYWHERE, anywhere);
  return null;
}

/** Asks for another size of a window; browsers allow it right after a press in it. */
function resizeBy(window: Window, by: 1 | -1): void {
  const { innerWidth, innerHeight, outerWidth, outerHeight } = window;
  const at = SIZES.findIndex(({ width, height }) => width * height >= innerWidth * innerHeight * 0.98);
  const index = at < 0 ? SIZES.length : at;
  const size = SIZES[Math.min(SIZES.length - 1, Math.max(0, index + by))]!;
  try {
    window.resizeTo(size.width + outerWidth - innerWidth, size.height + outerHeight - innerHeight);
  } catch {
    // Not allowed just now: it stays as large as it is.
  }
}

/** One window of the perch: its panes, the dividers between them, and the strip that comes up at its edge. */
export function PerchRoom({
  arrangement,
  window,
  isFloating,
  onFollow,
  onClose,
}: {
  arrangement: ArrangementStore;
  window: Window;
  /** It stands above other windows, where its system puts it. */
  isFloating: boolean;
  onFollow: () => void;
  onClose: () => void;
}) {
  const now = useStore(arrangement.store);
  const [root, setRoot] = useState<HTMLElement | null>(null);
  const size = useSize(root);
  const [all, setAll] = useState<ReadonlyMap<string, PaneControls>>(new Map());
  const onControls = useCallback((pane: string, controls: PaneControls | undefined) => {
    setAll((known) => {
      const next = new Map(known);
      if (controls) next.set(pane, controls);
      else next.delete(pane);
      return next;
    });
  }, []);
  const [isNear, setNear] = useState(false);
  const [isMoreOpen, setMoreOpen] = useState(false);

  const isStub = size.height > 0 && size.height < STUB_PX;
  const tree = isStub ? { pane: now.front } : now.tree;
  const { panes, dividers } = placePanes(
    tree,
    { x: 0, y: 0, width: size.width, height: size.height },
    DIVIDER_PX,
  );
  const controls = all.get(now.front);
  const say = (words: string | undefined) => {
    if (words) controls?.open.desk.say(words);
  };
  const another = (isNarrow: boolean) => void popups.another(arrangement.now, window, isNarrow).then(say);
  const inHand: PerchInHand = {
    pane: controls,
    windows: {
      useScreens: () => void popups.useScreens(window).then(say),
      markPart() {
        if (isFloating) {
          say(
            'The floating window stands where its system puts it, and only its size is set by a page. Further windows can be arranged.',
          );
          return;
        }
        void popups.markPart(window).then(() => {
          say('Windows of the perch are arranged where this one is.');
          arrangeAll();
        });
      },
      arrange: () => arrangeAll(),
    },
    split(side) {
      if (!arrangement.split(now.front, side))
        controls?.open.desk.say('Four panes are all that fit.', ['Close one first.']);
    },
    closePane() {
      if (!arrangement.closePane(now.front)) onClose();
    },
    nextPane: () => arrangement.step(),
    nextStage(by) {
      const base = controls?.open.base;
      const next = base && (by === 0 ? stageNow(base.session) : nextStage(base.session, by));
      if (next) arrangement.show({ kind: 'stage', board: base.session.id, stage: next.id });
      else controls?.open.desk.say('This board has no working set yet.', ['S takes pictures into one.']);
    },
    toggleHoverLook() {
      const isHoverLook = !now.isHoverLook;
      arrangement.set({ isHoverLook });
      controls?.open.desk.say(
        isHoverLook ? 'Rest on a picture and it comes close.' : 'Resting brings nothing close any more.',
      );
    },
    toggleBare: () => arrangement.set({ isBare: !now.isBare }),
    toggleEdge: () => arrangement.set({ edge: now.edge === 'top' ? 'bottom' : 'top' }),
    resize: (by) => resizeBy(window, by),
    stepBack() {
      if (isMoreOpen) setMoreOpen(false);
      else controls?.stepBack();
    },
    toBoard() {
      const board = boardOfShows(arrangement.now.panes[now.front]!.shows);
      if (board) arrangement.show({ kind: 'board', board });
    },
  };

  useEffect(() => {
    if (!now.isBare) return;
    const back = (event: Event) => {
      if ('key' in event && isModifier(event.key as string)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      arrangement.set({ isBare: false });
    };
    const options = { capture: true };
    window.addEventListener('keydown', back, options);
    window.addEventListener('pointerdown', back, options);
    return () => {
      window.removeEventListener('keydown', back, options);
      window.removeEventListener('pointerdown', back, options);
    };
  }, [now.isBare, window, arrangement]);

  const onPointerMove = (event: ReactPointerEvent<HTMLElement>) => {
    if (event.pointerType === 'touch') return;
    const isWithin = isAtEdge(event, now.edge, isNear ? NEAR_PX * 1.5 : NEAR_PX) && event.buttons === 0;
    if (isWithin !== isNear) setNear(isWithin);
  };

  return (
    <section
      ref={setRoot}
      aria-label="Perch"
      className="relative h-full overflow-clip bg-[#797979]"
      onPointerMove={onPointerMove}
      onPointerDownCapture={(event) => {
        // A finger does not come near: it taps there.
        if (event.pointerType === 'touch') setNear(isAtEdge(event, now.edge, NEAR_PX));
      }}
      onPointerLeave={(event) => {
        if (event.pointerType !== 'touch') setNear(false);
      }}
    >
      {size.width > 0 &&
        [...panes].map(([pane, { x, y, width, height }]) => (
          <div key={pane} className="absolute" style={{ left: x, top: y, width, height }}>
            <Pane
              {...{ pane, arrangement, isStub, onControls }}
              isFront={pane === now.front}
              isAmong={panes.size > 1 && !now.isBare}
            />
          </div>
        ))}
      {dividers.map((divider) => (
        <Divider
          key={divider.path.join() || 'all'}
          divider={divider}
          onMove={(path, share) => arrangement.set({ tree: withShare(arrangement.now.tree, path, share) })}
        />
      ))}
      <PerchPlaces
        inHand={inHand}
        anywhere={{
          toggle: onClose,
          showStage: () => inHand.nextStage(0),
          another,
          restore: () => {},
          follow: onFollow,
          close: onClose,
        }}
      />
      {!now.isBare && controls && (
        <PerchStrip
          {...{ arrangement, controls, inHand, isNear, isMoreOpen, setMoreOpen }}
          width={size.width}
        />
      )}
    </section>
  );
}

/** Whether a pointer is within so far of the edge where the controls come up. */
function isAtEdge(event: ReactPointerEvent<HTMLElement>, edge: 'top' | 'bottom', withinPx: number): boolean {
  const { top, bottom } = event.currentTarget.getBoundingClientRect();
  return (edge === 'top' ? event.clientY - top : bottom - event.clientY) <= withinPx;
}

const isModifier = (key: string): boolean => ['Control', 'Shift', 'Alt', 'Meta'].includes(key);
