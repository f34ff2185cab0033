import {
  type ErrorGroup,
  errorOfGuess,
  errorsByHue,
  errorsByValue,
  hexOfRgb,
  labToRgb,
  lchToLab,
} from '@miradero/core/colour';
import type { Guess } from '@miradero/core/schema';
import { useQuery } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { Bar, BarChart, CartesianGrid, Cell, Line, LineChart, ReferenceLine, XAxis, YAxis } from 'recharts';
import { Sheet } from '../shell/index.ts';
import { ask } from '../sync/index.ts';

const SIZE = { width: 520, height: 170 } as const;
const AXIS = { stroke: 'var(--muted)', fontSize: 12 } as const;
/** Guesses whose mean makes a point of the line over time. */
const TOGETHER = 5;

/** What was guessed so far: how far off over time, and where one sees wrong, by hue and by value. */
export function GuessesSheet({ onClose }: { onClose: () => void }) {
  const { data, isError } = useQuery({
    queryKey: ['guesses'],
    staleTime: 0,
    queryFn: () => ask('GET /api/guesses'),
  });
  return (
    <Sheet onClose={onClose} className="max-h-[86vh] w-[min(600px,94vw)] overflow-auto px-6 py-5">
      <div className="mb-2 flex items-baseline justify-between">
        <Dialog.Title className="font-serif text-[22px]">Your guesses</Dialog.Title>
        <Dialog.Close className="text-[13px] text-muted underline underline-offset-3">close</Dialog.Close>
      </div>
      {isError && <p>The guesses do not come: the server is away.</p>}
      {data && data.guesses.length === 0 && (
        <p>Nothing was guessed yet: read a colour, choose “guess first”, and press a point.</p>
      )}
      {data && data.guesses.length > 0 && <Charts guesses={data.guesses} />}
    </Sheet>
  );
}

function Charts({ guesses }: { guesses: readonly Guess[] }) {
  const errors = guesses.map(({ truth, guess }) => errorOfGuess(truth, guess));
  const points = errors.map(({ deltaE }, index) => {
    const last = errors.slice(Math.max(0, index + 1 - TOGETHER), index + 1);
    return { number: index + 1, deltaE, mean: last.reduce((sum, one) => sum + one.deltaE, 0) / last.length };
  });
  const latest = points.at(-1)!;
  return (
    <>
      <p className="text-[14px]">
        <span className="figures text-[26px]">{latest.mean.toFixed(1)}</span> ΔE off on the average of the
        last {Math.min(TOGETHER, errors.length)}, of {errors.length} in all.
      </p>
      <Figure title="How far off, one after the other">
        <LineChart {...SIZE} data={points} margin={{ top: 8, right: 8, bottom: 0, left: -20 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis dataKey="number" tick={AXIS} stroke="var(--line)" />
          <YAxis tick={AXIS} stroke="var(--line)" />
          <Line
            dataKey="deltaE"
            stroke="var(--line)"
            dot={{ r: 2, fill: 'var(--muted)' }}
            isAnimationActive={false}
          />
          <Line
            dataKey="mean"
            stroke="var(--color-verdigris)"
            strokeWidth={2}
            dot={false}
            isAnimationActive={false}
          />
        </LineChart>
      </Figure>
      <Figure title="By hue: how far off">
        <Groups groups={errorsByHue(errors)} of="deltaE" name={(at) => `${at}°`} fill={(at) => hueAt(at)} />
      </Figure>
      <Figure title="By value: seen too light above, too dark below, value steps">
        <Groups
          groups={errorsByValue(errors)}
          of="value"
          name={(at) => String(at)}
          fill={() => 'var(--color-verdigris)'}
        />
      </Figure>
    </>
  );
}

/** A colour of the hue, to know it by. */
const hueAt = (hueDeg: number): string => hexOfRgb(labToRgb(lchToLab({ l: 62, c: 38, h: hueDeg })));

function Groups({
  groups,
  of,
  name,
  fill,
}: {
  groups: readonly ErrorGroup[];
  of: 'deltaE' | 'value';
  name: (at: number) => string;
  fill: (at: number) => string;
}) {
  const bars = groups.map((group) => ({ ...group, name: name(group.at) }));
  return (
    <BarChart {...SIZE} data={bars} margin={{ top: 8, right: 8, bottom: 0, left: -20 }}>
      <CartesianGrid stroke="var(--line)" vertical={false} />
      <XAxis dataKey="name" tick={AXIS} stroke="var(--line)" />
      <YAxis tick={AXIS} stroke="var(--line)" />
      <ReferenceLine y={0} stroke="var(--muted)" />
      <Bar dataKey={of} isAnimationActive={false} maxBarSize={44}>
        {bars.map(({ at }) => (
          <Cell key={at} fill={fill(at)} />
        ))}
      </Bar>
    </BarChart>
  );
}

function Figure({ title, children }: { title: string; children: ReactNode }) {
  return (
    <figure className="mt-4 overflow-x-auto">
      <figcaption className="text-[13px] text-muted">{title}</figcaption>
      {children}
    </figure>
  );
}
