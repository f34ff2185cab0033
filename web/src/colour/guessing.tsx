import {
  colourOfGuess,
  directionWords,
  errorOfGuess,
  type GuessedColour,
  hexOfRgb,
  MOST_CHROMA,
} from '@miradero/core/colour';
import { type ReactNode, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { ask } from '../sync/index.ts';
import { cssOf, differenceLines } from './colour-words.ts';
import type { Reading } from './readings.ts';

const PATCH_PX = 104;
/** A middle to start from, that gives nothing away. */
const START: GuessedColour = { value: 5, chroma: 20, hueDeg: 60 };

/** Keeps a guess; without the server it is lost, and that is said. */
async function keep(desk: Desk, truth: string, guess: string): Promise<void> {
  try {
    await ask('POST /api/guesses', { body: { id: crypto.randomUUID(), truth, guess } });
  } catch {
    desk.say('This guess is not kept: the server is away.');
  }
}

/** The colour that was pressed is hidden: it is set by eye, then seen. */
export function Guessing({ desk, held, onAgain }: { desk: Desk; held: Reading; onAgain: () => void }) {
  const [guess, setGuess] = useState(START);
  const [isSeen, setSeen] = useState(false);
  const guessed = hexOfRgb(colourOfGuess(guess));
  const truth = hexOfRgb(held.colour);
  const set = (part: Partial<GuessedColour>) => setGuess((now) => ({ ...now, ...part }));
  return (
    <section aria-label="Guess">
      <div className="flex">
        <div className="flex-1" style={{ background: guessed, height: PATCH_PX }} data-testid="guessed" />
        {isSeen ? (
          <div className="flex-1" style={{ background: cssOf(held.colour), height: PATCH_PX }} />
        ) : (
          <div
            className="grid flex-1 place-items-center border border-line bg-paper font-serif text-[22px] text-muted"
            style={{ height: PATCH_PX }}
          >
            ?
          </div>
        )}
      </div>
      {isSeen ? (
        <SeenError truth={truth} guess={guessed}>
          <button
            type="button"
            className="underline underline-offset-3"
            onClick={() => {
              setSeen(false);
              onAgain();
            }}
          >
            another
          </button>
        </SeenError>
      ) : (
        <>
          <p className="mt-2 text-muted">Set what you see where the ring is.</p>
          <Slider
            label="value"
            most={10}
            step={0.1}
            value={guess.value}
            onChange={(value) => set({ value })}
          />
          <Slider
            label="chroma"
            most={MOST_CHROMA}
            step={1}
            value={guess.chroma}
            onChange={(chroma) => set({ chroma })}
          />
          <Slider
            label="hue"
            most={360}
            step={1}
            value={guess.hueDeg}
            onChange={(hueDeg) => set({ hueDeg })}
          />
          <button
            type="button"
            className="mt-2 w-full border border-ink bg-ink py-1 text-paper"
            onClick={() => {
              setSeen(true);
              void keep(desk, truth, guessed);
            }}
          >
            see it
          </button>
        </>
      )}
    </section>
  );
}

function Slider({
  label,
  most,
  step,
  value,
  onChange,
}: {
  label: string;
  most: number;
  step: number;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="mt-1.5 grid grid-cols-[52px_minmax(0,1fr)_34px] items-center gap-2">
      <span className="text-muted">{label}</span>
      <input
        type="range"
        className="min-w-0 accent-verdigris"
        {...{ min: 0, max: most, step, value }}
        onChange={(event) => onChange(Number(event.target.value))}
      />
      <span className="figures text-right text-[12px]">{step < 1 ? value.toFixed(1) : value.toFixed(0)}</span>
    </label>
  );
}

/** How far off it was, and in which direction. */
function SeenError({ truth, guess, children }: { truth: string; guess: string; children: ReactNode }) {
  const error = errorOfGuess(truth, guess);
  const direction = directionWords(error);
  return (
    <>
      <p className="mt-2 font-serif text-[17px] leading-tight" data-testid="guess-words">
        {direction ? `You see this ${direction} than it is.` : 'As it is.'}
      </p>
      <dl className="mt-1 grid grid-cols-2 gap-x-4 text-[12px]">
        {differenceLines(error)
          .slice(0, 4)
          .map(([term, figure]) => (
            <div key={term} className="flex justify-between gap-2">
              <dt className="text-muted">{term}</dt>
              <dd className="figures">{figure}</dd>
            </div>
          ))}
      </dl>
      <p className="figures mt-1 flex justify-between text-[12px]">
        <span>{guess}</span>
        <span className="text-muted">it is</span>
        <span data-testid="guess-truth">{truth}</span>
      </p>
      <p className="mt-2">{children}</p>
    </>
  );
}
