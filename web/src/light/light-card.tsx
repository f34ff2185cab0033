import { munsellValueOf, rgbOfHex } from '@miradero/core/colour';
import { LIGHT_PARTS, type LightColours, type LightPart } from '@miradero/core/light';
import type { Desk, Tool } from '../desk/index.ts';
import { ToolCard } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { useCardOnLeft } from '../tools/index.ts';
import { BallPreview } from './ball-preview.tsx';
import type { Marking } from './light-shown.ts';

const WORD = 'underline underline-offset-3';

/** A part of light and shadow in its colour and value. */
export function PartFigures({ colours, part }: { colours: LightColours; part: LightPart }) {
  const hex = colours[part];
  return (
    <>
      <span
        aria-hidden
        className="size-5 border border-line"
        style={hex === null ? undefined : { background: hex }}
      />
      <span className="whitespace-nowrap">{part}</span>
      <span className="figures ml-auto whitespace-nowrap text-[12px] text-muted" title="Munsell value, sRGB">
        {hex === null ? 'none' : `${munsellValueOf(rgbOfHex(hex)).toFixed(1)} ${hex}`}
      </span>
    </>
  );
}

/** What light makes of a form: its parts, each to be marked, and the ball that they make. */
export function LightCard({ desk, view }: { desk: Desk; view: StageView }) {
  const isLeft = useCardOnLeft(desk, view);
  const tool = desk.tool as Tool & Marking;
  const { colours, direction, next, words, isReading } = useStore(tool.store);
  return (
    <ToolCard label="Light and shadow" isLeft={isLeft} testId="light-card" isBusy={isReading}>
      <BallPreview
        {...{ colours, direction }}
        onTurn={(to) => tool.turn(to)}
        onRefuse={(why) => desk.say(why)}
      />
      <p role="status" className="min-h-[1.4em] text-[12px] text-muted">
        {words}
      </p>
      <ul className="mt-1">
        {LIGHT_PARTS.map((part) => (
          <li key={part} className="flex items-center gap-2 border-line border-t">
            <button
              type="button"
              aria-pressed={part === next}
              className="flex min-w-0 flex-1 items-center gap-2 py-1 text-left aria-pressed:text-verdigris pointer-coarse:py-2.5"
              onClick={() => tool.choose(part)}
            >
              <PartFigures {...{ colours, part }} />
            </button>
            <button
              type="button"
              aria-label={`No ${part}`}
              disabled={colours[part] === null}
              className={`${WORD} text-[12px] text-muted disabled:invisible`}
              onClick={() => tool.clear(part)}
            >
              none
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-2 flex gap-x-3 border-line border-t pt-1.5">
        <button type="button" className={WORD} onClick={() => tool.confirm(desk)}>
          onto the board
        </button>
        <button type="button" className={`${WORD} ml-auto text-muted`} onClick={() => desk.leaveTool()}>
          leave
        </button>
      </p>
    </ToolCard>
  );
}
