import { MM_PER_INCH } from '@miradero/core/easel';
import { recentColours } from '../../../colour/index.ts';
import type { Desk } from '../../../desk/index.ts';
import { CardEnd, Choices, FoldedLine, NumberField, ToolCard } from '../../../shell/index.ts';
import { useStore } from '../../../state/index.ts';
import { type BrushImplement, brushOf, IMPLEMENT_WORDS, isBrush, paintSettings, SIZES } from '../settings.ts';
import type { PaintState } from '../sheet/painting.ts';
import { type Opened, useOpened } from '../versions/open-painting.ts';
import { saveAs } from '../versions/save-as.ts';
import { LayersList } from './layers-list.tsx';

const WORD = 'underline underline-offset-3';

/** What a pen alters that is pressed more. */
const PRESSED = ['size', 'opacity'] as const;

/** A share that is drawn along a line, in percent. */
function Share({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="grid grid-cols-[72px_minmax(0,1fr)_44px] items-center gap-2 text-muted">
      {label}
      <input
        type="range"
        className="min-w-0 accent-verdigris"
        {...{ min: 0, max: 100, step: 1, value: Math.round(value * 100) }}
        onChange={(event) => onChange(Number(event.target.value) / 100)}
      />
      <span className="figures text-right text-ink">{Math.round(value * 100)} %</span>
    </label>
  );
}

function BrushFields({ desk, does, ppi }: { desk: Desk; does: BrushImplement; ppi: number }) {
  const settings = useStore(paintSettings.store);
  const { sizePx, opacity, hardness, flow, pressureTo } = brushOf(settings, does);
  const set = (part: Parameters<typeof paintSettings.setBrush>[1]) => paintSettings.setBrush(does, part);
  const mm = (sizePx / ppi) * MM_PER_INCH;
  return (
    <div className="mt-2 grid gap-1">
      <div className="figures flex items-center gap-3">
        <span className="text-muted">size</span>
        <NumberField
          label="Size of the brush in pixels"
          value={sizePx}
          digits={1}
          unit=" px"
          {...SIZES}
          onRefuse={(words) => desk.say(words)}
          onChange={(px) => set({ sizePx: px })}
        />
        <NumberField
          label="Size of the brush in millimetres"
          value={mm}
          digits={2}
          unit=" mm"
          step={0.1}
          least={(SIZES.least / ppi) * MM_PER_INCH}
          most={(SIZES.most / ppi) * MM_PER_INCH}
          onRefuse={(words) => desk.say(words)}
          onChange={(to) =>
            set({ sizePx: Math.min(SIZES.most, Math.max(SIZES.least, (to / MM_PER_INCH) * ppi)) })
          }
        />
      </div>
      {does !== 'push' && (
        <>
          <Share label="opacity" value={opacity} onChange={(to) => set({ opacity: Math.max(0.01, to) })} />
          <Share label="hardness" value={hardness} onChange={(to) => set({ hardness: to })} />
        </>
      )}
      {does !== 'smudge' && does !== 'push' && (
        <>
          <Share label="flow" value={flow} onChange={(to) => set({ flow: Math.max(0.01, to) })} />
          <fieldset className="grid grid-cols-[72px_minmax(0,1fr)] items-center gap-2 text-[13px] text-muted">
            <legend className="sr-only">What pressure does</legend>
            <span aria-hidden>pressure</span>
            <span className="flex gap-4">
              {PRESSED.map((what) => (
                <button
                  key={what}
                  type="button"
                  className="choice aria-pressed:text-ink"
                  aria-label={`Pressure alters ${what}`}
                  aria-pressed={pressureTo[what]}
                  onClick={() => set({ pressureTo: { ...pressureTo, [what]: !pressureTo[what] } })}
                >
                  {what}
                </button>
              ))}
            </span>
          </fieldset>
        </>
      )}
      <Share
        label="smooth"
        value={settings.smoothing}
        onChange={(smoothing) => paintSettings.set({ smoothing })}
      />
    </div>
  );
}

/** How one draws around something. */
function Outline() {
  const isRectangle = useStore(paintSettings.store, (state) => state.isRectangle);
  return (
    <Choices
      label="How one draws around it"
      value={isRectangle ? 'rectangle' : 'freely'}
      words={{ freely: 'freely', rectangle: 'a rectangle' }}
      onChange={(how) => paintSettings.set({ isRectangle: how === 'rectangle' })}
    />
  );
}

function AreaFields({ desk, isTaken }: { desk: Desk; isTaken: boolean }) {
  const { does, areaOpacity, isLassoClear, gapPx } = useStore(paintSettings.store);
  if (does === 'move')
    return (
      <div className="mt-2">
        <p className="text-muted">
          {isTaken
            ? 'Drag it; a corner scales it, the knob turns it. Enter, or a press beside it, leaves it there.'
            : 'Draw around a part of the layer to take it up.'}
        </p>
        <Outline />
      </div>
    );
  return (
    <div className="mt-2 grid gap-1">
      <Share
        label="opacity"
        value={areaOpacity}
        onChange={(to) => paintSettings.set({ areaOpacity: Math.max(0.01, to) })}
      />
      {does === 'lasso' ? (
        <>
          <Choices
            label="What the lasso does"
            value={isLassoClear ? 'clear' : 'paint'}
            words={{ paint: 'paints', clear: 'takes away' }}
            onChange={(what) => paintSettings.set({ isLassoClear: what === 'clear' })}
          />
          <Outline />
        </>
      ) : (
        <span className="figures flex items-center gap-3">
          <span className="text-muted">closes gaps up to</span>
          <NumberField
            label="Gaps that are closed"
            value={gapPx}
            unit=" px"
            {...{ least: 0, most: 60 }}
            onRefuse={(words) => desk.say(words)}
            onChange={(px) => paintSettings.set({ gapPx: px })}
          />
        </span>
      )}
    </div>
  );
}

