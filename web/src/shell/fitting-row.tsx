import { type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { PopoverCard } from './popover-card.tsx';

export interface Fitting {
  readonly id: string;
  readonly node: ReactNode;
  /** What stands for it in the list of the rest; the same where this is missing. */
  readonly inRest?: ReactNode;
  /** Left out where there is no room for all; it is not among the rest. */
  readonly isExtra?: boolean;
}

const widthOf = (element: HTMLElement, gap: number): number => element.getBoundingClientRect().width + gap;

interface Wanted {
  /** Place of the one that is always shown; -1 for none. */
  readonly kept: number;
  /** Places of those that are left out first. */
  readonly extra: ReadonlySet<number>;
  readonly isMoreNeeded: boolean;
}

/**
 * Shows as many children of a row as fit, the last one (which opens the rest) only where some do not.
 * @returns how many fit, those that are left out first not counted out
 */
function fit(row: HTMLElement, { kept, extra, isMoreNeeded }: Wanted): number {
  const all = [...row.children] as HTMLElement[];
  const more = all.pop()!;
  for (const one of [...all, more]) one.hidden = false;
  const gap = Number.parseFloat(getComputedStyle(row).columnGap) || 0;
  const widths = all.map((one) => widthOf(one, gap));
  const room = row.clientWidth + gap;
  const moreWidth = widthOf(more, gap);
  const sumOf = (wanted: (index: number) => boolean) =>
    widths.reduce((sum, one, index) => sum + (wanted(index) ? one : 0), 0);
  const isRoomFor = (sum: number) => sum <= room - (isMoreNeeded ? moreWidth : 0) + 0.5;
  more.hidden = !isMoreNeeded;
  if (isRoomFor(sumOf(() => true))) return all.length;
  for (const index of extra) all[index]!.hidden = true;
  if (isRoomFor(sumOf((index) => !extra.has(index)))) return all.length;
  more.hidden = false;
  // The one that must be seen takes its room first.
  let left = room - moreWidth - (widths[kept] ?? 0);
  let count = 0;
  for (const [index, width] of widths.entries()) {
    if (index !== kept && !extra.has(index)) left -= width;
    if (left < 0) break;
    count += 1;
  }
  for (const [index, one] of all.entries())
    one.hidden = extra.has(index) || (index >= count && index !== kept);
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
  const extras = items.flatMap(({ isExtra }, index) => (isExtra ? [index] : []));
  const wanted: Wanted = { kept: keptAt, extra: new Set(extras), isMoreNeeded };
  const latest = useRef(wanted);
  latest.current = wanted;
  useLayoutEffect(() => setCount(fit(row.current!, latest.current)));
  useLayoutEffect(() => {
    const watcher = new ResizeObserver(() => setCount(fit(row.current!, latest.current)));
    watcher.observe(row.current!);
    // Widths are others once the fonts are there.
    void document.fonts?.ready.then(() => row.current && setCount(fit(row.current, latest.current)));
    return () => watcher.disconnect();
  }, []);
  const rest = [
    ...items.filter(({ isExtra }, index) => index >= count && index !== keptAt && !isExtra),
    ...also,
  ];
  return (
    <div ref={row} className={`flex min-w-0 flex-1 items-center overflow-hidden ${className}`}>
      {items.map(({ id, node }) => (
        <span key={id} className={`flex min-w-0 items-center ${id === kept ? 'shrink' : 'shrink-0'}`}>
          {node}
        </span>
      ))}
      <span className="shrink-0" data-more>
        <PopoverCard
          word={moreWords(rest.length)}
          label={label}
          side={side}
          align="end"
          className="flex min-w-40 flex-col items-start p-2"
          closesOnPress
        >
          {rest.map(({ id, node, inRest }) => (
            <span key={id} className="flex w-full items-center">
              {inRest ?? node}
            </span>
          ))}
        </PopoverCard>
      </span>
    </div>
  );
}
