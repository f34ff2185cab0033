import type { Board, Picture } from '@miradero/core/schema';
import { useQueryClient } from '@tanstack/react-query';
import { type DragEvent, useEffect, useRef, useState } from 'react';
import { PERCHABLE, usePlace } from '../../commands/index.ts';
import { LANDING, Lintel, MOST_SHOWN, useBoards, useSync, useTheme } from '../../shell/index.ts';
import { useStore } from '../../state/index.ts';
import { newGesture, patchPicture } from '../../sync/index.ts';
import { KEYED_BOARDS, LANDING_PLACE } from '../commands.ts';
import { GatherLine } from '../gather-line.tsx';
import { GatherRoom } from '../gather-room.tsx';
import { GatherWords } from '../gather-words.tsx';
import { gatheringOf } from '../keeping/gathering.ts';
import { placeOnBoard } from '../keeping/place-on-board.ts';
import { OWN_DRAG } from '../use-incoming.ts';
import { useLanding } from './use-landing.ts';

/** Boards that have a key of their own here. */

const levelOf = ({ levels }: Picture, side: number) =>
  levels.find((level) => level.side >= side) ?? levels[levels.length - 1];

function Card({
  picture,
  isSelected,
  onToggle,
  onDrag,
}: {
  picture: Picture;
  isSelected: boolean;
  onToggle: () => void;
  onDrag: (event: DragEvent) => void;
}) {
  const level = levelOf(picture, 256);
  const from = picture.source.page ?? picture.source.address;
  return (
    <li>
      <button
        type="button"
        draggable
        aria-pressed={isSelected}
        className="pickable block w-full border border-line bg-raised text-left"
        onClick={onToggle}
        onDragStart={onDrag}
      >
        <span className="grid h-36 place-items-center overflow-hidden bg-[#797979]">
          {level ? (
            <img src={`/api/levels/${level.hash}`} alt="" className="max-h-36 max-w-full" draggable={false} />
          ) : (
            <span className="px-3 text-center text-[12px] text-black">{picture.failure ?? 'on its way'}</span>
          )}
        </span>
        <span className="block px-2.5 py-2">
          <span className="line-clamp-2 font-serif text-[15px] leading-snug">{picture.name}</span>
          <span className="block truncate text-[12px] text-muted">
            {from && URL.canParse(from) ? new URL(from).host : picture.fileName}
          </span>
        </span>
      </button>
    </li>
  );
}

/** A board as a place to drop on. */
function Berth({
  board,
  number,
  onTake,
}: {
  board: Board;
  number: number;
  onTake: (ids?: readonly string[]) => void;
}) {
  const [isOver, setOver] = useState(false);
  const isOwn = (event: DragEvent) => event.dataTransfer.types.includes(OWN_DRAG);
  return (
    <li>
      <button
        type="button"
        className={`flex w-full items-center gap-2 border px-3 py-2 text-left ${isOver ? 'border-verdigris' : 'border-line'} bg-raised`}
        onClick={() => onTake()}
        onDragOver={(event) => {
          if (!isOwn(event)) return;
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          setOver(false);
          if (!isOwn(event)) return;
          event.preventDefault();
          onTake(event.dataTransfer.getData(OWN_DRAG).split(','));
        }}
      >
        {number <= KEYED_BOARDS && <kbd className="key">{number}</kbd>}
        <span className="min-w-0 truncate font-serif text-[15px]">{board.name}</span>
      </button>
    </li>
  );
}

