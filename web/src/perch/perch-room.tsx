import { placePanes, withShare } from '@miradero/core/perch';
import { type PointerEvent as ReactPointerEvent, useCallback, useEffect, useState } from 'react';
import { usePlace } from '../commands/index.ts';
import { BOARD } from '../desk/index.ts';
import { useStore } from '../state/index.ts';
import type { ArrangementStore } from './arrangement.ts';
import { PERCH, PERCH_ANYWHERE, type PerchAnywhere, type PerchInHand } from './commands.ts';
import { Divider } from './divider.tsx';
import { inHandOf } from './in-hand.ts';
import { Pane } from './pane.tsx';
import type { PaneControls } from './pane-controls.ts';
import { PartCard } from './part-card.tsx';
import { PerchStrip } from './perch-strip.tsx';
import { popups } from './popups.ts';
import { arrangeAll } from './window-channel.ts';

const DIVIDER_PX = 5;
/** Lower than this there is room for one picture alone. */
const STUB_PX = 140;
/** The pointer this near to their edge brings the controls up, CSS pixels. */
const NEAR_PX = 44;
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

/** What the perch's own keys work on, and those of the board it shows. */
function PerchPlaces({ inHand, anywhere }: { inHand: PerchInHand; anywhere: PerchAnywhere }): null {
  usePlace(BOARD, inHand.pane?.open.desk);
  usePlace(PERCH, inHand);
  usePlace(PERCH_ANYWHERE, anywhere);
  return null;
}

/** While nothing but pictures is seen, any key or tap brings the controls back, and does nothing else. */
function useWayOutOfBare(arrangement: ArrangementStore, window: Window): void {
  const isBare = useStore(arrangement.store, (now) => now.isBare);
  useEffect(() => {
    if (!isBare) return;
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
  }, [isBare, window, arrangement]);
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
  const [card, setCard] = useState<'more' | 'part'>();
  const isMoreOpen = card === 'more';
  const setMoreOpen = (isOpen: boolean) =>
    setCard((now) => (isOpen ? 'more' : now === 'more' ? undefined : now));

  const isStub = size.height > 0 && size.height < STUB_PX;
  const tree = isStub ? { pane: now.front } : now.tree;
  const { panes, dividers } = placePanes(
    tree,
    { x: 0, y: 0, width: size.width, height: size.height },
    DIVIDER_PX,
  );
  const controls = all.get(now.front);
  const { inHand, another } = inHandOf({
    ...{ arrangement, controls, window, onClose },
    openPart: () => setCard('part'),
    closeCard() {
      setCard(undefined);
      return card !== undefined;
    },
  });
  useWayOutOfBare(arrangement, window);

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
          {...{ arrangement, controls, inHand, isMoreOpen, setMoreOpen }}
          isNear={isNear || card === 'part'}
          width={size.width}
        />
      )}
      {!now.isBare && controls && card === 'part' && (
        <PartCard
          window={window}
          edge={now.edge}
          onMark={(part) => {
            void popups.markPart(window, part).then(() => {
              controls.open.desk.say(
                'Further windows are arranged there.',
                isFloating
                  ? ['This one stands where its system puts it; only its size is set by a page.']
                  : [],
              );
              arrangeAll();
            });
          }}
          onClose={() => setCard(undefined)}
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
