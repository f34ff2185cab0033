import {
  containsPoint,
  type Point,
  type Rectangle,
  rectangleBetween,
  unionOf,
} from '@miradero/core/geometry';
import { keptOnScreen } from '@miradero/core/perch';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { type Desktop, popups } from './popups.ts';

/** Less than this holds no window, CSS pixels of the screen. */
const LEAST_PX = 160;

const SIDES = {
  'left half': ({ x, y, width, height }: Rectangle) => ({ x, y, width: Math.floor(width / 2), height }),
  'right half': ({ x, y, width, height }: Rectangle) => ({
    ...{ x: x + Math.ceil(width / 2), y },
    ...{ width: Math.floor(width / 2), height },
  }),
} as const;

/** Marks the part of the screen in which further windows are arranged: by a drag over a small picture of the screens. */
export function PartCard({
  window,
  edge,
  onMark,
  onClose,
}: {
  window: Window;
  edge: 'top' | 'bottom';
  /** A part was marked, CSS pixels of the desktop. */
  onMark: (part: Rectangle) => void;
  onClose: () => void;
}) {
  const [desktop, setDesktop] = useState<Desktop>();
  useEffect(() => {
    let isHere = true;
    void popups.desktop(window).then((known) => isHere && setDesktop(known));
    return () => {
      isHere = false;
    };
  }, [window]);
  if (!desktop) return null;
  const mark = (wanted: Rectangle) => {
    const { place } = keptOnScreen(wanted, desktop.screens);
    setDesktop({ ...desktop, part: place });
    onMark(place);
  };
  const { screens, here, part } = desktop;
  const middle = { x: here.x + here.width / 2, y: here.y + here.height / 2 };
  const { available } = screens.find((one) => containsPoint(one.available, middle)) ?? screens[0]!;
  return (
    <section
      aria-label="Where windows belong"
      className={`absolute inset-x-0 z-10 flex max-h-[calc(100%-28px)] flex-col gap-1.5 overflow-auto bg-raised px-2.5 py-2 text-[13px] text-ink pointer-coarse:max-h-[calc(100%-44px)] ${edge === 'top' ? 'top-7 border-line border-b pointer-coarse:top-11' : 'bottom-7 border-line border-t pointer-coarse:bottom-11'}`}
    >
      <p>
        Drag over the part where further windows are arranged.
        {part && (
          <span className="text-muted">
            {' '}
            Now {Math.round(part.width)} × {Math.round(part.height)} px.
          </span>
        )}
      </p>
      <ScreensMap desktop={desktop} onMark={mark} />
      <p className="flex flex-wrap gap-x-3 gap-y-1">
        <button type="button" className="underline" onClick={() => mark(here)}>
          where this window is
        </button>
        {Object.entries(SIDES).map(([words, sideOf]) => (
          <button key={words} type="button" className="underline" onClick={() => mark(sideOf(available))}>
            {words}
          </button>
        ))}
        <button type="button" className="ml-auto text-muted underline" onClick={onClose}>
          done
        </button>
      </p>
    </section>
  );
}

/** The screens as they stand beside each other, small, with the windows there are. */
function ScreensMap({ desktop, onMark }: { desktop: Desktop; onMark: (part: Rectangle) => void }) {
  const { screens, windows, here, part } = desktop;
  const svg = useRef<SVGSVGElement>(null);
  const [drawn, setDrawn] = useState<{ readonly from: Point; readonly to: Point }>();
  const all = unionOf(screens.map(({ available }) => available))!;
  const onDesktop = (event: PointerEvent): Point => {
    const { left, top, width, height } = svg.current!.getBoundingClientRect();
    const scale = Math.min(width / all.width, height / all.height);
    return {
      x: Math.round(all.x + all.width / 2 + (event.clientX - left - width / 2) / scale),
      y: Math.round(all.y + all.height / 2 + (event.clientY - top - height / 2) / scale),
    };
  };
  const band = drawn && rectangleBetween(drawn.from, drawn.to);
  const shown = band ?? part;
  return (
    <svg
      ref={svg}
      role="img"
      aria-label={`Screens: ${screens.length}`}
      viewBox={[all.x, all.y, all.width, all.height].join(' ')}
      className="h-40 max-h-[50vh] min-h-16 w-full cursor-crosshair touch-none select-none"
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const from = onDesktop(event);
        setDrawn({ from, to: from });
      }}
      onPointerMove={(event) => {
        const to = onDesktop(event);
        setDrawn((now) => now && { ...now, to });
      }}
      onPointerUp={() => {
        setDrawn(undefined);
        if (band && band.width >= LEAST_PX && band.height >= LEAST_PX) onMark(band);
      }}
      onPointerCancel={() => setDrawn(undefined)}
    >
      {screens.map(({ available }) => (
        <rect
          key={`${available.x} ${available.y}`}
          {...available}
          className="fill-paper stroke-line"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {[here, ...windows].map((one) => (
        <rect
          key={[one.x, one.y, one.width, one.height].join(' ')}
          {...one}
          className="fill-none stroke-muted"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {shown && (
        <rect
          {...shown}
          className="fill-verdigris/20 stroke-2 stroke-verdigris"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </svg>
  );
}
