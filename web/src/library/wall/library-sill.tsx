import type { Picture, StandsOn } from '@miradero/core/schema';
import { Link } from 'react-router';
import { useRun } from '../../commands/index.ts';
import { type Fitting, FittingRow, useNarrow, useSync } from '../../shell/index.ts';
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
  const isNarrow = useNarrow();
  const ask = (next: Asked) => {
    // Its name is said by the search.
    shelf.learn(selected[0]!);
    onAsk(next);
  };
  const pressed = (id: string, words: string, onClick: () => void, key = ''): Fitting => ({
    id,
    node: (
      <button type="button" className={word} onClick={onClick}>
        {key && <kbd className="key">{key}</kbd>} {words}
      </button>
    ),
  });
  const said = (words: string): Fitting => ({
    id: 'said',
    node: <span className="pr-2 text-muted md:whitespace-nowrap">{words}</span>,
  });
  const [only] = selected.length === 1 ? selected : [];
  const items: readonly Fitting[] = hand.sure
    ? [
        pressed('sure', 'put away all the same', () => void hand.putAway(true)),
        pressed('leave', 'leave them', () => hand.leave()),
      ]
    : selected.length > 0
      ? [
          pressed('open', 'look at it', onOpen, 'Enter'),
          pressed('berths', 'to a board or part', onBerths, 'B'),
          pressed('perch', 'perch', () => run('perch'), 'P'),
          ...(only
            ? [
                pressed('like', 'like this', () => ask({ like: only.id })),
                pressed('colours', 'in its colours', () => ask({ coloursOf: only.id })),
              ]
            : []),
          pressed('away', asked.isPutAway ? 'bring back' : 'put away', () => void hand.putAway(), 'H'),
        ]
      : [
          said(
            asked.isPutAway
              ? 'What is put away goes for good after 30 days, unless it stands on a board.'
              : 'Press a picture to say what it is for.',
          ),
        ];
  const ways: readonly Fitting[] = [
    {
      id: 'sources',
      node: (
        <Link to={`/sources?${query}`} className={word}>
          sources
        </Link>
      ),
    },
    pressed('view', size === undefined ? 'as a wall' : 'as a list', onView),
    pressed('keys', 'keys', () => run('keys')),
    pressed('palette', 'anything', () => run('palette')),
  ];
  return (
    <footer className="relative flex h-11 shrink-0 items-center gap-1 border-line border-t bg-paper px-3.5 max-md:px-2">
      {selected.length > 0 && (
        <span className="mr-2 max-w-48 shrink-0 truncate font-serif text-[15px] italic max-md:max-w-20">
          {only ? only.name : `${selected.length} pictures`}
        </span>
      )}
      <FittingRow
        className="sill-words"
        items={items}
        moreWords={() => 'more'}
        label="What else can be done"
        also={isNarrow ? ways : []}
      />
      {(hand.sure || told || notice) && (
        <span
          role="status"
          className="max-w-96 truncate px-2 text-[13px] text-muted max-md:absolute max-md:inset-x-0 max-md:bottom-full max-md:max-w-none max-md:whitespace-normal max-md:bg-raised max-md:py-1"
        >
          {hand.sure ? standsWords(hand.sure, selected.length) : told || notice}
        </span>
      )}
      {last && (
        <button type="button" className={word} title={last} onClick={() => run('undo')}>
          undo
        </button>
      )}
      {!isNarrow && ways.map(({ id, node }) => <span key={id}>{node}</span>)}
      {size !== undefined && !isNarrow && (
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
