import { pixelsOfSheet } from '@miradero/core/easel';
import { boardToScreen, type Rectangle } from '@miradero/core/geometry';
import type { SheetItem } from '@miradero/core/items';
import { useEffect, useRef } from 'react';
import { StageView } from '../stage/index.ts';

/** Longest side, CSS pixels. */
const SIDE_PX = 164;
/** The frame of what is in view: dark and light, so that it shows on any drawing. */
const FRAME = [
  [3, 'rgba(20, 20, 20, 0.9)'],
  [1, '#fafaf9'],
] as const;

/** The part of the board that a sheet covers, without its bleed. */
export function trimmedOf({ setup }: SheetItem): Rectangle {
  return { x: 0, y: 0, ...pixelsOfSheet(setup).trimmed };
}

/** The whole sheet small, live, with a frame that shows where one is; a press or a drag goes there. */
export function WholeSheet({ sheet, view }: { sheet: SheetItem; view: StageView }) {
  const holder = useRef<HTMLDivElement>(null);
  const part = trimmedOf(sheet);
  const scale = SIDE_PX / Math.max(part.width, part.height);
  const { width, height } = part;
  const { paper } = sheet;
  const small = useRef<StageView>(undefined);
  useEffect(() => {
    const whole = { x: 0, y: 0, width, height };
    const own = new StageView(holder.current!, view.feed, { home: () => whole, marginPx: 0 });
    own.ground = paper;
    small.current = own;
    own.overlay = (context, { camera, viewport }) => {
      const seen = view.view;
      const from = boardToScreen(camera, viewport, { x: seen.x, y: seen.y });
      for (const [line, colour] of FRAME) {
        context.lineWidth = line;
        context.strokeStyle = colour;
        context.strokeRect(from.x, from.y, seen.width * camera.scale, seen.height * camera.scale);
      }
    };
    const end = view.store.subscribe(() => own.requestDraw());
    return () => {
      end();
      own.close();
      small.current = undefined;
    };
  }, [view, width, height, paper]);
  const go = (event: React.PointerEvent) => {
    const own = small.current;
    if (own) view.setCamera({ ...view.camera, centre: own.toBoard(own.pointOf(event)) });
  };
  return (
    <div
      ref={holder}
      role="img"
      aria-label="The whole sheet, and what of it is in view"
      data-on-board
      className="relative cursor-pointer touch-none overflow-hidden box-content border border-line"
      style={{ width: Math.round(width * scale), height: Math.round(height * scale) }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        go(event);
      }}
      onPointerMove={(event) => event.buttons > 0 && go(event)}
    />
  );
}
