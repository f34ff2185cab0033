import type { Board } from '@miradero/core/schema';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { FINDS, usePlace } from '../commands/index.ts';
import { GatherLine, GatherRoom } from '../gather/index.ts';
import {
  type BoardActions,
  Choices,
  Lintel,
  useBoardActions,
  useBoards,
  useSearchSteps,
  useTheme,
} from '../shell/index.ts';
import { recall, remember } from '../state/index.ts';
import { BoardCard } from './board-card.tsx';
import { FirstMinute, useFirstBoard } from './first-minute.tsx';
import { LeftBehind } from './left-behind.tsx';
import { NewBoard } from './new-board.tsx';

const ORDERS = { recent: 'last changed', name: 'by name' } as const;
type Order = keyof typeof ORDERS;
const ORDER_KEY = 'miradero-order-of-boards';

const keptOrder = (): Order => (recall(ORDER_KEY) === 'name' ? 'name' : 'recent');

/** Boards whose name holds every word, in the order asked for. */
function arranged(boards: readonly Board[], words: string, order: Order): Board[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = boards.filter(({ name }) => wanted.every((word) => name.toLowerCase().includes(word)));
  const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
  return found.sort((a, b) =>
    order === 'name' ? byName.compare(a.name, b.name) : b.changedAt.localeCompare(a.changedAt),
  );
}

const parametersOf = (find: string) => new URLSearchParams(find === '' ? {} : { find });

function Grid({ boards, actions }: { boards: readonly Board[]; actions: BoardActions }) {
  return (
    <ul className="grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-x-7 gap-y-9">
      {boards.map((board) => (
        <BoardCard key={board.id} board={board} actions={actions} />
      ))}
    </ul>
  );
}

/** What was put away, asked for. */
function PutAway({ boards, actions }: { boards: readonly Board[]; actions: BoardActions }) {
  const [isShown, setShown] = useState(false);
  if (boards.length === 0) return null;
  return (
    <section className="mt-10 border-line border-t pt-4">
      <button
        type="button"
        aria-expanded={isShown}
        className="mb-4 text-[13px] text-muted underline underline-offset-3"
        onClick={() => setShown(!isShown)}
      >
        {isShown ? 'Hide' : 'Show'} what is put away ({boards.length})
      </button>
      {isShown && <Grid boards={boards} actions={actions} />}
    </section>
  );
}

/** Says what is to be done where no board is shown. */
function Nothing({ words }: { words: string }) {
  return (
    <p className="border-line border-t py-8 font-serif text-[18px] text-muted italic">
      No board is called “{words.trim()}”.
    </p>
  );
}

/** Frames in place of boards that are on their way. */
const Waiting = () => (
  <ul aria-hidden className="grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-x-7">
    {[0, 1, 2].map((place) => (
      <li key={place} className="aspect-[16/10] border border-line" />
    ))}
  </ul>
);

/** Every board of the owner. */
export function BoardsPage() {
  useTheme(undefined);
  const { data, error, refetch } = useBoards();
  // Those of the easel have a page of their own.
  const boards = data?.filter(({ sheet }) => sheet === null);
  const [parameters, setParameters] = useSearchParams();
  const justPutAway = parameters.get('put-away');
  const forgetPutAway = useCallback(() => setParameters({}, { replace: true }), [setParameters]);
  const { actions, trouble } = useBoardActions((id) => setParameters({ 'put-away': id }));
  const search = useSearchSteps(setParameters);
  const words = parameters.get('find') ?? '';
  const [order, setOrder] = useState(keptOrder);
  const firstBoard = useFirstBoard();
  const navigate = useNavigate();
  const field = useRef<HTMLInputElement>(null);
  usePlace(FINDS, { find: () => field.current?.focus() });
  useEffect(() => {
    document.title = 'Boards · Miradero';
  }, []);
  const shown = arranged(
    (boards ?? []).filter((board) => !board.putAway),
    words,
    order,
  );
  const away = arranged(
    (boards ?? []).filter((board) => board.putAway),
    words,
    order,
  );
  const isFirst = boards !== undefined && !boards.some((board) => !board.putAway);
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} />
      <GatherRoom {...(isFirst ? { onBring: firstBoard } : {})} />
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto max-w-6xl px-6 py-9">
          <div className="mb-7 flex flex-wrap items-end gap-x-6 gap-y-4">
            <h1 className="font-serif text-[34px] leading-none tracking-[-0.015em]">Boards</h1>
            {boards && boards.length > 0 && (
              <>
                <Choices
                  label="Order of the boards"
                  words={ORDERS}
                  value={order}
                  onChange={(next) => {
                    remember(ORDER_KEY, next);
                    setOrder(next);
                  }}
                />
                <input
                  ref={field}
                  type="search"
                  aria-label="Find a board by its name"
                  placeholder="Find a board"
                  className="w-44 border-line border-b bg-transparent px-1 py-1 placeholder:text-muted"
                  value={words}
                  onChange={(event) => search(parametersOf(event.target.value), true)}
                />
              </>
            )}
            <span className="flex-1" />
            <NewBoard />
          </div>
          {justPutAway && <LeftBehind key={justPutAway} board={justPutAway} onDone={forgetPutAway} />}
          {trouble && (
            <p role="alert" className="mb-4 text-vermilion">
              {trouble}
            </p>
          )}
          {error && !boards && (
            <p role="alert" className="border-line border-t py-8">
              The boards do not come: {error.message}{' '}
              <button type="button" className="underline underline-offset-3" onClick={() => void refetch()}>
                Ask again
              </button>
            </p>
          )}
          {!boards && !error && <Waiting />}
          {isFirst && words.trim() === '' ? (
            <FirstMinute onName={() => void navigate('/boards', { state: { isNaming: true } })} />
          ) : (
            boards && shown.length === 0 && <Nothing words={words} />
          )}
          <Grid boards={shown} actions={actions} />
          <PutAway boards={away} actions={actions} />
        </div>
      </div>
    </main>
  );
}
