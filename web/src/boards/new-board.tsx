import { cleanName } from '@miradero/core/picture';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { useSync } from '../shell/index.ts';
import { ask, recordBoardMade } from '../sync/index.ts';

/** A name, and the board is there and open. */
export function NewBoard() {
  const [name, setName] = useState('');
  const [trouble, setTrouble] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const { state, key } = useLocation();
  useEffect(() => {
    if ((state as { isNaming?: boolean } | null)?.isNaming) field.current?.focus();
  }, [state, key]);
  const navigate = useNavigate();
  const sync = useSync();
  const create = useMutation({
    mutationFn: (clean: string) => ask('POST /api/boards', { body: { name: clean } }),
    onSuccess: ({ board }) => {
      recordBoardMade(sync, board);
      return navigate(`/boards/${board.id}`);
    },
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
        ref={field}
        id="new-board"
        className="w-60 border border-line bg-raised px-2.5 py-1.5 font-serif text-[16px] placeholder:text-muted placeholder:italic"
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
      <span role="status" className="w-full text-[13px] text-vermilion empty:hidden">
        {trouble}
      </span>
    </form>
  );
}
