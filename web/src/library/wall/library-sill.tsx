import type { Picture, StandsOn } from '@miradero/core/schema';
import { Link } from 'react-router';
import { useRun } from '../../commands/index.ts';
import { useSync } from '../../shell/index.ts';
import { useStore } from '../../state/index.ts';
import type { Asked } from '../finding/library-query.ts';
import { bulkTeller } from './bulk-teller.ts';
import type { LibraryHand } from './use-library-hand.ts';

/** CSS pixels that the longest side of a picture may take on the wall. */
export const SIZES = { least: 64, most: 320, first: 150 } as const;

/** So many boards are named; a picture may stand on several, so the counts are not added up. */
const NAMED_BOARDS = 3;

function standsWords(boards: readonly Omit<StandsOn, 'since'>[], pictures: number): string {
  const named = boards.slice(0, NAMED_BOARDS);
  const more = boards.length - named.length;
  const rest = more > 0 ? ` and ${more} more` : '';
  return pictures === 1
    ? `It stands on ${named.map(({ name }) => name).join(', ')}${rest}, and stays there.`
    : `There stand ${named.map(({ name, count }) => `${count} on ${name}`).join(', ')}${rest}, and they stay there.`;
}

const word = 'word flex items-center gap-1.5 whitespace-nowrap px-1.5 py-1 hover:bg-raised';

/** What can be done with what is selected, what was just done, and how the pictures hang. */
export function LibrarySill({
  asked,
  selected,
  hand,
  notice,
  query,
  size,
  onAsk,
  onOpen,
  onBerths,
  onSize,
  onView,
}: {
  asked: Asked;
  selected: readonly Picture[];
  hand: LibraryHand;
  notice: string;
  query: string;
  /** Undefined where they are listed. */
  size: number | undefined;
  onAsk: (asked: Asked) => void;
  onOpen: () => void;
  onBerths: () => void;
  onSize: (size: number) => void;
  onView: () => void;
}) {
  const run = useRun();
  const { shelf, steps } = useSync();
  const told = useStore(bulkTeller.notice);
  const last = useStore(steps.store, ({ undo }) => undo);
  const ask = (next: Asked) => {
    // Its name is said by the search.
    shelf.learn(selected[0]!);
    onAsk(next);
  };
  return (
    <footer className="flex h-11 shrink-0 items-center gap-1 border-line border-t bg-paper px-3.5">
      <div className="sill-words flex min-w-0 flex-1 items-center overflow-x-auto">
        {hand.sure ? (
          <>
            <span className="whitespace-nowrap pr-2">{standsWords(hand.sure, selected.length)}</span>
            <button type="button" className={word} onClick={() => void hand.putAway(true)}>
              put away all the same
            </button>
            <button type="button" className={word} onClick={() => hand.leave()}>
              leave them
            </button>
          </>
        ) : selected.length > 0 ? (
          <>
            <span className="mr-2 max-w-48 shrink-0 truncate font-serif text-[15px] italic">
              {selected.length === 1 ? selected[0]!.name : `${selected.length} pictures`}
            </span>
            <button type="button" className={word} onClick={() => onOpen()}>
              <kbd className="key">Enter</kbd> look at it
            </button>
            <button type="button" className={word} onClick={() => onBerths()}>
              <kbd className="key">B</kbd> to a board or part
            </button>
            {selected.length === 1 && (
              <>
                <button type="button" className={word} onClick={() => ask({ like: selected[0]!.id })}>
                  like this
                </button>
                <button type="button" className={word} onClick={() => ask({ coloursOf: selected[0]!.id })}>
                  in its colours
                </button>
              </>
            )}
            <button type="button" className={word} onClick={() => void hand.putAway()}>
              <kbd className="key">H</kbd> {asked.isPutAway ? 'bring back' : 'put away'}
            </button>
          </>
        ) : (
          <span className="truncate text-muted">
            {asked.isPutAway
              ? 'What is put away goes for good after 30 days, unless it stands on a board.'
              : 'Press a picture to say what it is for; drag it to a board or a part.'}
          </span>
        )}
        {last && (
          <button type="button" className={word} title={last} onClick={() => run('undo')}>
            <kbd className="key">Ctrl Z</kbd> take back
          </button>
        )}
      </div>
      {(told || notice) && (
        <span role="status" className="max-w-80 truncate px-2 text-[13px] text-muted">
          {told || notice}
        </span>
      )}
      <Link to={`/sources?${query}`} className={word}>
        sources
      </Link>
      <button type="button" className={word} onClick={onView}>
        {size === undefined ? 'as a wall' : 'as a list'}
      </button>
      {size !== undefined && (
        <input
          type="range"
          aria-label="Size of the pictures"
          className="slider w-28"
          min={SIZES.least}
          max={SIZES.most}
          value={size}
          onChange={(event) => onSize(Number(event.target.value))}
        />
      )}
    </footer>
  );
}
