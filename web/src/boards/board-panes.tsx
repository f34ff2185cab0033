import { X } from 'lucide-react';
import { type DragEvent, type ReactNode, useCallback, useEffect, useLayoutEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Desk, Opened } from '../desk/index.ts';
import { type Beside, ShownBeside } from '../perch/index.ts';
import {
  addressOfPanes,
  besideAfter,
  isBoardPane,
  MOST_PANES,
  Notice,
  shownIn,
  TAB_DRAG,
  withPane,
} from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useMade, useStore } from '../state/index.ts';
import { PaneLine } from './pane-line.tsx';
import type { usePaneShares } from './pane-shares.ts';
import { StageSurface } from './stage-surface.tsx';

/** What is said where no more stand together. */
export const MOST_BESIDE = 'Three stand side by side at most. Take one away first.';
/** A tab let go within this share of the width from an edge lays its board there. */
const EDGE_SHARE = 0.25;

type Side = 'left' | 'right';
type OnView = (pane: string, view: StageView | undefined) => void;
type OnDesk = (pane: string, desk: Desk | undefined) => void;

/** One of several that stand together: its name above it, and a press brings it to the front. */
function PaneFrame({
  pane,
  name,
  isFront,
  isAmong,
  share,
  onFront,
  onPointed,
  onTakeAway,
  children,
}: PlaceOfPane & { name: string; children: ReactNode }) {
  return (
    <section
      className="relative flex min-h-0 min-w-0"
      style={{ flex: `${share} 1 0` }}
      aria-label={name}
      data-tab-of={pane}
      data-name={name}
      onPointerDownCapture={isFront ? undefined : onFront}
      onFocusCapture={isFront ? undefined : onFront}
      onPointerEnter={() => onPointed(pane)}
      onPointerLeave={() => onPointed(undefined)}
    >
      {children}
      {isAmong && (
        <header
          data-current={isFront}
          className="absolute top-0 left-0 z-10 flex max-w-full items-center border-transparent border-b-2 bg-paper px-2 data-[current=true]:border-verdigris"
        >
          <h2 className="truncate py-0.5 font-serif text-[15px] italic">
            <bdi>{name}</bdi>
          </h2>
          <button
            type="button"
            aria-label={`Take ${name} from beside the others`}
            title={
              isBoardPane(pane)
                ? 'Take it from beside the others; its tab stays'
                : 'Take it from beside the board'
            }
            className="grid size-6 shrink-0 place-items-center text-muted hover:text-ink"
            onPointerDownCapture={(event) => event.stopPropagation()}
            onClick={onTakeAway}
          >
            <X size={13} aria-hidden />
          </button>
        </header>
      )}
    </section>
  );
}

interface PlaceOfPane {
  readonly pane: string;
  readonly isFront: boolean;
  /** Others stand beside it. */
  readonly isAmong: boolean;
  readonly share: number;
  readonly onFront: () => void;
  /** The pointer came over it; undefined: it left. */
  readonly onPointed: (pane: string | undefined) => void;
  readonly onTakeAway: () => void;
}

/** What is said of a pane that is not in front: of the one that is, the page says it. */
function NoticeBehind({ desk }: { desk: Desk }) {
  const notice = useStore(desk.store, (state) => state.notice);
  return (
    <div
      role="status"
      aria-live="polite"
      className="absolute inset-x-2 bottom-2 z-10 w-fit max-w-[calc(100%-16px)]"
    >
      <Notice notice={notice} onClose={() => desk.unsay()} className="max-h-24 px-2.5 py-1.5 text-[12px]" />
    </div>
  );
}

function BoardPane({ desk, onView, ...place }: PlaceOfPane & { desk: Desk; onView: OnView }) {
  const { id, name } = useStore(desk.session.store, ({ board }) => board);
  const tell = useCallback((view: StageView | undefined) => onView(id, view), [id, onView]);
  return (
    <PaneFrame {...place} name={name}>
      <StageSurface desk={desk} isFront={place.isFront} onView={tell} />
      {!place.isFront && <NoticeBehind desk={desk} />}
    </PaneFrame>
  );
}

/** Something of a board, alone, on a stage of its own: a picture, some of them, a working set. */
function PartStage({
  beside: { open, hand },
  place: { pane, isFront },
  onView,
  onDesk,
}: {
  beside: Beside;
  place: PlaceOfPane;
  onView: OnView;
  onDesk: OnDesk;
}) {
  const { desk, part } = open;
  const [view, setView] = useState<StageView>();
  const tell = useCallback(
    (view: StageView | undefined) => {
      setView(view);
      onView(pane, view);
    },
    [pane, onView],
  );
  useEffect(() => {
    onDesk(pane, desk);
    return () => onDesk(pane, undefined);
  }, [pane, desk, onDesk]);
  useLayoutEffect(() => {
    if (!view || !part) return;
    const fill = () => part.fill(view.room);
    fill();
    return view.store.subscribe(fill);
  }, [view, part]);
  const { isEmpty } = useMade(desk.watch, () => ({ isEmpty: part !== undefined && part.order.length === 0 }));
  return (
    <>
      <StageSurface desk={desk} isFront={isFront} home={open.home} rest={hand} onView={tell} />
      {!isFront && <NoticeBehind desk={desk} />}
      {isEmpty && (
        <p className="pointer-events-none absolute inset-x-4 top-1/2 mx-auto w-fit bg-paper px-3 py-1.5 text-[13px]">
          Nothing of it stands on its board now.
        </p>
      )}
    </>
  );
}

