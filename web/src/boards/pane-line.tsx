import type { PointerEvent } from 'react';

/** A press of an arrow moves a line by this share of the room. */
const STEP = 0.04;

/** The line between two boards that stand together: dragged, or moved by arrows. @param at - share of the room */
export function PaneLine({
  at,
  isStacked,
  onMove,
}: {
  at: number;
  isStacked: boolean;
  onMove: (at: number) => void;
}) {
  const drag = (event: PointerEvent<HTMLElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const room = event.currentTarget.parentElement!.getBoundingClientRect();
    onMove(isStacked ? (event.clientY - room.top) / room.height : (event.clientX - room.left) / room.width);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a line that is dragged is no rule
    <div
      role="separator"
      tabIndex={0}
      aria-label="Between two boards"
      aria-orientation={isStacked ? 'horizontal' : 'vertical'}
      aria-valuenow={Math.round(at * 100)}
      className={`relative z-10 shrink-0 touch-none bg-line hover:bg-verdigris focus-visible:bg-verdigris ${isStacked ? '-my-1 h-2 cursor-row-resize bg-clip-content py-[3px]' : '-mx-1 w-2 cursor-col-resize bg-clip-content px-[3px]'}`}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={drag}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        onMove(at + by * STEP);
      }}
    />
  );
}