/** What came in and stands nowhere yet; it empties itself as things are placed. */
export function LandingPage() {
  useTheme(undefined);
  const sync = useSync();
  const queries = useQueryClient();
  const gathering = gatheringOf(sync);
  const notice = useStore(gathering.store, (report) => report.notice);
  const { data: pictures, error } = useLanding();
  const { data: boards = [] } = useBoards();
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    document.title = 'Landing · Miradero';
  }, []);
  const here = (pictures ?? []).filter(({ id }) => selected.has(id));
  const berths = boards.filter(({ putAway }) => !putAway).slice(0, 12);

  /** What leaves is gone from here at once; the server's word follows. */
  const leave = (gone: readonly Picture[]) => {
    const ids = new Set(gone.map(({ id }) => id));
    queries.setQueryData<Picture[]>(LANDING, (known) => known?.filter(({ id }) => !ids.has(id)));
    setSelected(new Set());
  };
  const isPlacing = useRef(false);
  const place = async (board: Board, ids?: readonly string[]) => {
    const wanted = ids ? (pictures ?? []).filter(({ id }) => ids.includes(id)) : here;
    if (wanted.length === 0) {
      gathering.say('Select what is to go there first.');
      return;
    }
    // What is being placed already is not placed once more by a second press.
    if (isPlacing.current) return;
    isPlacing.current = true;
    try {
      await placeOnBoard(sync, board.id, wanted);
      leave(wanted);
      gathering.say(
        `${wanted.length === 1 ? `“${wanted[0]!.name}” stands` : `${wanted.length} stand`} on ${board.name}.`,
      );
    } catch (failure) {
      gathering.say(failure instanceof Error ? failure.message : String(failure));
    } finally {
      isPlacing.current = false;
    }
  };
  const putAway = () => {
    const gesture = newGesture();
    const words = here.length === 1 ? `“${here[0]!.name}” put away` : `${here.length} pictures put away`;
    for (const known of here)
      void patchPicture(sync, known.id, { isPutAway: true }, { known, gesture, words });
    leave(here);
  };
  const toggle = (id: string) => {
    const next = new Set(selected);
    if (!next.delete(id)) next.add(id);
    setSelected(next);
  };
  usePlace(PERCHABLE, {
    shows: () =>
      here.length > 0
        ? { kind: 'pictures', pictures: here.slice(0, MOST_SHOWN).map(({ id }) => id) }
        : undefined,
  });
  usePlace(LANDING_PLACE, {
    placeOn: (number) => {
      const berth = berths[number - 1];
      if (berth) void place(berth);
      else gathering.say(`No board has the number ${number}.`);
    },
    putAway: () => {
      if (here.length > 0) putAway();
      else gathering.say('Select what is to be put away first.');
    },
    selectAll: () => setSelected(new Set((pictures ?? []).map(({ id }) => id))),
  });
  const onDrag = (picture: Picture) => (event: DragEvent) => {
    const ids = selected.has(picture.id) ? [...selected] : [picture.id];
    event.dataTransfer.setData(OWN_DRAG, ids.join(','));
    event.dataTransfer.effectAllowed = 'copyMove';
  };
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} />
      <GatherRoom />
      <div className="flex min-h-0 flex-1 max-md:flex-col">
        <div className="min-h-0 flex-1 overflow-y-auto px-6 py-7">
          <div className="mb-5 flex flex-wrap items-baseline gap-x-6 gap-y-2">
            <h1 className="font-serif text-[34px] leading-none tracking-[-0.015em]">Landing</h1>
            <p className="text-muted">
              {pictures && pictures.length > 0
                ? `${pictures.length} came in and stand${pictures.length === 1 ? 's' : ''} nowhere yet`
                : ''}
            </p>
            <span className="flex-1" />
            {here.length > 0 && (
              <button type="button" className="flex items-center gap-1.5" onClick={putAway}>
                <kbd className="key">H</kbd> put away {here.length}
              </button>
            )}
          </div>
          {notice && (
            <p role="status" className="mb-4 border-line border-y py-2 text-[13px]">
              {notice}
            </p>
          )}
          {error && !pictures && <p role="alert">What lies here does not come: {error.message}</p>}
          {pictures?.length === 0 && (
            <div className="border-line border-t py-8">
              <p className="max-w-md font-serif text-[18px] text-muted italic">
                Nothing waits here. What you drop or paste on this page, or clip from another, comes here
                until it stands on a board.
              </p>
              <div className="-mx-1.5 mt-3 flex flex-wrap gap-3">
                <GatherWords />
              </div>
            </div>
          )}
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(170px,1fr))] gap-4">
            {pictures?.map((picture) => (
              <Card
                key={picture.id}
                picture={picture}
                isSelected={selected.has(picture.id)}
                onToggle={() => toggle(picture.id)}
                onDrag={onDrag(picture)}
              />
            ))}
          </ul>
        </div>
        <aside
          aria-label="To a board"
          className="w-60 shrink-0 overflow-y-auto border-line border-l bg-paper px-4 py-7 max-md:max-h-[34%] max-md:w-full max-md:border-t max-md:border-l-0 max-md:py-3"
        >
          <h2 className="mb-3 font-serif text-[18px]">To a board</h2>
          <ul className="grid gap-2 max-md:grid-cols-2">
            {berths.map((board, index) => (
              <Berth
                key={board.id}
                board={board}
                number={index + 1}
                onTake={(ids) => void place(board, ids)}
              />
            ))}
          </ul>
          <p className="mt-3 text-[12px] text-muted">Drag there, or select and press the number.</p>
        </aside>
      </div>
    </main>
  );
}
