import type { LitBall } from '@miradero/core/items';
import { LIGHT_PARTS, wordsOfDirection } from '@miradero/core/light';
import { useRef } from 'react';
import { copyHex, copyPicture } from '../colour/index.ts';
import type { Desk } from '../desk/index.ts';
import { EditableName } from '../shell/index.ts';
import { type Gesture, newGesture } from '../sync/index.ts';
import { ballPicture, saveBall } from './ball-files.ts';
import { BallPreview } from './ball-preview.tsx';
import { PartFigures } from './light-card.tsx';

const WORD = 'underline underline-offset-3';

/** A lit ball in words and figures: its light is moved, its colours are copied, it is taken out. */
export function LitBallLabel({ desk, item }: { desk: Desk; item: LitBall }) {
  const { colours, direction, fit } = item;
  // All of one looking at it is one step of undo.
  const gesture = useRef<Gesture>(newGesture());
  return (
    <section aria-label="Lit ball" className="text-[13px]">
      <EditableName
        label="Title of the lit ball"
        className="mx-0 text-[19px]"
        name={item.title || 'Lit ball'}
        onRename={(title) => desk.session.commit([{ item: item.id, set: { title } }])}
      />
      <BallPreview
        {...{ colours, direction }}
        onTurn={(to) =>
          desk.session.commit([{ item: item.id, set: { direction: to, fit: null } }], gesture.current)
        }
        onRefuse={(words) => desk.say(words)}
      />
      <p className="text-[12px] text-muted">
        {wordsOfDirection(direction)}
        {fit !== null && `; one light explains ${Math.round(fit * 100)}\u00a0% of the form`}
      </p>
      <ul className="mt-1">
        {LIGHT_PARTS.map((part) => {
          const hex = colours[part];
          return (
            <li key={part} className="border-line border-t">
              <button
                type="button"
                disabled={hex === null}
                aria-label={hex === null ? `No ${part}` : `Copy ${part} ${hex}`}
                className="flex w-full items-center gap-2 py-1 text-left enabled:hover:bg-paper"
                onClick={() => hex !== null && void copyHex(desk, hex)}
              >
                <PartFigures {...{ colours, part }} />
              </button>
            </li>
          );
        })}
      </ul>
      <p className="mt-1 flex flex-wrap gap-x-3 border-line border-t pt-1.5">
        <button
          type="button"
          className={WORD}
          onClick={() => void import('./marking.ts').then(({ markLight }) => markLight(desk))}
        >
          mark anew
        </button>
        <button
          type="button"
          className={WORD}
          onClick={() => void copyPicture(desk, ballPicture(item), 'The lit ball')}
        >
          copy as picture
        </button>
        <button type="button" className={WORD} onClick={() => void saveBall(item, 'png')}>
          PNG
        </button>
        <button type="button" className={WORD} onClick={() => void saveBall(item, 'svg')}>
          SVG
        </button>
      </p>
    </section>
  );
}
