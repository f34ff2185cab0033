import {
  compareColours,
  NOTATION_IDS,
  NOTATIONS,
  type NotationId,
  type Rgb,
  writeColour,
} from '@miradero/core/colour';
import { applyAffine } from '@miradero/core/geometry';
import { isPlacement, pictureToBoard } from '@miradero/core/items';
import { useEffect, useState } from 'react';
import { useKeyWords } from '../commands/index.ts';
import type { Desk, Tool } from '../desk/index.ts';
import { Choices, later } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { useCmyk } from './cmyk.ts';
import { caveats, cssOf, differenceLines, differenceWords, placeWords } from './colour-words.ts';
import { Guessing } from './guessing.tsx';
import { Loupe } from './loupe.tsx';
import { paletteOfPart } from './palette-tool.ts';
import type { Reader } from './reader.ts';
import { canGrabScreen, type Reading } from './readings.ts';
import { RecentColours } from './recent-row.tsx';
import { AREA_SIZES, type AreaSize, colourSettings } from './settings.ts';

const GuessesSheet = later(() => import('./guesses-sheet.tsx').then((sheet) => sheet.GuessesSheet));

const ScreenSheet = later(() => import('./screen-sheet.tsx').then((sheet) => sheet.ScreenSheet));

const LOUPE_PX = 104;
/** What is read nearer to its edge would lie below the card, CSS pixels. */
const ROOM_PX = 300;
const WORD = 'underline underline-offset-3';
const DRAWN = { lasso: 'around it', rectangle: 'a rectangle' } as const;
const SIZES = Object.fromEntries(AREA_SIZES.map((size) => [String(size), String(size)]));

/** What was read, with everything that is known of it: beside the pictures, as long as colours are read. */
export function ReadingCard({ desk, view }: { desk: Desk; view: StageView }) {
  const tool = desk.tool as Tool & Reader;
  const shown = useStore(tool.store);
  const { sizePx, drawn } = useStore(colourSettings.store);
  const { live, held, before, copied, trouble, isGuessing, isScreenOpen } = shown;
  const [isChartOpen, setChartOpen] = useState(false);
  const reading = live ?? held;
  const isLeft = useSideOf(desk, view, held);
  const other = live ? held : before;
  const keyOf = useKeyWords();
  return (
    <aside
      aria-label="Colour"
      data-testid="colour-card"
      className={`absolute top-3 ${isLeft ? 'left-3' : 'right-3'} z-10 max-h-[calc(100%-24px)] w-[264px] overflow-auto border border-line bg-raised px-3.5 py-3 text-[13px] text-ink max-md:inset-x-2 max-md:top-auto max-md:bottom-2 max-md:max-h-[46%] max-md:w-auto`}
    >
      {isGuessing && held ? (
        <Guessing
          key={`${held.of?.placement} ${held.of?.at.x} ${held.of?.at.y}`}
          {...{ desk, held }}
          onAgain={() => tool.forget()}
        />
      ) : reading && !isGuessing ? (
        <>
          {trouble && <p className="mb-1.5">{trouble}</p>}
          <ReadingShownAs reading={reading} isLive={live !== undefined} />
          <Notations tool={tool} colour={reading.colour} copied={copied} />
          {other && <Compared from={other} to={reading} />}
        </>
      ) : (
        <p className="text-muted">
          {trouble ??
            (isGuessing ? 'Press a point of a picture: guess its colour first.' : 'Point at a picture.')}
        </p>
      )}
      <div className="mt-2 flex items-baseline gap-2 border-line border-t pt-1.5">
        <span className="text-muted">area, px</span>
        <Choices
          label="Side of the area that is read, pixels"
          className="figures min-w-0 flex-wrap gap-x-2.5"
          words={SIZES}
          value={String(sizePx)}
          onChange={(size) => void tool.readAgain(Number(size) as AreaSize)}
        />
      </div>
      <div className="mt-0.5 flex items-baseline gap-2">
        <span className="text-muted">dragging draws</span>
        <Choices
          label="What dragging draws"
          className="min-w-0 flex-wrap gap-x-2.5"
          words={DRAWN}
          value={drawn}
          onChange={(next) => colourSettings.set({ drawn: next })}
        />
      </div>
      {!isGuessing && <RecentColours desk={desk} className="mt-1.5" />}
      <p className="mt-1.5 flex flex-wrap gap-x-3">
        {!isGuessing && held?.of && (
          <button type="button" className={WORD} onClick={() => tool.confirm(desk)}>
            pin it
          </button>
        )}
        {!isGuessing && held?.of?.outline && (
          <button
            type="button"
            className={WORD}
            onClick={() => paletteOfPart(desk, held.of!.placement, held.of!.outline!)}
          >
            palette of it
          </button>
        )}
        <button
          type="button"
          aria-pressed={isGuessing}
          className={`${WORD} aria-pressed:text-verdigris`}
          onClick={() => tool.toggleGuessing()}
        >
          guess first
        </button>
        {!isGuessing && canGrabScreen(navigator) && (
          <button type="button" className={WORD} onClick={() => tool.showScreen(true)}>
            of a screen
          </button>
        )}
        {isGuessing && (
          <button type="button" className={WORD} onClick={() => setChartOpen(true)}>
            your guesses
          </button>
        )}
        <button type="button" className={WORD} onClick={() => desk.leaveTool()}>
          done
        </button>
        <span className="ml-auto text-muted max-md:hidden">{keyOf('escape')}</span>
      </p>
      {isChartOpen && <GuessesSheet onClose={() => setChartOpen(false)} />}
      {isScreenOpen && (
        <ScreenSheet
          onRead={(reading) => void tool.holdScreen(reading)}
          onClose={() => tool.showScreen(false)}
        />
      )}
      <p role="status" className="sr-only">
        {held && !isGuessing && `${writeColour(held.colour, 'name')}, ${writeColour(held.colour, 'hex')}`}
      </p>
    </aside>
  );
}

