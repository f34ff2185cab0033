import { useEffect, useState } from 'react';
import type { Desk, Tool } from '../desk/index.ts';
import { NumberField, ToolCard } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { useCardOnLeft } from '../tools/index.ts';
import type { Outlining } from './study.ts';

const WORD = 'underline underline-offset-3';
/** Detail that is left out, as a share of the picture, at the ends of its slider. */
const DETAIL = { least: 0.001, most: 0.03 } as const;

/** An address of a drawing, as long as it is shown. */
function useAddress(svg: string | undefined): string | undefined {
  const [address, setAddress] = useState<string>();
  useEffect(() => {
    if (svg === undefined) return;
    const made = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [svg]);
  return address;
}

/** The lines of the main forms: at a detail, and no more than so many. */
export function OutlineCard({ desk, view }: { desk: Desk; view: StageView }) {
  const isLeft = useCardOnLeft(desk, view);
  const tool = desk.tool as Tool & Outlining;
  const { wish, read, isExact, trouble } = useStore(tool.store);
  const address = useAddress(read?.svg);
  const failed = (error: unknown) => desk.say('The outline did not come.', [String(error)]);
  const part = (wish.detail - DETAIL.least) / (DETAIL.most - DETAIL.least);
  return (
    <ToolCard label="Outline" isLeft={isLeft} testId="outline-card" isExact={isExact}>
      {trouble ? (
        <p>{trouble}</p>
      ) : (
        address && (
          <img
            src={address}
            alt={`Outline in ${read?.count ?? 0} lines`}
            className="max-h-64 w-full bg-[#fafaf9] object-contain"
          />
        )
      )}
      <p className="figures mt-1 text-[12px] text-muted">
        {read && `${isExact ? '' : 'about '}${read.count} ${read.count === 1 ? 'line' : 'lines'}`}
      </p>
      <p className="flex items-baseline justify-between">
        <span className="text-muted">lines at most</span>
        <span className="figures">
          <NumberField
            label="Lines of the outline at most"
            value={wish.most}
            {...{ least: 1, most: 2_000 }}
            onRefuse={(words) => desk.say(words)}
            onChange={(most) => tool.set({ most: Math.round(most) })}
          />
        </span>
      </p>
      <label className="mt-1 grid grid-cols-[64px_minmax(0,1fr)_48px] items-center gap-2 text-muted">
        all of it
        <input
          type="range"
          aria-label="From every detail to the main forms"
          className="min-w-0 accent-verdigris"
          {...{ min: 0, max: 1, step: 0.02, value: Math.sqrt(Math.max(0, part)) }}
          onChange={(event) =>
            tool.set({
              detail: DETAIL.least + Number(event.target.value) ** 2 * (DETAIL.most - DETAIL.least),
            })
          }
        />
        forms
      </label>
      <p className="mt-1.5 flex flex-wrap gap-x-3 border-line border-t pt-1.5">
        <button type="button" className={WORD} onClick={() => void tool.toBoard().catch(failed)}>
          as a picture
        </button>
        <button type="button" className={WORD} onClick={() => tool.save()}>
          as SVG
        </button>
        <button type="button" className={`${WORD} ml-auto`} onClick={() => desk.leaveTool()}>
          done
        </button>
      </p>
    </ToolCard>
  );
}
