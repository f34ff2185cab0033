import { surroundColour } from '@miradero/core/colour';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { sourcesOf } from '../desk/index.ts';
import { listenForIncoming } from '../gather/index.ts';
import { Notice } from '../shell/index.ts';
import { SceneFeed, StageView } from '../stage/index.ts';
import { useMade, useStore, watch } from '../state/index.ts';
import { seatTools } from '../tools/index.ts';
import type { ArrangementStore } from './arrangement.ts';
import { HoverLook } from './hover-look.ts';
import { NamesList } from './names-list.tsx';
import { PaneControls } from './pane-controls.ts';
import { type PaneDesk, usePaneDesk } from './pane-desk.ts';
import { PANE_HAND } from './pane-hand.ts';
import { ReadingCard } from './reading-card.tsx';
import { withoutNotes } from './without-notes.ts';

declare global {
  interface Window {
    /** The stages of a perch by pane, for those who measure them. */
    miraderoPanes?: Map<string, StageView> | undefined;
  }
}

/** Space around everything: in a small window every pixel is wanted. */
const MARGIN_PX = 6;
/** Where one looks is kept after so long without a move. */
const REST_MS = 150;

/** Puts the stage of a pane into `holder` and wires it. @returns what works it, and what takes it away */
function mountPane(holder: HTMLElement, pane: string, open: PaneDesk, arrangement: ArrangementStore) {
  const { desk, part, base } = open;
  const window = holder.ownerDocument.defaultView!;
  const { camera, lenses, orientation, areNotesHidden, shows } = arrangement.now.panes[pane]!;
  const feed = areNotesHidden
    ? new SceneFeed(withoutNotes(desk.session), sourcesOf(desk.sync.shelf), desk.feed.painter)
    : desk.feed;
  const view = new StageView(holder, feed, {
    ...{ camera, home: (room) => open.home(room) },
    marginPx: part ? 0 : MARGIN_PX,
  });
  view.orientation = orientation;
  window.miraderoPanes ??= new Map();
  window.miraderoPanes.set(pane, view);
  window.miraderoStage = view;
  desk.view = view;
  desk.layLenses(lenses);
  const seated = seatTools(holder, desk, view, PANE_HAND);
  const controls = new PaneControls(pane, open, seated, arrangement, window);
  seated.hand.onTilt = (to) => controls.page(to);
  const hover = new HoverLook(desk, view, window, arrangement.now);
  const onMove = (event: PointerEvent) => {
    controls.pointer = view.pointOf(event);
    if (event.pointerType !== 'touch') hover.move(controls.pointer, event.buttons !== 0);
    controls.slideshow.isHovered = true;
  };
  const onLeave = () => {
    controls.pointer = undefined;
    hover.leave();
    controls.slideshow.isHovered = false;
  };
  holder.addEventListener('pointermove', onMove);
  holder.addEventListener('pointerleave', onLeave);
  let resting: number | undefined;
  const keepCamera = () => {
    window.clearTimeout(resting);
    resting = undefined;
    // What is brought close for a moment is not where one looks.
    if (!view.isFitted && !view.isClose) arrangement.setPane(pane, { camera: view.camera });
  };
  // Closed before it rested: unless the pane shows something else by now, this is where one looked. Kept without delay, since
  // the window may open again at once.
  const rest = () => {
    if (resting === undefined || arrangement.now.panes[pane]?.shows !== shows) return;
    keepCamera();
    arrangement.keep();
  };
  window.addEventListener('pagehide', rest);
  const fill = () => part?.fill(view.room);
  fill();
  const ends = [
    view.store.subscribe(() => {
      fill();
      // Not with every frame of a move: whoever shows the arrangement would be drawn anew with each.
      window.clearTimeout(resting);
      resting = window.setTimeout(keepCamera, REST_MS);
    }),
    watch(
      desk.store,
      (now) => now.lenses,
      (now) => arrangement.setPane(pane, { lenses: now }),
    ),
    watch(
      arrangement.store,
      ({ isHoverLook, hoverMs }) => `${isHoverLook} ${hoverMs}`,
      () => {
        hover.settings = arrangement.now;
      },
    ),
    () => {
      rest();
      window.removeEventListener('pagehide', rest);
      window.clearTimeout(resting);
    },
    () => holder.removeEventListener('pointermove', onMove),
    () => holder.removeEventListener('pointerleave', onLeave),
  ];
  return {
    controls,
    /** Who drops or pastes while this pane is in front brings it here. */
    listen: () =>
      listenForIncoming({
        ...{ window, sync: desk.sync, desk: base ? desk : undefined },
        view: () => view,
      }),
    close() {
      for (const end of ends) end();
      window.miraderoPanes?.delete(pane);
      hover.close();
      controls.slideshow.close();
      seated.close();
      view.close();
      if (feed !== desk.feed) feed.close();
      desk.view = undefined;
    },
  };
}

