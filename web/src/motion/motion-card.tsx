import { isPlacement, type Placement } from '@miradero/core/items';
import { SPEEDS, timecodeOf } from '@miradero/core/motion';
import { useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { TakingLine } from '../live/index.ts';
import { FoldingCard, NumberField } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { MOST_NEIGHBOURS, playersOf } from './players.ts';
import { takeStills } from './stills.ts';
import { useFrame } from './use-frame.ts';

const speedWords = (speed: number): string => (speed < 1 ? `1/${1 / speed}` : String(speed));
const WORD = 'underline underline-offset-3 disabled:text-muted disabled:no-underline';

/** A row of figures, of which one is chosen. */
function Figures({
  title,
  values,
  chosen,
  wordsOf,
  onChoose,
}: {
  title: string;
  values: readonly number[];
  chosen: number;
  wordsOf: (value: number) => string;
  onChoose: (value: number) => void;
}) {
  return (
    <fieldset className="mt-2 flex flex-wrap items-baseline gap-0.5">
      <legend className="mb-1 text-muted">{title}</legend>
      {values.map((value) => (
        <button
          key={value}
          type="button"
          className="figures min-w-7 border border-line px-1 py-0.5 text-[12px] pointer-coarse:min-w-9 pointer-coarse:py-1.5 aria-pressed:bg-ink aria-pressed:text-paper"
          aria-pressed={chosen === value}
          onClick={() => onChoose(value)}
        >
          {wordsOf(value)}
        </button>
      ))}
    </fieldset>
  );
}

/** Where it is: its frame, its time, a line to drag along, and what of it is repeated. */
function Position({ desk, item }: { desk: Desk; item: Placement }) {
  const players = playersOf(desk);
  const frame = useFrame(desk, item);
  const times = players.pictureOf(item)?.times;
  const playing = players.playingOf(item);
  if (!times || !playing || frame === undefined)
    return <p className="text-muted">Its frames are being read.</p>;
  const last = times.startsUs.length - 1;
  const { from, to } = playing;
  const repeat = (part: { from?: number; to?: number }) => players.set(item, { playing: part });
  return (
    <>
      <p className="flex items-baseline justify-between" data-testid="frame-figure">
        <span>
          frame <span className="figures">{frame + 1}</span> of <span className="figures">{last + 1}</span>
        </span>
        <span className="figures">{timecodeOf(times.startsUs[frame]!)}</span>
      </p>
      <input
        type="range"
        aria-label="Frame"
        className="mt-1 w-full accent-verdigris"
        {...{ min: 0, max: last, step: 1, value: frame }}
        onChange={(event) => players.show(item, Number(event.target.value))}
      />
      <p className="mt-1 flex flex-wrap gap-x-3">
        <button
          type="button"
          className={WORD}
          onClick={() => repeat({ from: frame, to: Math.max(frame, to) })}
        >
          from here
        </button>
        <button
          type="button"
          className={WORD}
          onClick={() => repeat({ from: Math.min(frame, from), to: frame })}
        >
          to here
        </button>
        <button
          type="button"
          className={WORD}
          disabled={from === 0 && to === last}
          onClick={() => repeat({ from: 0, to: last })}
        >
          all of it
        </button>
        {(from > 0 || to < last) && (
          <span className="figures ml-auto text-muted">
            {from + 1}–{to + 1}
          </span>
        )}
      </p>
    </>
  );
}

/** Where it is, in one line. */
function InShort({ desk, item }: { desk: Desk; item: Placement }) {
  const frame = useFrame(desk, item);
  const times = playersOf(desk).pictureOf(item)?.times;
  if (!times || frame === undefined) return 'frame by frame';
  return (
    <span className="figures">
      {frame + 1} of {times.startsUs.length} · {timecodeOf(times.startsUs[frame]!)}
    </span>
  );
}

/** How what is selected moves. */
export function MotionCard({ desk }: { desk: Desk }) {
  const players = playersOf(desk);
  useStore(players.store);
  const [every, setEvery] = useState(10);
  const item = desk.selected.find((one): one is Placement => isPlacement(one) && players.isMoving(one));
  if (!item) return null;
  const { isRunning = false, neighbours = 0 } = players.movingOf(item.id) ?? {};
  const picture = players.pictureOf(item);
  const playing = players.playingOf(item);
  return (
    <FoldingCard
      label="Frame by frame"
      testId="motion-card"
      isBusy={!picture?.times && !picture?.why}
      inShort={<InShort desk={desk} item={item} />}
      onDone={() => desk.leaveTool()}
    >
      {picture?.why && <p role="alert">{picture.why}</p>}
      {(picture?.times || !picture?.why) && (
        <>
          <Position desk={desk} item={item} />
          <p className="mt-2 flex items-center gap-3 border-line border-t pt-2">
            <button type="button" className={WORD} onClick={() => players.toggle([item])}>
              {isRunning ? 'stop' : 'play'}
            </button>
            <button
              type="button"
              className="choice"
              aria-pressed={playing?.isToAndFro ?? false}
              onClick={() => players.set(item, { playing: { isToAndFro: !playing?.isToAndFro } })}
            >
              to and fro
            </button>
            <button
              type="button"
              className={`${WORD} ml-auto`}
              aria-label="One frame back"
              onClick={() => players.step(item, -1)}
            >
              back
            </button>
            <button
              type="button"
              className={WORD}
              aria-label="One frame on"
              onClick={() => players.step(item, 1)}
            >
              on
            </button>
          </p>
          <Figures
            title="speed"
            values={SPEEDS}
            chosen={playing?.speed ?? 1}
            wordsOf={speedWords}
            onChoose={(speed) => players.set(item, { playing: { speed } })}
          />
          <fieldset className="mt-2 flex flex-wrap items-baseline gap-x-3">
            <legend className="text-muted">stills</legend>
            <button type="button" className={WORD} onClick={() => void takeStills(desk, item, 'this')}>
              this frame
            </button>
            <button type="button" className={WORD} onClick={() => void takeStills(desk, item, { every })}>
              each
            </button>
            <span className="figures">
              <NumberField
                label="Every so many frames"
                value={every}
                unit=" frames"
                {...{ least: 1, most: 1_000 }}
                onRefuse={(words) => desk.say(words)}
                onChange={(next) => setEvery(Math.round(next))}
              />
            </span>
            <button type="button" className={WORD} onClick={() => void takeStills(desk, item, 'cuts')}>
              at cuts
            </button>
            <button type="button" className={WORD} onClick={() => void takeStills(desk, item, 'poses')}>
              key poses
            </button>
          </fieldset>
          <TakingLine desk={desk} />
          <Figures
            title="neighbours over it, while it stands"
            values={Array.from({ length: MOST_NEIGHBOURS + 1 }, (_, count) => count)}
            chosen={neighbours}
            wordsOf={String}
            onChoose={(count) => players.set(item, { neighbours: count })}
          />
        </>
      )}
    </FoldingCard>
  );
}
