import { X } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { openBoards, useOpenBoards } from './open-boards.ts';
import { useBoards } from './use-boards.ts';

/** The other boards that stand open, beside the one in front. */
export function BoardTabs({ current }: { current?: string }) {
  const ids = useOpenBoards();
  // As a rule one board stands open: nothing has to be known of others.
  const { data: boards } = useBoards({ enabled: ids.some((id) => id !== current) });
  const others = ids.flatMap((id) =>
    id === current ? [] : (boards?.find((board) => board.id === id && !board.putAway) ?? []),
  );
  if (others.length === 0) return null;
  return (
    <nav aria-label="Open boards" className="flex min-w-0 items-center gap-1 overflow-hidden max-md:hidden">
      {others.map(({ id, name }) => (
        <span key={id} className="tab group flex min-w-0 items-center">
          <Link
            to={`/boards/${id}`}
            className="max-w-40 truncate px-2 py-1 font-serif text-[15px] text-muted hover:text-ink"
          >
            {name}
          </Link>
          <CloseTab id={id} name={name} />
        </span>
      ))}
    </nav>
  );
}

/** Takes a board from the open ones; nothing on it alters. */
export function CloseTab({ id, name, isCurrent = false }: { id: string; name: string; isCurrent?: boolean }) {
  const navigate = useNavigate();
  const close = () => {
    const ids = openBoards.ids();
    const next = ids[ids.indexOf(id) + 1] ?? ids[ids.indexOf(id) - 1];
    openBoards.close(id);
    if (isCurrent) void navigate(next ? `/boards/${next}` : '/boards');
  };
  return (
    <button
      type="button"
      aria-label={`Close ${name}`}
      title="Close this tab; the board stays"
      className="grid size-5 shrink-0 place-items-center text-muted opacity-60 hover:text-ink hover:opacity-100"
      onClick={close}
    >
      <X size={13} aria-hidden />
    </button>
  );
}
