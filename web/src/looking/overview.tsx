import type { Rectangle } from '@miradero/core/geometry';
import { useEffect, useRef } from 'react';
import type { StageView } from '../stage/index.ts';
import { createStore, recall, remember, useStore } from '../state/index.ts';

const KEY = 'miradero-overview';
/** Longest side of the map, CSS pixels. */
const SIDE_PX = 180;
/** The frame of what is in view: dark and light, so that it shows on any picture. */
const FRAME = [
  [3, 'rgba(20, 20, 20, 0.9)'],
  [1, '#fafaf9'],
] as const;

const isShown = createStore<{ on: boolean }>(() => ({ on: recall(KEY) === 'on' }));

/** Shows or hides the map in the corner; every board of this browser has it then. */
export function toggleOverview(): void {
  isShown.setState(({ on }) => ({ on: !on }));
  remember(KEY, isShown.getState().on ? 'on' : 'off');
}

/** The whole board in the corner, with what is in view; a press or a drag goes there. */
export function Overview({ view }: { view: StageView }) {
  const on = useStore(isShown, (state) => state.on);
  return on ? <CornerMap view={view} /> : null;
}

function CornerMap({ view }: { view: StageView }) {
  useStore(view.store);
  const overview = useStore(view.overview, ({ buffer }) => buffer);
  const canvas = useRef<HTMLCanvasElement>(null);
  const extent = view.feed.extent;
  const whole = extent && {
    x: Math.min(extent.x, view.view.x),
    y: Math.min(extent.y, view.view.y),
    right: Math.max(extent.x + extent.width, view.view.x + view.view.width),
    bottom: Math.max(extent.y + extent.height, view.view.y + view.view.height),
  };
  const [width, height] = whole ? [whole.right - whole.x, whole.bottom - whole.y] : [1, 1];
  const scale = SIDE_PX / Math.max(width, height);
  useEffect(() => {
    const element = canvas.current;
    if (!element || !whole) return;
    const ratio = globalThis.devicePixelRatio || 1;
    element.width = Math.round(width * scale * ratio);
    element.height = Math.round(height * scale * ratio);
    const context = element.getContext('2d')!;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const place = ({ x, y, width, height }: Rectangle) =>
      [(x - whole.x) * scale, (y - whole.y) * scale, width * scale, height * scale] as const;
    if (overview) context.drawImage(overview.bitmap, ...place(overview.view));
    for (const [line, colour] of FRAME) {
      context.lineWidth = line;
      context.strokeStyle = colour;
      context.strokeRect(...place(view.view));
    }
  });
  if (!whole) return null;
  const go = (event: React.PointerEvent) => {
    const { left, top } = canvas.current!.getBoundingClientRect();
    const centre = {
      x: whole.x + (event.clientX - left) / scale,
      y: whole.y + (event.clientY - top) / scale,
    };
    view.setCamera({ ...view.camera, centre });
  };
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="The whole board, and what is in view"
      data-on-board
      className="absolute right-3 bottom-3 z-10 cursor-pointer touch-none border border-line"
      style={{ width: width * scale, height: height * scale }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        go(event);
      }}
      onPointerMove={(event) => event.buttons > 0 && go(event)}
    />
  );
}
