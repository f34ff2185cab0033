import type { Desk } from '../desk/index.ts';
import { CardEnd, Choices, NumberField, ToolCard } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { drawingSettings, WIDTHS } from './settings.ts';

/** How much is rubbed out, and how wide. */
export function RubbingCard({ desk }: { desk: Desk }) {
  const { rubberPx, isWholeRubbed } = useStore(drawingSettings.store);
  return (
    <ToolCard label="Rub out" testId="rubbing-card">
      <Choices
        label="What is rubbed out"
        value={isWholeRubbed ? 'whole' : 'part'}
        words={{ part: 'a part', whole: 'whole strokes' }}
        onChange={(which) => drawingSettings.set({ isWholeRubbed: which === 'whole' })}
      />
      <p className="mt-2 flex items-baseline justify-between">
        <span className="text-muted">wide</span>
        <span className="figures">
          <NumberField
            label="Width of what rubs"
            value={rubberPx}
            unit=" px"
            {...{ least: 2, most: WIDTHS.most }}
            onRefuse={(words) => desk.say(words)}
            onChange={(to) => drawingSettings.set({ rubberPx: to })}
          />
        </span>
      </p>
      <CardEnd onDone={() => desk.leaveTool()} />
    </ToolCard>
  );
}
