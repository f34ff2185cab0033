import {
  coarserDistribution,
  munsellValueToGrey8,
  type ValueStatistics,
  valueStatistics,
} from '@miradero/core/colour';
import type { Desk, Tool } from '../desk/index.ts';
import { ToolCard } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { useCardOnLeft } from '../tools/index.ts';
import type { ComparedValues, Comparing } from './study.ts';

const SIZE = { width: 236, height: 260, rail: 22 } as const;
/** Steps that are drawn. */
const BINS = 50;
const HALF = (SIZE.width - SIZE.rail) / 2;

/** How one picture's values lie beside the rail, its lightest above. */
function silhouette(distribution: Float32Array, most: number, side: 'left' | 'right'): string {
  const step = SIZE.height / distribution.length;
  const foot = side === 'left' ? HALF : HALF + SIZE.rail;
  const points = [...distribution].map((share, bin) => {
    const out = Math.sqrt(share / most) * (HALF - 4) * (side === 'left' ? -1 : 1);
    return `${(foot + out).toFixed(1)},${(SIZE.height - (bin + 0.5) * step).toFixed(1)}`;
  });
  return `${foot},${SIZE.height} ${points.join(' ')} ${foot},0`;
}

/** Values of two pictures on one scale, with what differs in figures. */
export function CompareCard({ desk, view }: { desk: Desk; view: StageView }) {
  const isLeft = useCardOnLeft(desk, view);
  const tool = desk.tool as Tool & Comparing;
  const { pictures } = useStore(tool.store);
  const [one, two] = pictures;
  const seen = pictures.map(({ distribution }) => distribution && coarserDistribution(distribution, BINS));
  const most = Math.max(1e-6, ...seen.flatMap((shares) => [...(shares ?? [])]));
  const statistics = pictures.map(({ distribution }) => distribution && valueStatistics(distribution));
  return (
    <ToolCard
      label="Values side by side"
      isLeft={isLeft}
      testId="compare-card"
      isExact={pictures.every((picture) => picture.isExact)}
    >
      <p className="flex justify-between gap-3 pb-1">
        <bdi className="min-w-0 truncate">{one.name}</bdi>
        <bdi className="min-w-0 truncate text-right">{two.name}</bdi>
      </p>
      {pictures.flatMap(({ name, trouble }) => (trouble ? [<p key={name}>{trouble}</p>] : []))}
      <svg
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        className="w-full"
        role="img"
        aria-label="Values of both, lightest above"
      >
        {Array.from({ length: 11 }, (_, step) => {
          const value = 10 - step;
          const grey = munsellValueToGrey8(value);
          const high = SIZE.height / 11;
          return (
            <rect
              key={value}
              {...{ x: HALF, y: step * high, width: SIZE.rail, height: high + 0.5 }}
              fill={`rgb(${grey} ${grey} ${grey})`}
            />
          );
        })}
        {seen.map((distribution, index) =>
          distribution ? (
            <polygon
              key={index === 0 ? 'left' : 'right'}
              points={silhouette(distribution, most, index === 0 ? 'left' : 'right')}
              fill="var(--muted)"
            />
          ) : null,
        )}
        {statistics.map((found, index) =>
          found ? (
            <line
              key={index === 0 ? 'left mean' : 'right mean'}
              {...(index === 0 ? { x1: 0, x2: HALF } : { x1: HALF + SIZE.rail, x2: SIZE.width })}
              {...{ y1: SIZE.height * (1 - found.mean / 10), y2: SIZE.height * (1 - found.mean / 10) }}
              stroke="var(--verdigris)"
              strokeWidth={1.5}
            />
          ) : null,
        )}
      </svg>
      <Figures {...{ pictures, statistics }} />
      <p className="mt-1.5 border-line border-t pt-1.5 text-right">
        <button type="button" className="underline underline-offset-3" onClick={() => desk.leaveTool()}>
          done
        </button>
      </p>
    </ToolCard>
  );
}

const ROWS: readonly (readonly [string, (of: ValueStatistics) => string])[] = [
  ['mean value', ({ mean }) => mean.toFixed(1)],
  ['from, to', ({ low, high }) => `${low.toFixed(1)}–${high.toFixed(1)}`],
  ['range', ({ low, high }) => (high - low).toFixed(1)],
  ['key', ({ key }) => key],
];

function Figures({
  pictures,
  statistics,
}: {
  pictures: readonly ComparedValues[];
  statistics: readonly (ValueStatistics | undefined)[];
}) {
  const [one, two] = statistics;
  const isExact = pictures.every((picture) => picture.isExact);
  return (
    <table className="mt-1 w-full text-[12px]">
      <tbody>
        {ROWS.map(([term, figure]) => (
          <tr key={term}>
            <td className="figures w-[34%]">{one && figure(one)}</td>
            <th scope="row" className="text-center font-normal text-muted">
              {term}
            </th>
            <td className="figures w-[34%] text-right">{two && figure(two)}</td>
          </tr>
        ))}
      </tbody>
      {one && two && (
        <caption className="caption-bottom pt-1 text-left">
          {isExact ? '' : 'About: '}
          {Math.abs(two.mean - one.mean) < 0.1
            ? 'Both are as light on the whole.'
            : `The right one is ${Math.abs(two.mean - one.mean).toFixed(1)} steps ${two.mean > one.mean ? 'lighter' : 'darker'} on the whole.`}
        </caption>
      )}
    </table>
  );
}
