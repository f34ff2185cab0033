import { X } from 'lucide-react';
import { type DragEvent, useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Desk, Opened } from '../desk/index.ts';
import { addressOfPanes, besideAfter, MOST_PANES, TAB_DRAG, withPane } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { PaneLine } from './pane-line.tsx';
import type { usePaneShares } from './pane-shares.ts';
import { StageSurface } from './stage-surface.tsx';

/** A tab let go within this share of the width from an edge lays its board there. */
const EDGE_SHARE = 0.25;

type Side = 'left' | 'right';
type OnView = (id: string, view: StageView | undefined) => void;

function Pane({
  desk,
  isFront,
  isAmong,
  share,
  onView,
  onFront,
  onTakeAway,
}: {
  desk: Desk;
  isFront: boolean;
  /** Others stand beside it. */
  isAmong: boolean;
  share: number;
  onView: OnView;
  onFront: () => void;
  onTakeAway: () => void;
}) {
  const { id, name } = useStore(desk.session.store, ({ board }) => board);
  const tell = useCallback((view: StageView | undefined) => onView(id, view), [id, onView]);
  return (
    <section
      className="relative flex min-h-0 min-w-0"
      style={{ flex: `${share} 1 0` }}
      aria-label={name}
      data-tab-of={id}
      data-name={name}
      onPointerDownCapture={isFront ? undefined : onFront}
      onFocusCapture={isFront ? undefined : onFront}
    >
      <StageSurface desk={desk} isFront={isFront} onView={tell} />
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
            title="Take it from beside the others; its tab stays"
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
  panes,
  opened,
  onView,
  onPressed,
  room,
}: {
  front: string;
  panes: readonly string[];
  opened: ReadonlyMap<string, Opened>;
  onView: OnView;
  /** One was pressed and comes to the front. */
  onPressed: (id: string) => void;
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
    if (next.length > MOST_PANES) sayInFront('Three boards stand side by side at most. Take one away first.');
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
        const line = index > 0 && (
          <PaneLine
            key={`before ${id}`}
            at={room.shares.slice(0, index).reduce((sum, share) => sum + share, 0)}
            isStacked={room.isStacked}
            onMove={(at) => room.moveLine(index - 1, at)}
          />
        );
        if (one && 'desk' in one)
          return [
            line,
            <Pane
              key={id}
              desk={one.desk}
              isFront={id === front}
              isAmong={panes.length > 1}
              share={room.shares[index] ?? 1}
              onView={onView}
              onFront={() => {
                onPressed(id);
                go(id, panes, true);
              }}
              onTakeAway={() => takeAway(id)}
            />,
          ];
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