/** The colour one paints with, and those that were picked last. */
function Colour() {
  const colour = useStore(paintSettings.store, (state) => state.colour);
  const recent = useStore(recentColours.store, (state) => state.all);
  return (
    <fieldset className="mt-2 flex flex-wrap items-center gap-1">
      <legend className="sr-only">Colour</legend>
      <input
        type="color"
        aria-label="Colour to paint with"
        className="h-8 w-12 border border-ink bg-transparent p-0"
        value={colour}
        onChange={(event) => paintSettings.set({ colour: event.target.value })}
        onBlur={(event) => recentColours.add(event.target.value)}
      />
      {recent.map((hex) => (
        <button
          key={hex}
          type="button"
          aria-label={`Paint with ${hex}`}
          aria-pressed={hex === colour}
          title={hex}
          className="size-6 border border-line aria-pressed:border-2 aria-pressed:border-ink"
          style={{ backgroundColor: hex }}
          onClick={() => paintSettings.set({ colour: hex })}
        />
      ))}
    </fieldset>
  );
}

function savedWords({ trouble, isKept, facts }: PaintState): string {
  if (trouble === 'full') return 'This browser has no room left: it is kept in memory alone.';
  if (trouble) return 'It cannot be kept on this computer right now; it is tried again.';
  if (!isKept) return 'being kept';
  return facts?.isAltered ? 'kept on this computer' : 'kept as a version';
}

/** All of it only where it is. */
function bareWords(bare: number): string {
  if (bare === 0) return 'no bare ground left';
  const percent = bare === 1 ? 100 : Math.min(99, Math.round(bare * 100));
  return `${bare < 0.01 ? '< 1' : percent} % bare ground`;
}

/** With what is drawn, on which layer, and how far it is. */
function Card({ desk, opened }: { desk: Desk; opened: Opened }) {
  const { painting } = opened;
  const state = useStore(painting.store);
  const { does, isFolded, colour } = useStore(paintSettings.store);
  const { facts } = state;
  if (!facts) return null;
  return (
    <ToolCard label="Drawing" testId="painting-card" isLeft>
      <div className={isFolded === undefined ? 'md:hidden' : isFolded ? '' : 'hidden'}>
        <FoldedLine onUnfold={() => paintSettings.set({ isFolded: false })} onDone={() => desk.leaveTool()}>
          <span aria-hidden className="size-4 border border-line" style={{ background: colour }} />
          {`${IMPLEMENT_WORDS[does]}, ${painting.layer?.name ?? ''}`}
        </FoldedLine>
      </div>
      <div className={isFolded === undefined ? 'max-md:hidden' : isFolded ? 'hidden' : ''}>
        <Choices
          label="With what"
          className="flex-wrap gap-y-0 [&_button]:py-0.5"
          value={does}
          words={IMPLEMENT_WORDS}
          onChange={(one) => paintSettings.set({ does: one })}
        />
        {isBrush(does) ? (
          <BrushFields desk={desk} does={does} ppi={facts.ppi} />
        ) : (
          <AreaFields desk={desk} isTaken={state.taken !== null} />
        )}
        <Colour />
        <LayersList desk={desk} painting={painting} />
        <p className="mt-2 flex flex-wrap items-baseline justify-between gap-x-3 text-[12px] text-muted">
          {facts.bare !== null && (
            <button
              type="button"
              aria-pressed={state.isBareShown}
              title="Show what of the ground is bare"
              className="figures underline underline-offset-3 aria-pressed:text-vermilion"
              onClick={() => painting.showBare(!state.isBareShown)}
            >
              {bareWords(facts.bare)}
            </button>
          )}
          <span data-testid="painting-kept" className={state.trouble ? 'text-vermilion' : ''}>
            {savedWords(state)}
          </span>
        </p>
        <CardEnd onDone={() => desk.leaveTool()} onFold={() => paintSettings.set({ isFolded: true })}>
          <button
            type="button"
            className={`${WORD} text-muted`}
            onClick={() => void saveAs(desk, opened, 'png')}
          >
            PNG
          </button>
          <button
            type="button"
            className={`${WORD} text-muted`}
            onClick={() => void saveAs(desk, opened, 'openraster')}
          >
            OpenRaster
          </button>
        </CardEnd>
      </div>
    </ToolCard>
  );
}

export function PaintingCard({ desk }: { desk: Desk }) {
  const opened = useOpened(desk);
  return opened ? <Card desk={desk} opened={opened} /> : null;
}