function PartPane({ onView, onDesk, ...place }: PlaceOfPane & { onView: OnView; onDesk: OnDesk }) {
  const shows = shownIn(place.pane);
  if (!shows) return null;
  return (
    <ShownBeside shows={shows}>
      {(beside) => (
        <PaneFrame {...place} name={beside && 'open' in beside ? beside.title : 'Beside'}>
          {beside && 'open' in beside ? (
            <PartStage {...{ beside, place, onView, onDesk }} />
          ) : (
            <p className="m-auto max-w-sm p-6 text-[14px]">{beside?.trouble}</p>
          )}
        </PaneFrame>
      )}
    </ShownBeside>
  );
}

/** Which edge a tab is dragged to, while one is; letting it go there lays its board there. */
function useTabDrag(onLay: (id: string, side: Side) => void) {
  const [side, setSide] = useState<Side>();
  useEffect(() => {
    const end = () => setSide(undefined);
    window.addEventListener('dragend', end);
    return () => window.removeEventListener('dragend', end);
  }, []);
  const sideOf = (event: DragEvent<HTMLElement>): Side | undefined => {
    const { left, width } = event.currentTarget.getBoundingClientRect();
    const share = (event.clientX - left) / width;
    return share < EDGE_SHARE ? 'left' : share > 1 - EDGE_SHARE ? 'right' : undefined;
  };
  const isTab = (event: DragEvent) => event.dataTransfer.types.includes(TAB_DRAG);
  return {
    side,
    events: {
      onDragOver(event: DragEvent<HTMLElement>) {
        if (!isTab(event)) return;
        const over = sideOf(event);
        setSide(over);
        if (!over) return;
        event.preventDefault();
        event.dataTransfer.dropEffect = 'link';
      },
      onDragLeave(event: DragEvent<HTMLElement>) {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setSide(undefined);
      },
      onDrop(event: DragEvent<HTMLElement>) {
        if (!isTab(event)) return;
        event.preventDefault();
        setSide(undefined);
        const over = sideOf(event);
        const id = event.dataTransfer.getData(TAB_DRAG);
        if (over && id) onLay(id, over);
      },
    },
  };
}

/** One board, or two or three side by side, each with its own camera; keys act on the one in front. */
export function BoardPanes({
  front,
  partInFront,
  panes,
  opened,
  onView,
  onDesk,
  onPressed,
  onPointed,
  room,
}: {
  /** A board. */
  front: string;
  /** The pane that is in front instead of a board, where one is. */
  partInFront: string | undefined;
  panes: readonly string[];
  opened: ReadonlyMap<string, Opened>;
  onView: OnView;
  onDesk: OnDesk;
  /** One was pressed and comes to the front. */
  onPressed: (id: string) => void;
  onPointed: PlaceOfPane['onPointed'];
  /** How they share it. */
  room: ReturnType<typeof usePaneShares>;
}) {
  const navigate = useNavigate();
  const go = (to: string, shown: readonly string[], replace = false) =>
    void navigate(addressOfPanes(to, shown), { replace });
  const sayInFront = (words: string) => {
    const one = opened.get(front);
    if (one && 'desk' in one) one.desk.say(words);
  };
  const drag = useTabDrag((id, side) => {
    const next = withPane(panes, id, side);
    if (next.length > MOST_PANES) sayInFront(MOST_BESIDE);
    else go(id, next);
  });
  const takeAway = (id: string) => {
    const left = panes.filter((one) => one !== id);
    go(id === front ? besideAfter(panes, id)! : front, left);
  };
  return (
    <div
      className={`relative flex min-h-0 min-w-0 flex-1 ${room.isStacked ? 'flex-col' : ''}`}
      {...drag.events}
    >
      {panes.flatMap((id, index) => {
        const one = opened.get(id);
        const place: PlaceOfPane = {
          pane: id,
          isFront: id === (partInFront ?? front),
          isAmong: panes.length > 1,
          share: room.shares[index] ?? 1,
          onFront() {
            onPressed(id);
            if (isBoardPane(id)) go(id, panes, true);
          },
          onPointed,
          onTakeAway: () => takeAway(id),
        };
        const line = index > 0 && (
          <PaneLine
            key={`before ${id}`}
            at={room.shares.slice(0, index).reduce((sum, share) => sum + share, 0)}
            isStacked={room.isStacked}
            onMove={(at) => room.moveLine(index - 1, at)}
          />
        );
        if (!isBoardPane(id)) return [line, <PartPane key={id} {...place} {...{ onView, onDesk }} />];
        if (one && 'desk' in one)
          return [line, <BoardPane key={id} {...place} desk={one.desk} onView={onView} />];
        return [
          line,
          <section key={id} className="flex min-w-0 flex-1 items-center justify-center p-6">
            {one && (
              <p className="max-w-sm text-[14px]">
                {one.trouble}{' '}
                <button type="button" className="underline" onClick={() => takeAway(id)}>
                  take it away
                </button>
              </p>
            )}
          </section>,
        ];
      })}
      {drag.side && (
        <div
          aria-hidden
          className={`pointer-events-none absolute inset-y-0 z-20 w-1/4 border-2 border-verdigris bg-verdigris/25 ${drag.side === 'left' ? 'left-0' : 'right-0'}`}
        />
      )}
    </div>
  );
}
