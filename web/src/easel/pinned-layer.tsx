import type { Rectangle } from '@miradero/core/geometry';
import { isPlacement, type Placement } from '@miradero/core/items';
import { X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { useStore } from '../state/index.ts';
import { drag, PanAndPinch } from './drags.ts';
import { PinnedView } from './pinned-view.ts';

const LEAST = { width: 120, height: 96 } as const;
/** A press of an arrow moves it by so much. */
const STEP_PX = 16;

const ARROWS: Readonly<Record<string, { readonly x: number; readonly y: number }>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

/** What is pinned over a board: each with its own zoom, wherever the board is moved below. */
export function PinnedLayer({ desk }: { desk: Desk }) {
  const pinned = useStore(desk.store, (state) => state.pinned);
  const items = useStore(desk.session.store, (state) => state.items);
  return [...pinned].map(([id, place]) => {
    const item = items.get(id);
    return item && isPlacement(item) && !item.removed ? (
      <PinnedPicture key={id} desk={desk} place={place} item={item} />
    ) : null;
  });
}

function PinnedPicture({ desk, place, item }: { desk: Desk; place: Rectangle; item: Placement }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = useRef<PinnedView>(undefined);
  const section = useRef<HTMLElement>(null);
  const [pinch] = useState(() => new PanAndPinch());
  const name = desk.sync.shelf.get(item.picture)?.name ?? 'picture';
  useEffect(() => {
    const own = new PinnedView(canvas.current!, desk, item.id);
    view.current = own;
    const element = canvas.current!;
    // The wheel zooms it, and not the board below; React listens to it passively.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      event.stopPropagation();
      own.zoom({ x: event.offsetX, y: event.offsetY }, 2 ** (-event.deltaY / 400));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => {
      element.removeEventListener('wheel', onWheel);
      own.close();
    };
  }, [desk, item.id]);
  const put = (next: Partial<Rectangle>) => desk.pin(item.id, { ...place, ...next });
  return (
    <section
      ref={section}
      aria-label={`Pinned: ${name}`}
      data-on-board
      className="absolute z-[15] flex max-h-full max-w-full flex-col border border-line bg-[#797979] shadow-[0_4px_18px_rgb(0_0_0/0.25)]"
      style={{
        ...{ width: place.width, height: place.height },
        left: `max(0px, min(${place.x}px, 100% - ${place.width}px))`,
        top: `max(0px, min(${place.y}px, 100% - ${place.height}px))`,
      }}
    >
      <header className="flex shrink-0 items-center bg-paper px-2 text-[12px]">
        <button
          type="button"
          aria-label={`Move ${name}`}
          className="min-w-0 flex-1 cursor-move touch-none select-none truncate py-0.5 text-left font-serif text-[13px] italic"
          onPointerDown={(event) => {
            // As it is seen: a view that became smaller keeps it within.
            const { offsetLeft: x, offsetTop: y } = section.current!;
            drag(event, (dx, dy) => put({ x: Math.max(0, x + dx), y: Math.max(0, y + dy) }));
          }}
          onKeyDown={(event) => {
            const by = ARROWS[event.key];
            if (!by) return;
            event.preventDefault();
            event.stopPropagation();
            put({
              x: Math.max(0, place.x + by.x * STEP_PX),
              y: Math.max(0, place.y + by.y * STEP_PX),
            });
          }}
        >
          <bdi>{name}</bdi>
        </button>
        <button
          type="button"
          className="px-1 text-muted underline underline-offset-3"
          onClick={() => view.current?.fit()}
        >
          all of it
        </button>
        <button
          type="button"
          aria-label={`Unpin ${name}`}
          className="grid size-6 place-items-center text-muted hover:text-ink"
          onClick={() => desk.pin(item.id, undefined)}
        >
          <X size={13} aria-hidden />
        </button>
      </header>
      <canvas
        ref={canvas}
        role="img"
        aria-label={name}
        className="min-h-0 w-full flex-1 cursor-grab touch-none"
        onPointerDown={(event) =>
          pinch.press(event, (way, factor, about) => {
            view.current?.pan(way);
            if (factor !== 1) view.current?.zoom(about, factor);
          })
        }
        onDoubleClick={(event) => {
          const { left, top } = event.currentTarget.getBoundingClientRect();
          view.current?.zoom({ x: event.clientX - left, y: event.clientY - top }, 2);
        }}
      />
      {/* A pen zooms along the edge, as in the perch: up is closer. */}
      <div
        aria-hidden
        data-pinned-zoom
        className="absolute top-8 right-0 bottom-5 w-5 cursor-ns-resize touch-none"
        onPointerDown={(event) => {
          let last = 0;
          const at = { x: place.width / 2, y: place.height / 2 };
          drag(event, (_, dy) => {
            view.current?.zoom(at, 2 ** ((last - dy) / 120));
            last = dy;
          });
        }}
      />
      <div
        aria-hidden
        data-pinned-size
        className="absolute right-0 bottom-0 size-5 cursor-nwse-resize touch-none border-ink border-r-2 border-b-2"
        onPointerDown={(event) =>
          drag(event, (dx, dy) =>
            put({
              width: Math.max(LEAST.width, place.width + dx),
              height: Math.max(LEAST.height, place.height + dy),
            }),
          )
        }
      />
    </section>
  );
}
