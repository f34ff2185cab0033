import { surroundColour } from '@miradero/core/colour';
import type { Point } from '@miradero/core/geometry';
import { SHEET_ID } from '@miradero/core/items';
import { useCallback, useEffect, useRef, useState } from 'react';
import { beginWalk, cameraKeeper, type Desk, keptCamera, type Tool } from '../desk/index.ts';
import { LabelsOnPictures, openItem, tapItem } from '../items/index.ts';
import { Overview } from '../looking/index.ts';
import { type PixelPool, pixelPool } from '../pixels/index.ts';
import { later } from '../shell/index.ts';
import { StageView, type ViewStart } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { SELECT, seatTools } from '../tools/index.ts';
import { HandCard } from './hand-card.tsx';
import { WALKED_LIST, WalkedList, walkedId } from './walked-list.tsx';
import { WallLabel } from './wall-label.tsx';

const PinnedLayer = later(async () => (await import('../easel/index.ts')).PinnedLayer);
const EaselOnBoard = later(async () => (await import('../easel/index.ts')).EaselOnBoard);

declare global {
  interface Window {
    /** The stage of this page, for those who measure it. */
    miraderoStage?: StageView | undefined;
    /** Where this page has its pixels from, for them, too. */
    miraderoPixels?: PixelPool | undefined;
  }
}

/** Puts a stage into `holder` and wires it to the desk. @returns it and what takes it away */
function mountStage(
  holder: HTMLElement,
  desk: Desk,
  { onSecondary, home, rest }: { onSecondary: (at: Point) => void; home: ViewStart['home']; rest: Tool },
): { view: StageView; close: () => void } {
  const camera = home ? undefined : keptCamera('board', desk.session.id);
  const view = new StageView(holder, desk.feed, { camera, home });
  const seated = seatTools(holder, desk, view, rest);
  seated.hand.onSecondary = onSecondary;
  seated.hand.onOpen = (id) => openItem(desk, id);
  seated.hand.onTap = (id, point, pointerType, isFollowing) =>
    tapItem(desk, id, view.toBoard(point), { scale: view.camera.scale, pointerType, isFollowing });
  const keeper = cameraKeeper('board', desk.session.id);
  const ends = [
    view.store.subscribe(() => {
      if (!view.isFitted && !home) keeper.moved(view.camera);
    }),
  ];
  const onEscape = (event: KeyboardEvent) => {
    if (event.key === 'Escape' && seated.gestures.cancel()) event.stopImmediatePropagation();
  };
  window.addEventListener('keydown', onEscape, { capture: true });
  // Whoever comes by Tab walks from item to item; whoever comes by a press or from a sheet goes on where they were.
  let isTabbing = false;
  const onTab = (event: KeyboardEvent) => {
    isTabbing = event.key === 'Tab';
    setTimeout(() => {
      isTabbing = false;
    });
  };
  const onFocus = () => isTabbing && beginWalk(desk);
  window.addEventListener('keydown', onTab, { capture: true });
  holder.addEventListener('focus', onFocus);
  window.miraderoPixels = pixelPool();
  desk.view = view;
  return {
    view,
    close() {
      window.removeEventListener('keydown', onEscape, { capture: true });
      window.removeEventListener('keydown', onTab, { capture: true });
      holder.removeEventListener('focus', onFocus);
      desk.walkTo(undefined);
      keeper.close();
      for (const end of ends) end();
      seated.close();
      view.close();
      desk.view = undefined;
    },
  };
}

/** The board itself, with what stands above it. */
export function StageSurface({
  desk,
  isFront,
  home,
  rest = SELECT,
  onView,
}: {
  desk: Desk;
  /** Keys act on it, and not on one beside it. */
  isFront: boolean;
  /** What is its whole: it begins with that, and where it looks is not kept. */
  home?: ViewStart['home'];
  /** What the hand does while no tool is taken. */
  rest?: Tool;
  onView: (view: StageView | undefined) => void;
}) {
  const surround = useStore(desk.session.store, ({ board }) => board.surround);
  const holder = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<StageView>();
  const tool = useStore(desk.store, ({ tool }) => tool);
  const isPinned = useStore(desk.store, ({ pinned }) => pinned.size > 0);
  const hasSheet = useStore(desk.session.store, ({ items }) => items.has(SHEET_ID));
  // How it was is looked at alone.
  const isEasel = hasSheet && home === undefined;
  const walkedTo = useStore(desk.store, ({ walkedTo }) => walkedTo);
  const [asked, setAsked] = useState<Point>();
  const atFirst = useRef(isFront);
  const closeCard = useCallback(() => {
    setAsked(undefined);
    holder.current?.focus({ preventScroll: true });
  }, []);

  useEffect(() => {
    const mounted = mountStage(holder.current!, desk, { onSecondary: setAsked, home, rest });
    setView(mounted.view);
    onView(mounted.view);
    if (atFirst.current) holder.current!.focus();
    return () => {
      onView(undefined);
      setView(undefined);
      mounted.close();
    };
  }, [desk, home, rest, onView]);

  useEffect(() => {
    if (!view || !isFront) return;
    window.miraderoStage = view;
    return () => {
      window.miraderoStage = undefined;
    };
  }, [view, isFront]);

  useEffect(() => {
    if (view) view.ground = surroundColour(surround);
  }, [view, surround]);

  const Surface = tool?.Surface;
  return (
    <div className="relative min-w-0 flex-1 overflow-clip" data-front={isFront || undefined}>
      <div
        ref={holder}
        className="stage"
        role="application"
        aria-label="Board"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: the stage takes keys: Space pans, arrows walk and nudge
        tabIndex={0}
        {...(walkedTo === undefined
          ? {}
          : { 'aria-owns': WALKED_LIST, 'aria-activedescendant': walkedId(walkedTo) })}
      />
      {view && <WalkedList desk={desk} view={view} />}
      {view && <LabelsOnPictures desk={desk} view={view} />}
      {view && <WallLabel desk={desk} view={view} />}
      {view && !isEasel && <Overview view={view} />}
      {view && isPinned && <PinnedLayer desk={desk} />}
      {view && isEasel && <EaselOnBoard desk={desk} view={view} />}
      {view && asked && <HandCard desk={desk} at={asked} onClose={closeCard} />}
      {view && Surface && <Surface key={tool?.id} desk={desk} view={view} />}
    </div>
  );
}
