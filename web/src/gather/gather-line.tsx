import { Popover } from 'radix-ui';
import type { Desk } from '../desk/index.ts';
import { makeLinkCard } from '../items/index.ts';
import { useSync } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { AimMark } from './aim-mark.tsx';
import { forgetErrands, resumeErrands } from './keeping/errands.ts';
import { gatheringOf } from './keeping/gathering.ts';

const WORD = 'underline decoration-1 underline-offset-3';

/** What is being gathered for, and how far what is coming in is: what every lintel tells of gathering. */
export const GatherLine = ({ desk }: { desk?: Desk }) => (
  <>
    <AimMark />
    <IntakeLine {...(desk ? { desk } : {})} />
  </>
);

/** One quiet line: how many of what is coming are in, what failed and why; stop, and try again. */
export function IntakeLine({ desk }: { desk?: Desk }) {
  const sync = useSync();
  const gathering = gatheringOf(sync);
  const { total, done, failures, isStopped } = useStore(gathering.store);
  const isBusy = done < total;
  const forget = () => {
    gathering.forget();
    void forgetErrands(sync);
  };
  return (
    <div className="flex min-w-0 items-center gap-4 whitespace-nowrap text-[13px]" data-testid="gathering">
      {isBusy && (
        <span className="text-muted">
          <span className="max-md:hidden">Taking in </span>
          <span className="figures">
            {done} / {total}
          </span>{' '}
          {isStopped ? (
            'stopping …'
          ) : (
            <button type="button" className={WORD} onClick={() => gathering.stop()}>
              stop
            </button>
          )}
        </span>
      )}
      {failures.length > 0 && (
        <Popover.Root>
          <Popover.Trigger className={`text-vermilion ${WORD}`}>
            {failures.length} did not come
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              aria-label="What did not come in"
              align="end"
              sideOffset={8}
              className="z-30 w-80 border border-line bg-raised p-4 text-[13px] text-ink"
            >
              <h2 className="font-serif text-lg">What did not come in</h2>
              <ul className="my-2 max-h-64 overflow-auto">
                {failures.map(({ what, address, why }, index) => (
                  <li key={index} className="border-line border-t py-1.5">
                    <div className="break-words font-serif italic">{what}</div>
                    {address && address !== what && (
                      <div className="select-text break-all text-[12px]">{address}</div>
                    )}
                    <div className="text-muted">{why}</div>
                    {desk && address && (
                      <button
                        type="button"
                        className={WORD}
                        onClick={() =>
                          makeLinkCard(desk, address, desk.view?.camera.centre ?? { x: 0, y: 0 }, {})
                        }
                      >
                        keep the address as a card
                      </button>
                    )}
                  </li>
                ))}
              </ul>
              <div className="flex gap-4">
                {failures.some(({ address }) => address) && (
                  <button
                    type="button"
                    className="border border-line bg-paper px-2 py-1"
                    onClick={() => {
                      gathering.forget();
                      void resumeErrands(sync, desk, true);
                    }}
                  >
                    Ask the addresses again
                  </button>
                )}
                <button type="button" className={`text-muted ${WORD}`} onClick={forget}>
                  Clear this list
                </button>
              </div>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </div>
  );
}