/** Whether the card stands on the left: it keeps off what was read. */
function useSideOf(desk: Desk, view: StageView, held: Reading | undefined): boolean {
  const [isLeft, setLeft] = useState(false);
  useEffect(() => {
    const of = held?.of;
    const placement = of && desk.session.items.get(of.placement);
    if (!of || !placement || !isPlacement(placement)) return;
    const { x } = view.seenAt(applyAffine(pictureToBoard(placement), of.at));
    const { width } = view.holderSize;
    setLeft((was) => (was ? x > ROOM_PX : x > width - ROOM_PX));
  }, [desk, view, held]);
  return isLeft;
}

function ReadingShownAs({ reading, isLive }: { reading: Reading; isLive: boolean }) {
  const { colour, spread, of, seen } = reading;
  return (
    <div>
      <div className="flex gap-2">
        {seen && seen.width > 0 && <Loupe seen={seen} sidePx={LOUPE_PX} />}
        <div
          data-testid="colour-patch"
          className="min-w-0 flex-1"
          style={{ background: cssOf(colour), height: LOUPE_PX }}
        />
      </div>
      <h2 className="mt-2 font-serif text-[17px] leading-tight">{writeColour(colour, 'name')}</h2>
      <p className="truncate text-muted">
        {isLive ? 'under the pointer' : <bdi>{of?.name ?? 'somewhere on the screen'}</bdi>}
      </p>
      <p className="figures flex justify-between gap-2 text-[12px] text-muted">
        <span data-testid="colour-place">{placeWords(reading)}</span>
        {spread !== undefined && reading.count > 1 && <span>spread ΔE {spread.toFixed(1)}</span>}
      </p>
      {caveats(reading).map((words) => (
        <p key={words} className="text-[12px] text-vermilion">
          {words}
        </p>
      ))}
    </div>
  );
}

/** Every way to write it: a press copies one, and chooses it for the next time. */
function Notations({ tool, colour, copied }: { tool: Reader; colour: Rgb; copied: string | undefined }) {
  const { notation } = useStore(colourSettings.store);
  const cmyk = useCmyk(colour);
  const written = (id: NotationId) => (id === 'cmyk' ? cmyk : writeColour(colour, id));
  return (
    <ul className="mt-2 border-line border-t">
      {NOTATION_IDS.filter((id) => id !== 'name').map((id) => {
        const text = written(id);
        return (
          <li key={id}>
            <button
              type="button"
              aria-pressed={id === notation}
              disabled={text === undefined}
              className="flex w-full items-baseline gap-2 border-line border-b py-[3px] text-left hover:bg-paper pointer-coarse:py-2.5"
              onClick={() => {
                colourSettings.set({ notation: id });
                void tool.copy(text);
              }}
            >
              <span className={id === notation ? 'text-verdigris' : 'text-muted'}>
                {NOTATIONS[id].words}
                {id === 'cmyk' && <span className="text-[12px]"> about</span>}
              </span>
              <span
                className="figures ml-auto text-right text-[12px]"
                data-testid={id === notation ? 'colour' : undefined}
              >
                {text ?? '…'}
              </span>
              {copied !== undefined && copied === text && (
                <span className="text-[12px] text-muted">copied</span>
              )}
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** What was read before and what is now, side by side. */
function Compared({ from, to }: { from: Reading; to: Reading }) {
  const difference = compareColours(from.colour, to.colour);
  return (
    <section aria-label="Difference from the one before" className="mt-2">
      <div className="flex items-center gap-2">
        <span aria-hidden className="h-4 w-8" style={{ background: cssOf(from.colour) }} />
        <span className="text-muted">to</span>
        <span aria-hidden className="h-4 w-8" style={{ background: cssOf(to.colour) }} />
        <span className="min-w-0 flex-1 text-right font-serif text-[14px] italic">
          {differenceWords(difference)}
        </span>
      </div>
      <dl className="mt-1 grid grid-cols-2 gap-x-4 text-[12px]">
        {differenceLines(difference).map(([term, figure]) => (
          <div key={term} className="flex justify-between gap-2">
            <dt className="text-muted">{term}</dt>
            <dd className="figures">{figure}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
