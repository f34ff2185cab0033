import type { LibrarySort, Picture } from '@miradero/core/schema';
import { type DragEvent, useCallback, useEffect, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { FINDS, PERCHABLE, usePlace } from '../../commands/index.ts';
import { GatherLine, GatherRoom, gatheringOf, OWN_DRAG } from '../../gather/index.ts';
import {
  Lintel,
  MOST_SHOWN,
  useFreshSubjects,
  useSaved,
  useSearchSteps,
  useSync,
  useTheme,
} from '../../shell/index.ts';
import { recall, remember, useStore } from '../../state/index.ts';
import type { PictureShelf } from '../../sync/index.ts';
import { LIBRARY } from '../commands.ts';
import { type Asked, askedOf, parametersOf } from '../finding/library-query.ts';
import { SearchLine } from '../finding/search-line.tsx';
import { allOf, useLibrary, useLibraryWords } from '../finding/use-library.ts';
import { useSelection } from '../finding/use-selection.ts';
import { ManyLabel, NothingSelected } from '../labels/many-label.tsx';
import { Berths } from '../wall/berths.tsx';
import { bulkTeller } from '../wall/bulk-teller.ts';
import { Columns } from '../wall/columns.tsx';
import { LibrarySill, SIZES } from '../wall/library-sill.tsx';
import { useLibraryHand } from '../wall/use-library-hand.ts';
import { Wall } from '../wall/wall.tsx';

const SIZE_KEY = 'miradero-size-in-library';
const VIEW_KEY = 'miradero-view-of-library';

const keptSize = () => {
  const kept = Number(recall(SIZE_KEY));
  return kept >= SIZES.least && kept <= SIZES.most ? kept : SIZES.first;
};

/** Lets the names of pictures that a search speaks of be known. */
function useNamesOf(shelf: PictureShelf, { like, coloursOf }: Asked): void {
  const [, redraw] = useState(0);
  const id = like ?? coloursOf;
  useEffect(() => {
    if (!id || shelf.get(id)) return;
    shelf.want([id]);
    return shelf.subscribe((ids) => ids.has(id) && redraw((count) => count + 1));
  }, [shelf, id]);
}

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
  const [isList, setList] = useState(() => recall(VIEW_KEY) === 'list');
  const [side, setSide] = useState<'label' | 'berths' | 'asked' | undefined>('label');
  const field = useRef<HTMLInputElement>(null);
  const across = useRef(1);
  const reveal = useRef<(index: number) => void>(() => {});
  useNamesOf(sync.shelf, asked);
  const saved = useSaved();
  const gathering = gatheringOf(sync);
  const notice = useStore(gathering.store, (report) => report.notice);
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
  const search = useSearchSteps(setParameters);
  const clearedAt = useRef(query);
  const onAsk = useCallback(
    (next: Asked, isTyping = false) => search(parametersOf(next), isTyping),
    [search],
  );
  // Also when back or forward goes to another search.
  useEffect(() => {
    if (query !== clearedAt.current) clear();
    clearedAt.current = query;
  }, [query, clear]);
  // What is selected is shown as it is known now.
  const shown = selection.pictures.map((picture) => {
    for (let index = view.first; index <= view.last; index += 1)
      if (found.at(index)?.id === picture.id) return found.at(index)!;
    return picture;
  });

  const open = (picture: Picture) =>
    void navigate(`/library/${picture.id}`, { state: { from: `/library?${query}` } });
  const hand = useLibraryHand(asked, selection);
  const onDrag = (picture: Picture, event: DragEvent) => {
    const dragged = selection.has(picture.id) ? ids : [picture.id];
    if (!selection.has(picture.id)) selection.set([picture]);
    event.dataTransfer.setData(OWN_DRAG, dragged.join(','));
    event.dataTransfer.effectAllowed = 'copyMove';
    // The places to drop on must not move what is being taken hold of.
    setTimeout(() => setSide('berths'));
  };
  /** A key that finds nothing to act on says so. */
  const isAny = () => {
    if (ids.length === 0) bulkTeller.say('Select a picture first: press it, or go to it with the arrows.');
    return ids.length > 0;
  };
  usePlace(LIBRARY, {
    step(columns, rows, isRange) {
      const by = ids.length > 0 ? columns + rows * across.current : 0;
      const to = Math.max(0, Math.min(found.total - 1, selection.focus + by));
      selection.moveFocus(to, isRange);
      reveal.current(to);
    },
    selectAll: () => void allOf(asked).then(selection.set),
    clear,
    open: () => isAny() && open(selection.pictures.at(-1)!),
    putAway: () => isAny() && void hand.putAway(),
    lay: (pile) =>
      isAny() && void bulkTeller.tell(sync, { pictures: ids, pile }, `Laid on the pile “${pile}”`),
    toggleBerths: () => isAny() && setSide(side === 'asked' ? 'label' : 'asked'),
  });
  useEffect(() => {
    const onEnd = () => setSide('label');
    window.addEventListener('dragend', onEnd);
    return () => window.removeEventListener('dragend', onEnd);
  }, []);
  usePlace(PERCHABLE, {
    shows: () => (ids.length > 0 ? { kind: 'pictures', pictures: ids.slice(0, MOST_SHOWN) } : undefined),
  });
  usePlace(FINDS, { find: () => field.current?.focus() });
  const props = {
    ...{ found, selection, size, tags, across, reveal, onView, onDrag },
    onOpen: open,
  };
  const nameOf = (id: string) => sync.shelf.get(id)?.name ?? 'a picture';
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} />
      <h1 className="sr-only">Library</h1>
      <GatherRoom />
      <SearchLine
        asked={asked}
        onAsk={onAsk}
        total={found.trouble || found.isWaiting ? undefined : found.total}
        isOld={found.isOld || (saved.reach !== undefined && found.total > 0)}
        isForgiven={found.isForgiven}
        nameOf={nameOf}
        field={field}
      />
      <div className="relative flex min-h-0 min-w-0 flex-1">
        {found.total === 0 && !found.isWaiting ? (
          <div className="min-w-0 flex-1 px-6 py-10">
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
        {side === 'berths' || side === 'asked' ? (
          <Berths
            isAsked={side === 'asked'}
            onBoard={hand.place}
            onPart={(subject, part, dragged) =>
              void bulkTeller.tell(
                sync,
                { pictures: [...(dragged.length > 0 ? dragged : ids)], addParts: [part.id] },
                `Given to ${subject.name}${part.id === subject.id ? '' : `, ${part.name}`}`,
              )
            }
            onClose={() => setSide('label')}
          />
        ) : (
          // Always there: were it to come with the first press, the second would meet another picture.
          side === 'label' &&
          (shown.length > 0 ? (
            <ManyLabel key={ids.join().slice(0, 400)} pictures={shown} />
          ) : (
            <NothingSelected tags={tags} onAsk={(part) => onAsk({ ...asked, ...part })} />
          ))
        )}
      </div>
      <LibrarySill
        asked={asked}
        selected={shown}
        hand={hand}
        notice={notice}
        query={query}
        onAsk={onAsk}
        onOpen={() => open(selection.pictures.at(-1)!)}
        onBerths={() => setSide('asked')}
        size={isList ? undefined : size}
        onSize={(next) => {
          remember(SIZE_KEY, String(next));
          setSize(next);
        }}
        onView={() => {
          remember(VIEW_KEY, isList ? 'wall' : 'list');
          setList(!isList);
        }}
      />
    </main>
  );
}
