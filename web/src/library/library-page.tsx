import type { Board, LibrarySort, Picture, StandsOn } from '@miradero/core/schema';
import { type DragEvent, useCallback, useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { CommandRoom } from '../commands/index.ts';
import { GatherLine, GatherRoom, gatheringOf, LandingLink, OWN_DRAG, placeOnBoard } from '../gather/index.ts';
import {
  BoardTabs,
  isTyping,
  LibraryLinks,
  Lintel,
  useFreshSubjects,
  useSync,
  useTheme,
} from '../shell/index.ts';
import { askServer } from '../sync/index.ts';
import { Berths } from './berths.tsx';
import { bulkHistory } from './bulk-history.ts';
import { Columns } from './columns.tsx';
import { type Asked, askedOf, parametersOf } from './library-query.ts';
import { ManyLabel } from './many-label.tsx';
import { SearchLine } from './search-line.tsx';
import { allOf, useLibrary, useLibraryWords } from './use-library.ts';
import { useSelection } from './use-selection.ts';
import { Wall } from './wall.tsx';

const SIZE_KEY = 'miradero-size-in-library';
const VIEW_KEY = 'miradero-view-of-library';
const SIZES = { least: 64, most: 320, first: 150 } as const;
const PILE_KEYS = { '1': 'now', '2': 'maybe', '3': 'no' } as const;

const keptSize = () => {
  const kept = Number(localStorage.getItem(SIZE_KEY));
  return kept >= SIZES.least && kept <= SIZES.most ? kept : SIZES.first;
};

/** Words for boards on which something stands: "Ferry: form and 2 more". */
const boardWords = (boards: readonly StandsOn[]): string =>
  boards.length === 1 ? boards[0]!.name : `${boards[0]!.name} and ${boards.length - 1} more`;

/** All pictures: searched, ordered, and told what they are for. */
export function LibraryPage() {
  useTheme(undefined);
  const sync = useSync();
  const navigate = useNavigate();
  useFreshSubjects();
  const [parameters, setParameters] = useSearchParams();
  const query = parameters.toString();
  const asked = askedOf(new URLSearchParams(query));
  const [view, setView] = useState({ first: 0, last: 60 });
  const found = useLibrary(asked, view.first, view.last);
  const selection = useSelection(found);
  const { tags } = useLibraryWords();
  const [size, setSize] = useState(keptSize);
  const [isList, setList] = useState(() => localStorage.getItem(VIEW_KEY) === 'list');
  const [side, setSide] = useState<'label' | 'berths' | undefined>('label');
  const [sure, setSure] = useState<StandsOn[]>();
  const field = useRef<HTMLInputElement>(null);
  const across = useRef(1);
  const reveal = useRef<(index: number) => void>(() => {});
  useSyncExternalStore(bulkHistory.subscribe, bulkHistory.snapshot);
  const gathering = gatheringOf(sync);
  const { notice } = useSyncExternalStore(gathering.subscribe, () => gathering.report);
  useEffect(() => {
    document.title = 'Library · Miradero';
  }, []);
  const ids = selection.pictures.map(({ id }) => id);
  const onView = useCallback(
    (first: number, last: number) =>
      setView((was) => (was.first === first && was.last === last ? was : { first, last })),
    [],
  );
  const { clear } = selection;
  const onAsk = useCallback(
    (next: Asked) => {
      clear();
      setParameters(parametersOf(next), { replace: true });
    },
    [setParameters, clear],
  );
  // What is selected is shown as it is known now.
  const shown = selection.pictures.map((picture) => {
    for (let index = view.first; index <= view.last; index += 1)
      if (found.at(index)?.id === picture.id) return found.at(index)!;
    return picture;
  });

  const open = (picture: Picture) =>
    void navigate(`/library/${picture.id}`, { state: { from: `/library?${query}` } });
  const place = (board: Board, dragged: readonly string[]) => {
    const wanted = dragged.length > 0 ? dragged : ids;
    const pictures = selection.pictures.filter(({ id }) => wanted.includes(id));
    if (pictures.length === 0) return;
    placeOnBoard(sync, board.id, pictures).then(
      () =>
        bulkHistory.say(
          `${pictures.length === 1 ? `“${pictures[0]!.name}” stands` : `${pictures.length} stand`} on ${board.name}.`,
        ),
      (error: Error) => bulkHistory.say(error.message),
    );
  };
  const putAway = async (isSure = false) => {
    if (ids.length === 0) return;
    if (asked.isPutAway) {
      await bulkHistory.tell({ pictures: ids, isPutAway: false }, 'Brought back');
      clear();
      return;
    }
    const { boards } = isSure
      ? { boards: [] }
      : await askServer<{ boards: StandsOn[] }>('/api/library/standing', 'POST', { pictures: ids });
    if (boards.length > 0) {
      setSure(boards);
      return;
    }
    setSure(undefined);
    await bulkHistory.tell({ pictures: ids, isPutAway: true }, 'Put away');
    clear();
  };
  const onDrag = (picture: Picture, event: DragEvent) => {
    const dragged = selection.has(picture.id) ? ids : [picture.id];
    if (!selection.has(picture.id)) selection.set([picture]);
    event.dataTransfer.setData(OWN_DRAG, dragged.join(','));
    event.dataTransfer.effectAllowed = 'copyMove';
    // The places to drop on must not move what is being taken hold of.
    setTimeout(() => setSide('berths'));
  };
  const onKey = (event: KeyboardEvent) => {
    if (isTyping(event) || (event.target as HTMLElement).closest?.('[role="dialog"], button')) return;
    const isMod = event.ctrlKey || event.metaKey;
    const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -across.current, ArrowDown: across.current }[
      event.key
    ];
    const pile = PILE_KEYS[event.key as keyof typeof PILE_KEYS];
    if (step !== undefined && !isMod) {
      const to = Math.max(0, Math.min(found.total - 1, selection.focus + (ids.length > 0 ? step : 0)));
      selection.moveFocus(to, event.shiftKey);
      reveal.current(to);
    } else if (isMod && event.key === 'a') void allOf(asked).then(selection.set);
    else if (isMod && event.key === 'z') void bulkHistory.undo();
    else if (isMod || event.altKey) return;
    else if (event.key === 'Enter' && selection.pictures.length > 0) open(selection.pictures.at(-1)!);
    else if (event.key === 'Escape') clear();
    else if (event.key === 'h') void putAway();
    else if (event.key === 'b') setSide(side === 'berths' ? 'label' : 'berths');
    else if (pile && ids.length > 0)
      void bulkHistory.tell({ pictures: ids, pile }, `Laid on the pile “${pile}”`);
    else return;
    event.preventDefault();
  };
  useEffect(() => {
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  useEffect(() => {
    const onEnd = () => setSide('label');
    window.addEventListener('dragend', onEnd);
    return () => window.removeEventListener('dragend', onEnd);
  }, []);
  const find = useCallback(() => field.current?.focus(), []);
  const props = {
    ...{ found, selection, size, tags, across, reveal, onView, onDrag },
    onOpen: open,
  };
  const nameOf = (id: string) => sync.shelf.get(id)?.name ?? parameters.get('called') ?? 'a picture';
  const word = 'word flex items-center gap-1.5 whitespace-nowrap px-1.5 py-1 hover:bg-raised';
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />}>
        <span className="font-serif text-[16px]">Library</span>
        <LibraryLinks isLibrary />
        <LandingLink />
        <BoardTabs />
      </Lintel>
      <CommandRoom onFind={find} />
      <GatherRoom />
      <SearchLine
        asked={asked}
        onAsk={onAsk}
        total={found.total}
        isForgiven={found.isForgiven}
        nameOf={nameOf}
        field={field}
      />
      <div className="flex min-h-0 flex-1">
        {found.total === 0 && !found.isWaiting ? (
          <div className="flex-1 px-6 py-10">
            {found.trouble ? (
              <p role="alert">The library does not answer: {found.trouble} It is asked again by itself.</p>
            ) : (
              <p className="max-w-md font-serif text-[18px] text-muted italic">
                {query === ''
                  ? 'No picture is here yet. Drop or paste some onto this page, or onto a board.'
                  : 'No picture is like that. Take a word away, or look for something else.'}
              </p>
            )}
          </div>
        ) : isList ? (
          <Columns
            {...props}
            sort={asked.sort ?? 'added'}
            onSort={(sort: LibrarySort) =>
              onAsk({ ...asked, sort, isReversed: asked.sort === sort && !asked.isReversed })
            }
          />
        ) : (
          <Wall {...props} />
        )}
        {side === 'berths' ? (
          <Berths
            onBoard={place}
            onPart={(subject, part, dragged) =>
              void bulkHistory.tell(
                { pictures: [...(dragged.length > 0 ? dragged : ids)], addParts: [part.id] },
                `Given to ${subject.name}${part.id === subject.id ? '' : `, ${part.name}`}`,
              )
            }
            onClose={() => setSide('label')}
          />
        ) : (
          side === 'label' &&
          shown.length > 0 && <ManyLabel key={ids.join().slice(0, 400)} pictures={shown} onTold={() => {}} />
        )}
      </div>
      <footer className="flex h-11 shrink-0 items-center gap-1 border-line border-t bg-paper px-3.5">
        <div className="sill-words flex min-w-0 flex-1 items-center overflow-x-auto">
          {sure ? (
            <>
              <span className="whitespace-nowrap pr-2">
                {sure.reduce((sum, { count }) => sum + count, 0)} of them stand on {boardWords(sure)}, and
                stay there.
              </span>
              <button type="button" className={word} onClick={() => void putAway(true)}>
                put away all the same
              </button>
              <button type="button" className={word} onClick={() => setSure(undefined)}>
                leave them
              </button>
            </>
          ) : ids.length > 0 ? (
            <>
              <span className="mr-2 max-w-48 shrink-0 truncate font-serif text-[15px] italic">
                {ids.length === 1 ? shown[0]!.name : `${ids.length} pictures`}
              </span>
              <button type="button" className={word} onClick={() => open(selection.pictures.at(-1)!)}>
                <kbd className="key">Enter</kbd> look at it
              </button>
              <button type="button" className={word} onClick={() => setSide('berths')}>
                <kbd className="key">B</kbd> to a board or part
              </button>
              {ids.length === 1 && (
                <>
                  <button type="button" className={word} onClick={() => onAsk({ like: ids[0]! })}>
                    like this
                  </button>
                  <button type="button" className={word} onClick={() => onAsk({ coloursOf: ids[0]! })}>
                    in its colours
                  </button>
                </>
              )}
              <button type="button" className={word} onClick={() => void putAway()}>
                <kbd className="key">H</kbd> {asked.isPutAway ? 'bring back' : 'put away'}
              </button>
            </>
          ) : (
            <span className="whitespace-nowrap text-muted">
              {asked.isPutAway
                ? 'What is put away goes for good after 30 days, unless it stands on a board.'
                : 'Press a picture to say what it is for; drag it to a board or a part.'}
            </span>
          )}
        </div>
        {(bulkHistory.notice || notice) && (
          <span role="status" className="max-w-80 truncate px-2 text-[13px] text-muted">
            {bulkHistory.notice || notice}
          </span>
        )}
        {bulkHistory.last && (
          <button
            type="button"
            className={word}
            title={bulkHistory.last}
            onClick={() => void bulkHistory.undo()}
          >
            <kbd className="key">Ctrl Z</kbd> take back
          </button>
        )}
        <Link to={`/sources?${query}`} className={word}>
          sources
        </Link>
        <button
          type="button"
          className={word}
          onClick={() => {
            localStorage.setItem(VIEW_KEY, isList ? 'wall' : 'list');
            setList(!isList);
          }}
        >
          {isList ? 'as a wall' : 'as a list'}
        </button>
        {!isList && (
          <input
            type="range"
            aria-label="Size of the pictures"
            className="slider w-28"
            min={SIZES.least}
            max={SIZES.most}
            value={size}
            onChange={(event) => {
              localStorage.setItem(SIZE_KEY, event.target.value);
              setSize(Number(event.target.value));
            }}
          />
        )}
      </footer>
    </main>
  );
}
