import { type RefObject, useEffect, useRef } from 'react';
import type { Desk, Tool } from '../desk/index.ts';
import type { StudyRead } from '../pixels/index.ts';
import { Choices, NumberField, ToolCard } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { useCardOnLeft } from '../tools/index.ts';
import type { Studying } from './study.ts';
import { ValueFigures, ValuesHistogram } from './values-histogram.tsx';

const WORD = 'underline underline-offset-3';
const BORDERS = {
  equal: 'at equal heights',
  natural: 'where they part',
  own: 'where you drag them',
} as const;
const RING = 7;
/** Islands and edges as shares of the picture, at the ends of their sliders. */
const MOST = { island: 0.01, edges: 0.012 } as const;

function usePainted(canvas: RefObject<HTMLCanvasElement | null>, read: StudyRead | undefined): void {
  useEffect(() => {
    if (!canvas.current || !read) return;
    canvas.current.width = read.width;
    canvas.current.height = read.height;
    const context = canvas.current.getContext('2d')!;
    context.putImageData(new ImageData(read.data, read.width, read.height), 0, 0);
    // Where the strongest contrast sits: a ring that is as wide in every size.
    const { x, y, spread } = read.strongest;
    if (spread < 0.02) return;
    const unit = Math.max(read.width, read.height) / 236;
    context.beginPath();
    context.arc(x * read.width, y * read.height, RING * unit, 0, 2 * Math.PI);
    for (const [width, colour] of [
      [3.5, 'rgba(20, 20, 20, 0.9)'],
      [1.5, '#fafaf9'],
    ] as const) {
      context.lineWidth = width * unit;
      context.strokeStyle = colour;
      context.stroke();
    }
  }, [canvas, read]);
}

/** A picture in few values, beside the board: how it is parted, and how much each value covers. */
export function StudyCard({ desk, view }: { desk: Desk; view: StageView }) {
  const isLeft = useCardOnLeft(desk, view);
  const tool = desk.tool as Tool & Studying;
  const { wish, outline, read, isExact, trouble } = useStore(tool.store);
  const canvas = useRef<HTMLCanvasElement>(null);
  usePainted(canvas, read);
  const failed = (error: unknown) => desk.say('The study did not come.', [String(error)]);
  return (
    <ToolCard label="Value study" isLeft={isLeft}>
      {trouble ? (
        <p>{trouble}</p>
      ) : (
        <canvas
          ref={canvas}
          className="max-h-52 w-full bg-[#797979] object-contain"
          role="img"
          aria-label="The picture in few values"
        />
      )}
      <p className="mt-1.5 flex items-baseline justify-between">
        <span className="text-muted">values</span>
        <span className="figures">
          <NumberField
            label="Values of the study"
            value={wish.steps}
            {...{ least: 2, most: 9 }}
            onRefuse={(words) => desk.say(words)}
            onChange={(steps) =>
              tool.set({ steps, ...(typeof wish.borders === 'string' ? {} : { borders: 'equal' }) })
            }
          />
        </span>
      </p>
      <Choices
        label="Where values are parted"
        className="flex-wrap"
        words={BORDERS}
        value={typeof wish.borders === 'string' ? wish.borders : 'own'}
        onChange={(borders) =>
          tool.set({ borders: borders === 'own' ? (read?.borders ?? 'equal') : borders })
        }
      />
      {read && (
        <>
          <ValuesHistogram
            distribution={read.distribution}
            borders={typeof wish.borders === 'string' ? read.borders : wish.borders}
            onBorders={(borders) => tool.set({ borders })}
          />
          <ValueFigures statistics={read.statistics} />
          <p className="text-[12px] text-muted">
            {outline ? 'of what was drawn around' : 'of the whole picture'}; ringed: the strongest contrast
          </p>
        </>
      )}
      <label className="mt-1 grid grid-cols-[92px_minmax(0,1fr)] items-center gap-2 text-muted">
        islands join
        <input
          type="range"
          className="min-w-0 accent-verdigris"
          {...{ min: 0, max: 1, step: 0.02, value: Math.sqrt(wish.island / MOST.island) }}
          onChange={(event) => tool.set({ island: Number(event.target.value) ** 2 * MOST.island })}
        />
      </label>
      <label className="grid grid-cols-[92px_minmax(0,1fr)] items-center gap-2 text-muted">
        edges simpler
        <input
          type="range"
          className="min-w-0 accent-verdigris"
          {...{ min: 0, max: 1, step: 0.02, value: Math.sqrt((wish.edges ?? 0) / MOST.edges) }}
          onChange={(event) => tool.set({ edges: Number(event.target.value) ** 2 * MOST.edges })}
        />
      </label>
      {read && <Shares read={read} isExact={isExact} />}
      <p className="mt-1.5 flex flex-wrap gap-x-3 border-line border-t pt-1.5">
        <button type="button" className={WORD} onClick={() => void tool.toBoard().catch(failed)}>
          as a picture
        </button>
        <button type="button" className={WORD} onClick={() => void tool.saveSvg().catch(failed)}>
          shapes as SVG
        </button>
        <button type="button" className={`${WORD} ml-auto`} onClick={() => desk.leaveTool()}>
          done
        </button>
      </p>
    </ToolCard>
  );
}

/** How much each value covers, the lightest above as on the rail. */
function Shares({ read, isExact }: { read: StudyRead; isExact: boolean }) {
  const rows = read.greys.map((grey, step) => ({ grey, step, share: read.shares[step]! })).reverse();
  return (
    <ul
      className="mt-1.5 border-line border-t pt-1"
      data-exact={isExact || undefined}
      data-testid="study-shares"
    >
      {rows.map(({ grey, step, share }) => (
        <li key={step} className="flex items-center gap-2 py-px">
          <span
            aria-hidden
            className="h-3.5"
            style={{ background: `rgb(${grey} ${grey} ${grey})`, width: `${Math.max(2, share * 160)}px` }}
          />
          <span className="figures ml-auto text-[12px]">
            {isExact ? '' : 'about '}
            {(share * 100).toFixed(share < 0.1 ? 1 : 0)} %
          </span>
        </li>
      ))}
    </ul>
  );
}