/** One pane of the perch: a stage with its own camera and ways of looking, and next to nothing above it. */
export function Pane({
  pane,
  arrangement,
  isFront,
  isAmong,
  isStub,
  onControls,
}: {
  pane: string;
  arrangement: ArrangementStore;
  /** Keys act on it. */
  isFront: boolean;
  /** Others stand beside it. */
  isAmong: boolean;
  /** The window is so small that it shows one picture. */
  isStub: boolean;
  onControls: (pane: string, controls: PaneControls | undefined) => void;
}) {
  const { shows, surround, opacity, orientation, areNotesHidden } = useStore(
    arrangement.store,
    ({ panes }) => panes[pane]!,
  );
  const opened = usePaneDesk(shows);
  if (!opened) return <div className="h-full bg-[#797979]" />;
  if ('trouble' in opened)
    return (
      <div className="grid h-full place-items-center overflow-auto bg-paper p-3 text-center text-[13px]">
        {opened.trouble}
      </div>
    );
  const key = `${shows.kind} ${areNotesHidden}`;
  return (
    <OpenPane
      key={key}
      {...{ pane, arrangement, isFront, isAmong, isStub, onControls, surround, opacity, orientation }}
      open={opened}
    />
  );
}

function OpenPane({
  pane,
  arrangement,
  open,
  isFront,
  isAmong,
  isStub,
  onControls,
  surround,
  opacity,
  orientation,
}: Parameters<typeof Pane>[0] &
  Pick<
    ReturnType<ArrangementStore['store']['getState']>['panes'][string],
    'surround' | 'opacity' | 'orientation'
  > & {
    open: PaneDesk;
  }) {
  const { desk } = open;
  const holder = useRef<HTMLDivElement>(null);
  const [mounted, setMounted] = useState<ReturnType<typeof mountPane>>();
  const boardSurround = useStore(desk.session.store, ({ board }) => board.surround);
  const notice = useStore(desk.store, ({ notice }) => notice);
  const tool = useStore(desk.store, ({ tool }) => tool);
  const ground = surroundColour(surround ?? boardSurround);
  const tell = useRef(onControls);
  tell.current = onControls;

  useLayoutEffect(() => {
    const made = mountPane(holder.current!, pane, open, arrangement);
    setMounted(made);
    tell.current(pane, made.controls);
    return () => {
      tell.current(pane, undefined);
      setMounted(undefined);
      made.close();
    };
  }, [pane, open, arrangement]);
  useEffect(() => {
    if (!mounted || !isFront) return;
    holder.current!.focus({ preventScroll: true });
    return mounted.listen();
  }, [mounted, isFront]);
  const view = mounted?.controls.view;
  useEffect(() => {
    if (view) view.ground = ground;
  }, [view, ground]);
  useEffect(() => {
    if (view) view.orientation = orientation;
  }, [view, orientation]);
  useEffect(() => {
    if (view) view.canvas.style.opacity = opacity === 1 ? '' : String(opacity);
  }, [view, opacity]);
  useEffect(() => {
    if (!mounted || !isStub) return;
    const { controls } = mounted;
    if (!controls.view.isClose && controls.view.feed.extent) controls.page('right');
    return () => controls.view.goBack();
  }, [mounted, isStub]);

  const Surface = tool?.Surface;
  return (
    <div
      className="relative h-full overflow-clip"
      style={{ background: ground }}
      data-pane={pane}
      data-front={isFront || undefined}
      onPointerDownCapture={isFront ? undefined : () => arrangement.set({ front: pane })}
    >
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the stage takes keys: Space pans, F comes close */}
      <div ref={holder} className="stage" role="application" aria-label="Board in the perch" tabIndex={0} />
      {isAmong && isFront && (
        <div aria-hidden className="pointer-events-none absolute inset-x-0 top-0 h-0.5 bg-verdigris" />
      )}
      {mounted && <PaneOverlays controls={mounted.controls} arrangement={arrangement} />}
      {view && Surface && <Surface key={tool?.id} desk={desk} view={view} />}
      {/* What is said of a drop here is said here: the board's own page may lie behind. */}
      <div role="status" aria-live="polite" className="absolute inset-x-2 bottom-2">
        <Notice notice={notice} onClose={() => desk.unsay()} className="max-h-24 px-2.5 py-1.5 text-[12px]" />
      </div>
    </div>
  );
}

/** What to do where a pane that shows a few alone has none left. */
function NothingHere({ controls }: { controls: PaneControls }) {
  const { desk, part, base } = controls.open;
  const { isEmpty } = useMade(desk.watch, () => ({ isEmpty: part !== undefined && part.order.length === 0 }));
  if (!isEmpty) return null;
  return (
    <div className="pointer-events-none absolute inset-0 grid place-items-center p-4">
      {/* On paper: the surround may be black. */}
      <p className="max-w-72 bg-raised px-3 py-2 text-center text-[13px] text-ink">
        {base
          ? 'Nothing stands here now. S takes pictures into the working set, Ctrl 0 shows the whole board.'
          : 'Nothing stands here now.'}
      </p>
    </div>
  );
}

function PaneOverlays({ controls, arrangement }: { controls: PaneControls; arrangement: ArrangementStore }) {
  const { reading, areNamesOpen } = useStore(controls.store);
  return (
    <>
      {!areNamesOpen && <NothingHere controls={controls} />}
      {reading && <ReadingCard reading={reading} controls={controls} />}
      {areNamesOpen && <NamesList controls={controls} arrangement={arrangement} />}
    </>
  );
}
