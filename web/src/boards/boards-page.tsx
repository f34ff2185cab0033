import { cleanName } from '@miradero/core/picture';
import type { Board } from '@miradero/core/schema';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { EditableName, Lintel, useSync, useTheme } from '../shell/index.ts';
import { askServer } from '../sync/index.ts';
import { BoardStrip } from './board-strip.tsx';

const BOARDS = ['boards'];

function useBoards() {
  const queries = useQueryClient();
  const { channel } = useSync();
  useEffect(
    () =>
      channel.subscribe((message) => {
        if (message.kind === 'event' && message.event.kind !== 'picture') {
          void queries.invalidateQueries({ queryKey: BOARDS });
        }
      }),
    [channel, queries],
  );
  return useQuery({
    queryKey: BOARDS,
    queryFn: () => askServer<{ boards: Board[] }>('/api/boards').then(({ boards }) => boards),
  });
}

const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long' });
const HOUR = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
function whenWords(iso: string): string {
  const date = new Date(iso);
  const isToday = date.toDateString() === new Date().toDateString();
  return isToday ? `today, ${HOUR.format(date)}` : DAY.format(date);
}

/** One board as an entry in the register. */
function BoardRow({ board, onPatch }: { board: Board; onPatch: (id: string, patch: object) => void }) {
  return (
    <li
      className="group grid grid-cols-[minmax(0,1fr)_auto] gap-x-6 border-line border-t py-4"
      data-board={board.id}
    >
      <div className="min-w-0">
        <EditableName
          label="Name of the board"
          className="text-[21px]"
          name={board.name}
          onRename={(name) => onPatch(board.id, { name })}
        />
        <p className="mt-0.5 text-[13px] text-muted">
          {board.pictures === 1 ? '1 picture' : `${board.pictures} pictures`} · changed{' '}
          {whenWords(board.changedAt)}
        </p>
      </div>
      <div className="flex items-start gap-2 text-[13px]">
        <button
          type="button"
          className="border border-line px-2.5 py-1 hover:bg-raised"
          onClick={() => onPatch(board.id, { putAway: !board.putAway })}
        >
          {board.putAway ? 'Bring back' : 'Put away'}
        </button>
        {!board.putAway && (
          <Link to={`/boards/${board.id}`} className="border border-ink bg-ink px-3 py-1 text-paper">
            Open
          </Link>
        )}
      </div>
      {!board.putAway && board.pictures > 0 && <BoardStrip board={board} />}
    </li>
  );
}

function NewBoard() {
  const [name, setName] = useState('');
  const [trouble, setTrouble] = useState('');
  const navigate = useNavigate();
  const create = useMutation({
    mutationFn: (clean: string) => askServer<{ board: Board }>('/api/boards', 'POST', { name: clean }),
    onSuccess: ({ board }) => navigate(`/boards/${board.id}`),
    onError: (error) => setTrouble(error.message),
  });
  return (
    <form
      className="flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const clean = cleanName(name);
        if (clean === '') setTrouble('Give the board a name first.');
        else create.mutate(clean);
      }}
    >
      <label className="sr-only" htmlFor="new-board">
        Name of a new board
      </label>
      <input
        id="new-board"
        className="w-64 border border-line bg-raised px-2.5 py-1.5 font-serif text-[16px] placeholder:text-muted placeholder:italic"
        placeholder="Name of a new board"
        value={name}
        maxLength={200}
        onChange={(event) => {
          setName(event.target.value);
          setTrouble('');
        }}
      />
      <button
        type="submit"
        className="border border-ink bg-ink px-3 py-1.5 text-paper"
        disabled={create.isPending}
      >
        Create
      </button>
      <span role="status" className="w-full text-right text-[13px] text-vermilion empty:hidden">
        {trouble}
      </span>
    </form>
  );
}

function Register({
  boards,
  onPatch,
}: {
  boards: readonly Board[];
  onPatch: (id: string, patch: object) => void;
}) {
  const [isShowingAway, setShowingAway] = useState(false);
  const out = boards.filter((board) => !board.putAway);
  const away = boards.filter((board) => board.putAway);
  return (
    <>
      {out.length === 0 && (
        <p className="border-line border-t py-8 font-serif text-[18px] text-muted italic">
          No board stands here. Name one above; pictures are brought in by dropping or pasting them onto it.
        </p>
      )}
      <ul>
        {out.map((board) => (
          <BoardRow key={board.id} board={board} onPatch={onPatch} />
        ))}
      </ul>
      {away.length > 0 && (
        <section className="mt-6 border-line border-t pt-4">
          <button
            type="button"
            aria-expanded={isShowingAway}
            className="text-[13px] text-muted underline underline-offset-3"
            onClick={() => setShowingAway(!isShowingAway)}
          >
            {isShowingAway ? 'Hide' : 'Show'} what is put away ({away.length})
          </button>
          {isShowingAway && (
            <ul className="mt-3">
              {away.map((board) => (
                <BoardRow key={board.id} board={board} onPatch={onPatch} />
              ))}
            </ul>
          )}
        </section>
      )}
    </>
  );
}

/** Every board of the owner, last changed first. */
export function BoardsPage() {
  useTheme(undefined);
  const { data: boards, error, refetch } = useBoards();
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState('');
  const patch = useMutation({
    mutationFn: ({ id, change }: { id: string; change: object }) =>
      askServer(`/api/boards/${id}`, 'PATCH', change),
    onSuccess: () => setTrouble(''),
    onError: (failure) => setTrouble(failure.message),
    onSettled: () => queries.invalidateQueries({ queryKey: BOARDS }),
  });
  useEffect(() => {
    document.title = 'Boards · Miradero';
  }, []);
  return (
    <main className="flex h-full flex-col">
      <Lintel>
        <span className="font-serif text-[16px]">Boards</span>
      </Lintel>
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto max-w-4xl px-6 py-10">
          <div className="mb-8 flex flex-wrap items-end justify-between gap-4">
            <h1 className="font-serif text-[34px] leading-none tracking-[-0.015em]">Boards</h1>
            <NewBoard />
          </div>
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
          {boards && <Register boards={boards} onPatch={(id, change) => patch.mutate({ id, change })} />}
        </div>
      </div>
    </main>
  );
}
