import type { PanePath, PlacedDivider } from '@miradero/core/perch';
import type { PointerEvent as ReactPointerEvent } from 'react';

/** A press of an arrow moves a divider by this share of what it parts. */
const STEP = 0.05;

/** The line between two panes: dragged, or moved by arrows. */
export function Divider({
  divider,
  onMove,
}: {
  divider: PlacedDivider;
  onMove: (path: PanePath, share: number) => void;
}) {
  const { at, side, within, path } = divider;
  const isBeside = side === 'beside';
  const share = isBeside
    ? (at.x - within.x) / Math.max(1, within.width - at.width)
    : (at.y - within.y) / Math.max(1, within.height - at.height);
  const onPointerMove = (event: ReactPointerEvent<HTMLElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = event.currentTarget.parentElement!.getBoundingClientRect();
    const along = isBeside
      ? (event.clientX - box.left - within.x) / within.width
      : (event.clientY - box.top - within.y) / within.height;
    onMove(path, along);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a line that is dragged is no rule
    <div
      role="separator"
      tabIndex={0}
      aria-label="Between two panes"
      aria-orientation={isBeside ? 'vertical' : 'horizontal'}
      aria-valuenow={Math.round(share * 100)}
      className={`absolute bg-paper hover:bg-verdigris focus-visible:bg-verdigris ${isBeside ? 'cursor-col-resize' : 'cursor-row-resize'}`}
      style={{ left: at.x, top: at.y, width: at.width, height: at.height, touchAction: 'none' }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={onPointerMove}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        onMove(path, share + by * STEP);
      }}
    />
  );
}
