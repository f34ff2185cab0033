import { Popover } from 'radix-ui';
import { type ReactNode, useLayoutEffect, useRef, useState } from 'react';

export interface Fitting {
  readonly id: string;
  readonly node: ReactNode;
}

const widthOf = (element: HTMLElement, gap: number): number => element.getBoundingClientRect().width + gap;

/** Shows as many children of a row as fit, the last one (which opens the rest) only where some do not. @returns how many fit */
function fit(row: HTMLElement, kept: number, isMoreNeeded: boolean): number {
  const all = [...row.children] as HTMLElement[];
  const more = all.pop()!;
  for (const one of [...all, more]) one.hidden = false;
  const gap = Number.parseFloat(getComputedStyle(row).columnGap) || 0;
  const widths = all.map((one) => widthOf(one, gap));
  const room = row.clientWidth + gap;
  const whole = widths.reduce((sum, one) => sum + one, 0);
  if (isMoreNeeded ? whole <= room - widthOf(more, gap) : whole <= room + 0.5) {
    more.hidden = !isMoreNeeded;
    return all.length;
  }
  // The one that must be seen takes its room first.
  let left = room - widthOf(more, gap) - (widths[kept] ?? 0);
  let count = 0;
  for (const [index, width] of widths.entries()) {
    if (index === kept) {
      count += 1;
      continue;
    }
    left -= width;
    if (left < 0) break;
    count += 1;
  }
  for (const [index, one] of all.entries()) one.hidden = index >= count && index !== kept;
  return count;
}

/**
 * Words side by side, none of them cut: what does not fit stands behind a last word that opens it.
 * Widths are taken anew whenever it is rendered and whenever its own width alters.
 */
export function FittingRow({
  items,
  kept,
  moreWords,
  label,
  className = '',
  also = [],
  side = 'top',
}: {
  items: readonly Fitting[];
  /** Always shown. */
  kept?: string;
  /** The last word; told how many it opens. */
  moreWords: (count: number) => string;
  /** What the list of the rest is called. */
  label: string;
  className?: string;
  /** Stand in the list of the rest as well, and have no place in the row. */
  also?: readonly Fitting[];
  side?: 'top' | 'bottom';
}) {
  const row = useRef<HTMLDivElement>(null);
  const [count, setCount] = useState(items.length);
  const keptAt = items.findIndex(({ id }) => id === kept);
  const isMoreNeeded = also.length > 0;
  const [isOpen, setOpen] = useState(false);
  /** What had the keyboard before the list was opened. */
  const before = useRef<Element | null>(null);
  useLayoutEffect(() => setCount(fit(row.current!, keptAt, isMoreNeeded)));
  useLayoutEffect(() => {
    const watcher = new ResizeObserver(() => setCount(fit(row.current!, keptAt, isMoreNeeded)));
    watcher.observe(row.current!);
    // Widths are others once the fonts are there.
    void document.fonts?.ready.then(() => row.current && setCount(fit(row.current, keptAt, isMoreNeeded)));
    return () => watcher.disconnect();
  }, [keptAt, isMoreNeeded]);
  const rest = [...items.filter((_, index) => index >= count && index !== keptAt), ...also];
  return (
    <div ref={row} className={`flex min-w-0 flex-1 items-center overflow-hidden ${className}`}>
      {items.map(({ id, node }) => (
        <span key={id} className={`flex min-w-0 items-center ${id === kept ? 'shrink' : 'shrink-0'}`}>
          {node}
        </span>
      ))}
      <span className="shrink-0" data-more>
        <Popover.Root
          open={isOpen}
          onOpenChange={(open) => {
            if (open) before.current = document.activeElement;
            setOpen(open);
          }}
        >
          <Popover.Trigger
            // What had the keyboard keeps it.
            onPointerDown={(event) => event.preventDefault()}
            className="word whitespace-nowrap px-1.5 py-1 underline decoration-1 underline-offset-3 hover:bg-raised"
          >
            {moreWords(rest.length)}
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              aria-label={label}
              side={side}
              align="end"
              sideOffset={8}
              collisionPadding={8}
              onCloseAutoFocus={(event) => {
                if (!(before.current instanceof HTMLElement) || !before.current.isConnected) return;
                event.preventDefault();
                before.current.focus({ preventScroll: true });
              }}
              className="z-40 flex max-h-[70vh] min-w-40 flex-col items-start overflow-y-auto border border-line bg-raised p-2 text-[14px] text-ink shadow-[0_8px_28px_rgb(0_0_0/0.18)]"
              // What is chosen is done, and the list with it.
              onClick={(event) => (event.target as HTMLElement).closest('button, a') && setOpen(false)}
            >
              {rest.map(({ id, node }) => (
                <span key={id} className="flex w-full items-center">
                  {node}
                </span>
              ))}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </span>
    </div>
  );
}
