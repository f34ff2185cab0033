import { colourOfArea, writeColour } from '@miradero/core/colour';
import { type PointerEvent, useState } from 'react';
import { Sheet, stopSharing, useFrozenScreen } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { cssOf } from './colour-words.ts';
import { Loupe } from './loupe.tsx';
import type { Reading } from './readings.ts';
import { colourSettings } from './settings.ts';

const LOUPE_PX = 88;
const AROUND_PX = 6;

/** The colour about a point of a frozen screen, and the pixels around it. */
function readFrame(frame: HTMLCanvasElement, x: number, y: number, sizePx: number): Reading | undefined {
  const half = (sizePx - 1) / 2;
  const within = (at: number, length: number) => Math.min(length, Math.max(0, at));
  const square = (grow: number) => {
    const [left, top] = [within(x - half - grow, frame.width), within(y - half - grow, frame.height)];
    const right = within(x + half + grow + 1, frame.width);
    return { left, top, width: right - left, height: within(y + half + grow + 1, frame.height) - top };
  };
  const context = frame.getContext('2d')!;
  const pixelsOf = ({ left, top, width, height }: ReturnType<typeof square>) =>
    context.getImageData(left, top, width, height).data as Uint8ClampedArray<ArrayBuffer>;
  const area = square(0);
  if (area.width < 1 || area.height < 1) return undefined;
  const read = colourOfArea(pixelsOf(area));
  if (!read) return undefined;
  const around = square(AROUND_PX);
  const { width, height } = around;
  const seen = {
    ...{ ...read, data: pixelsOf(around), width, height, side: Math.max(frame.width, frame.height) },
    ...{ x: around.left, y: around.top, isExact: true },
    area: { ...area, x: area.left - around.left, y: area.top - around.top },
  };
  const { mean: colour, spread, count } = read;
  return { colour, spread, count, of: undefined, exactness: 'exact', seen };
}

/** A frozen picture of a screen, window or tab, of which colours are read. */
export function ScreenSheet({
  onRead,
  onClose,
}: {
  onRead: (reading: Reading) => void;
  onClose: () => void;
}) {
  const { holder, frame, trouble } = useFrozenScreen(true, 'block max-h-[62vh] max-w-full');
  const [live, setLive] = useState<Reading>();
  const { sizePx } = useStore(colourSettings.store);

  const readAt = (event: PointerEvent): Reading | undefined => {
    if (!frame) return undefined;
    const box = frame.getBoundingClientRect();
    const scale = frame.width / box.width;
    const [x, y] = [(event.clientX - box.left) * scale, (event.clientY - box.top) * scale];
    return readFrame(frame, Math.floor(x), Math.floor(y), sizePx);
  };
  return (
    <Sheet
      about={frame ? 'Press where it is read.' : 'Choose a screen, a window or a tab.'}
      title="Colour of a screen"
      onClose={onClose}
      className="w-auto max-w-[94vw] px-5 py-4"
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
        onPointerMove={(event) => setLive(readAt(event))}
        onPointerLeave={() => setLive(undefined)}
        onPointerUp={(event) => {
          const read = readAt(event);
          if (!read) return;
          onRead(read);
          onClose();
        }}
      />
      <footer className="mt-3 flex min-h-[88px] items-center gap-4">
        {live && (
          <>
            <Loupe seen={live.seen} sidePx={LOUPE_PX} />
            <span aria-hidden className="size-[88px]" style={{ background: cssOf(live.colour) }} />
            <span>
              <span className="block font-serif text-[17px]">{writeColour(live.colour, 'name')}</span>
              <span className="figures text-muted">{writeColour(live.colour, 'hex')}</span>
            </span>
          </>
        )}
        <span className="ml-auto flex gap-3">
          {frame && (
            <button
              type="button"
              className="underline underline-offset-3"
              onClick={() => {
                stopSharing();
                onClose();
              }}
            >
              stop sharing
            </button>
          )}
          <button type="button" className="underline underline-offset-3" onClick={onClose}>
            done
          </button>
        </span>
      </footer>
    </Sheet>
  );
}
