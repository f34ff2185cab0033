import type { Point, Rectangle } from '@miradero/core/geometry';
import { Dialog } from 'radix-ui';
import { type PointerEvent, useRef, useState } from 'react';
import { pngOf, Sheet, stopSharing, useFrozenScreen } from '../../shell/index.ts';

const LEAST_PX = 4;

/** The part between two points of the frame, within it, whole pixels. */
function between(a: Point, b: Point, frame: { width: number; height: number }): Rectangle {
  const within = (value: number, most: number) => Math.round(Math.min(most, Math.max(0, value)));
  const [x0, x1] = [within(Math.min(a.x, b.x), frame.width), within(Math.max(a.x, b.x), frame.width)];
  const [y0, y1] = [within(Math.min(a.y, b.y), frame.height), within(Math.max(a.y, b.y), frame.height)];
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
}

/** A frozen frame of the screen, from which a part is drawn and taken. */
export function GrabSheet({
  isAgain,
  onTake,
  onClose,
}: {
  isAgain: boolean;
  onTake: (file: File) => void;
  onClose: () => void;
}) {
  const { holder, frame, trouble } = useFrozenScreen(isAgain, 'block max-h-[70vh] max-w-full');
  const [part, setPart] = useState<Rectangle>();
  const start = useRef<Point | undefined>(undefined);

  /** A point of the frame, its own pixels. */
  const pointAt = (event: PointerEvent): Point => {
    const box = frame!.getBoundingClientRect();
    const scale = frame!.width / box.width;
    return { x: (event.clientX - box.left) * scale, y: (event.clientY - box.top) * scale };
  };
  const take = async () => {
    if (!frame) return;
    const file = await pngOf(frame, part, 'Grabbed.png');
    onClose();
    onTake(file);
  };
  const shown = frame && part && part.width >= LEAST_PX && part.height >= LEAST_PX ? part : undefined;
  const percent = (value: number, of: number) => `${(value / of) * 100}%`;
  return (
    <Sheet
      about={
        frame ? 'Draw the part that is wanted, or take all of it.' : 'Choose a screen, a window or a tab.'
      }
      title="Grab from the screen"
      onClose={onClose}
      className="w-auto max-w-[94vw] px-5 py-4"
      onKeyDown={(event) => event.key === 'Enter' && void take()}
    >
      {trouble && (
        <p role="alert" className="text-vermilion">
          {trouble}
        </p>
      )}
      <div
        ref={holder}
        data-testid="frozen"
        className="relative mt-3 w-fit cursor-crosshair touch-none select-none bg-[#797979]"
        onPointerDown={(event) => {
          if (!frame) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          start.current = pointAt(event);
          setPart(undefined);
        }}
        onPointerMove={(event) => {
          if (frame && start.current) setPart(between(start.current, pointAt(event), frame));
        }}
        onPointerUp={() => {
          start.current = undefined;
        }}
      >
        {frame && shown && (
          <div
            className="grab-part pointer-events-none absolute"
            style={{
              left: percent(shown.x, frame.width),
              top: percent(shown.y, frame.height),
              width: percent(shown.width, frame.width),
              height: percent(shown.height, frame.height),
            }}
          />
        )}
      </div>
      <footer className="mt-3 flex items-center gap-4">
        <span className="figures text-muted">
          {frame && `${(shown ?? frame).width} × ${(shown ?? frame).height} px`}
        </span>
        <button
          type="button"
          className="mr-auto text-[13px] text-muted underline underline-offset-3"
          onClick={() => {
            stopSharing();
            onClose();
          }}
        >
          Stop sharing
        </button>
        <Dialog.Close className="px-2 py-1 text-muted underline underline-offset-3">Leave</Dialog.Close>
        <button
          type="button"
          className="border border-ink bg-ink px-3 py-1 text-paper disabled:opacity-40"
          disabled={!frame}
          onClick={() => void take()}
        >
          Take it
        </button>
      </footer>
    </Sheet>
  );
}
