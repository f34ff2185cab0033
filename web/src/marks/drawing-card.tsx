import { PEN_IDS, type PenId, penOf } from '@miradero/core/freehand';
import type { Desk } from '../desk/index.ts';
import { CardEnd, Choices, FoldedLine, NumberField, ToolCard } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { InkRow } from './ink-row.tsx';
import { drawingSettings, WIDTHS, widthOf } from './settings.ts';

const CHOSEN = 'border-verdigris border-b-2 text-ink';
const OFFERED = 'border-transparent border-b-2 text-muted';

const PEN_WORDS = Object.fromEntries(PEN_IDS.map((id) => [id, penOf(id).words])) as Record<PenId, string>;

/** With what is drawn: a pen, how wide, in which ink, how steady. */
export function DrawingCard({ desk }: { desk: Desk }) {
  const settings = useStore(drawingSettings.store);
  const { pen, ink, smoothing, isOnPictures, isFolded, widths } = settings;
  const width = widthOf(settings);
  const setWidth = (to: number) => drawingSettings.set({ widths: { ...widths, [pen]: to } });
  return (
    <ToolCard label="Marks" testId="drawing-card">
      <div className={isFolded === undefined ? 'md:hidden' : isFolded ? '' : 'hidden'}>
        <FoldedLine onUnfold={() => drawingSettings.set({ isFolded: false })} onDone={() => desk.leaveTool()}>
          <span aria-hidden className="size-4 border border-line" style={{ background: ink }} />
          {`${penOf(pen).words}, ${width}\u2009px`}
        </FoldedLine>
      </div>
      <div className={isFolded === undefined ? 'max-md:hidden' : isFolded ? 'hidden' : ''}>
        <Choices
          label="Pen"
          className="flex-wrap"
          value={pen}
          words={PEN_WORDS}
          onChange={(one) => drawingSettings.set({ pen: one })}
        />
        <div className="mt-2 flex items-center gap-3">
          <div role="radiogroup" aria-label="Width" className="flex items-center gap-2">
            {penOf(pen).widths.map((one, index) => (
              // biome-ignore lint/a11y/useSemanticElements: dots in a row, of which one is chosen
              <button
                key={one}
                type="button"
                role="radio"
                aria-checked={one === width}
                aria-label={['narrow', 'middle', 'wide'][index]}
                className={`flex size-8 items-center justify-center ${one === width ? CHOSEN : OFFERED}`}
                onClick={() => setWidth(one)}
              >
                <span
                  className="rounded-full bg-ink"
                  style={{ width: 4 + index * 5, height: 4 + index * 5 }}
                />
              </button>
            ))}
          </div>
          <span className="figures ml-auto">
            <NumberField
              label="Width of the pen"
              value={width}
              digits={1}
              unit=" px"
              {...{ least: WIDTHS.least, most: WIDTHS.most }}
              onRefuse={(words) => desk.say(words)}
              onChange={setWidth}
            />
          </span>
        </div>
        <InkRow chosen={ink} onChoose={(hex) => drawingSettings.set({ ink: hex })} />
        <div className="mt-2">
          <Choices
            label="To what it belongs"
            value={isOnPictures ? 'pictures' : 'board'}
            words={{ pictures: 'on pictures', board: 'on the board' }}
            onChange={(what) => drawingSettings.set({ isOnPictures: what === 'pictures' })}
          />
        </div>
        <label className="mt-2 grid grid-cols-[64px_minmax(0,1fr)_48px] items-center gap-2 text-muted">
          as drawn
          <input
            type="range"
            aria-label="From as it is drawn to smooth"
            className="min-w-0 accent-verdigris"
            {...{ min: 0, max: 1, step: 0.05, value: smoothing }}
            onChange={(event) => drawingSettings.set({ smoothing: Number(event.target.value) })}
          />
          smooth
        </label>
        <CardEnd onDone={() => desk.leaveTool()} onFold={() => drawingSettings.set({ isFolded: true })} />
      </div>
    </ToolCard>
  );
}
