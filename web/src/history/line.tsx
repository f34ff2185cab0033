import type { HistoryLine } from '@miradero/core/history';
import type { NamedState } from '@miradero/core/schema';
import { type KeyboardEvent, type PointerEvent, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { placeLabels } from './labels.ts';
import { dayWords } from './when.ts';

/** Width of an element, CSS pixels. */
function useWidth() {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = ref.current!;
    const measure = () => setWidth(element.clientWidth);
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    measure();
    return () => observer.disconnect();
  }, []);
  return { ref, width };
}

/** Names, and the days on which stretches began, as far as there is room. */
function Labels({
  line,
  named,
  width,
  onShow,
}: {
  line: HistoryLine;
  named: readonly NamedState[];
  width: number;
  onShow: (revision: number) => void;
}) {
  const placed = useMemo(() => {
    const days = line.places.map(({ stretch, start }) => ({
      key: `day ${stretch.from}`,
      ...{ text: dayWords(new Date(stretch.begunAt)), x: start * width, isName: false },
    }));
    const isFirstOfDay = (_: unknown, index: number) =>
      index === 0 || days[index]!.text !== days[index - 1]!.text;
    const names = named.map(({ id, name, revision }) => ({
      ...{ key: id, text: name, x: line.positionOf(revision) * width, isName: true },
    }));
    return placeLabels([...names, ...days.filter(isFirstOfDay)], width);
  }, [line, named, width]);
  return (
    <div className="relative h-[18px] text-[12px] leading-[18px]">
      {placed.map(({ key, text, left, width: room, isName }) =>
        isName ? (
          <button
            key={key}
            type="button"
            title={text}
            className="absolute truncate text-left font-serif text-[13px] italic hover:underline"
            style={{ left, maxWidth: room }}
            onClick={() => onShow(named.find(({ id }) => id === key)!.revision)}
          >
            <bdi>{text}</bdi>
          </button>
        ) : (
          <span key={key} className="absolute truncate text-muted" style={{ left, maxWidth: room }}>
            {text}
          </span>
        ),
      )}
    </div>
  );
}

/** By how much a key goes along the line: a change, or to the end of the stretch before or after. */
function keyed(
  { key, shiftKey }: KeyboardEvent,
  line: HistoryLine,
  at: number,
  named: readonly NamedState[],
): number | undefined {
  const stops = [
    0,
    ...line.places.map(({ stretch }) => stretch.to),
    ...named.map(({ revision }) => revision),
  ];
  const before = Math.max(0, ...stops.filter((stop) => stop < at));
  const after = Math.min(line.end, ...stops.filter((stop) => stop > at));
  if (key === 'Home') return 0;
  if (key === 'End') return line.end;
  if (key === 'PageUp' || (shiftKey && key === 'ArrowLeft')) return before;
  if (key === 'PageDown' || (shiftKey && key === 'ArrowRight')) return after;
  if (key === 'ArrowLeft' || key === 'ArrowDown') return Math.max(0, at - 1);
  if (key === 'ArrowRight' || key === 'ArrowUp') return Math.min(line.end, at + 1);
  return undefined;
}

/**
 * The line of a board's past: a drag along it shows the board as it was. Stretches of work are bars, broken where somebody
 * paused; names stand above.
 */
export function PastLine({
  line,
  named,
  at,
  words,
  onShow,
}: {
  line: HistoryLine;
  named: readonly NamedState[];
  /** Revision that is wanted. */
  at: number;
  /** What is there, for those who do not see it. */
  words: string;
  onShow: (revision: number) => void;
}) {
  const { ref, width } = useWidth();
  const showAt = (event: PointerEvent) => {
    const { left, width: wide } = ref.current!.getBoundingClientRect();
    onShow(line.revisionAt((event.clientX - left) / wide));
  };
  return (
    <div ref={ref} className="min-w-0 flex-1">
      <Labels {...{ line, named, width, onShow }} />
      <div
        role="slider"
        tabIndex={0}
        aria-label="The past of this board"
        aria-valuemin={0}
        aria-valuemax={line.end}
        aria-valuenow={at}
        aria-valuetext={words}
        data-testid="past-line"
        className="relative h-5 cursor-ew-resize touch-none max-md:h-10"
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          showAt(event);
        }}
        onPointerMove={(event) => {
          if (event.currentTarget.hasPointerCapture(event.pointerId)) showAt(event);
        }}
        onKeyDown={(event) => {
          const to = keyed(event, line, at, named);
          if (to === undefined) return;
          event.preventDefault();
          event.stopPropagation();
          onShow(to);
        }}
      >
        {line.places.map(({ stretch, start, end }) => (
          <span
            key={stretch.from}
            className={`absolute top-[7px] h-[6px] border-paper border-r max-md:top-[17px] ${stretch.by === null ? 'bg-muted/45' : 'bg-ochre'}`}
            style={{ left: `${start * 100}%`, width: `${(end - start) * 100}%` }}
          />
        ))}
        {named.map(({ id, revision }) => (
          <span
            key={id}
            className="absolute top-0 h-[7px] w-px bg-ink max-md:top-[10px]"
            style={{ left: `${line.positionOf(revision) * 100}%` }}
          />
        ))}
        <span
          className="absolute top-0 -ml-[5px] h-full w-[11px] border border-ink bg-raised"
          style={{ left: `${line.positionOf(at) * 100}%` }}
          aria-hidden
        >
          <span className="mx-auto block h-full w-px bg-ink" />
        </span>
      </div>
    </div>
  );
}
