import { munsellValueToGrey8, type ValueStatistics } from '@miradero/core/colour';
import type { KeyboardEvent, PointerEvent } from 'react';

const SIZE = { width: 236, height: 84, ramp: 8 } as const;
const NEAREST = 0.1;
const STEP = 0.1;

const acrossOf = (value: number): number => (value / 10) * SIZE.width;
const NOBODY = () => {};

/** How values are distributed, darkest left, with the borders between the steps to be dragged. */
export function ValuesHistogram({
  distribution,
  borders = [],
  onBorders = NOBODY,
}: {
  distribution: Float32Array;
  borders?: readonly number[];
  onBorders?: (borders: readonly number[]) => void;
}) {
  const most = Math.max(...distribution, 1e-6);
  const step = SIZE.width / distribution.length;
  const top = SIZE.height - SIZE.ramp;
  const points = [...distribution].map(
    (share, bin) => `${(bin * step).toFixed(1)},${(top * (1 - Math.sqrt(share / most))).toFixed(1)}`,
  );
  const move = (index: number, value: number) => {
    const low = (borders[index - 1] ?? 0) + NEAREST;
    const high = (borders[index + 1] ?? 10) - NEAREST;
    const to = Math.round(Math.min(high, Math.max(low, value)) * 100) / 100;
    if (to !== borders[index]) onBorders(borders.map((border, at) => (at === index ? to : border)));
  };
  const drag = (index: number) => (event: PointerEvent<SVGElement>) => {
    if (event.buttons !== 1) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
    move(index, ((event.clientX - box.left) / box.width) * 10);
  };
  const press = (index: number) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: -STEP, ArrowDown: -STEP, ArrowRight: STEP, ArrowUp: STEP }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    move(index, borders[index]! + by * (event.shiftKey ? 5 : 1));
  };
  return (
    <figure aria-label="How values are distributed, darkest left">
      <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} className="mt-1.5 w-full touch-none select-none">
        <title>Values</title>
        <rect width={SIZE.width} height={top} fill="var(--paper)" />
        <polygon points={`0,${top} ${points.join(' ')} ${SIZE.width},${top}`} fill="var(--muted)" />
        {Array.from({ length: 11 }, (_, value) => {
          const grey = munsellValueToGrey8(value);
          return (
            <rect
              key={value}
              {...{ x: (value * SIZE.width) / 11, y: top, width: SIZE.width / 11 + 0.5, height: SIZE.ramp }}
              fill={`rgb(${grey} ${grey} ${grey})`}
            />
          );
        })}
        {borders.map((border, index) => (
          <g key={`${index} of ${borders.length}`}>
            <line
              {...{ x1: acrossOf(border), x2: acrossOf(border), y1: 0, y2: SIZE.height }}
              stroke="var(--verdigris)"
              strokeWidth={1.5}
            />
            <rect
              role="slider"
              tabIndex={0}
              aria-label={`Border ${index + 1} of ${borders.length}, Munsell value`}
              aria-valuemin={0}
              aria-valuemax={10}
              aria-valuenow={border}
              {...{ x: acrossOf(border) - 7, y: 0, width: 14, height: SIZE.height }}
              fill="transparent"
              className="cursor-ew-resize focus-visible:outline-2 focus-visible:outline-verdigris"
              onPointerDown={drag(index)}
              onPointerMove={drag(index)}
              onKeyDown={press(index)}
            />
          </g>
        ))}
      </svg>
    </figure>
  );
}

const KEYS = { high: 'high key', middle: 'middle key', low: 'low key' } as const;

/** Mean, range and key in one line each. */
export function ValueFigures({ statistics }: { statistics: ValueStatistics | undefined }) {
  if (!statistics) return null;
  const { mean, low, high, key } = statistics;
  return (
    <dl className="mt-1 text-[12px]">
      {[
        [`mean value, ${KEYS[key]}`, mean.toFixed(1)],
        ['from, to', `${low.toFixed(1)}–${high.toFixed(1)}`],
        ['range, value steps', (high - low).toFixed(1)],
      ].map(([term, figure]) => (
        <div key={term} className="flex justify-between gap-2">
          <dt className="text-muted">{term}</dt>
          <dd className="figures">{figure}</dd>
        </div>
      ))}
    </dl>
  );
}
