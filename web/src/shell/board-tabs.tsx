import type { Board } from '@miradero/core/schema';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { FittingRow } from './fitting-row.tsx';
import { openBoards, useOpenBoards } from './open-boards.ts';
import { addressOfPanes, besideAfter, panesIn } from './panes.ts';
import { useBoards } from './use-boards.ts';

/** A tab on its way, as a transfer carries it. */
export const TAB_DRAG = 'application/x-miradero-tab';

/** The boards that stand open, in the order in which they were opened; without such as are gone or put away. */
export function useTabs(front?: string): { ids: readonly string[]; boards: readonly Board[] } {
  const ids = useOpenBoards();
  // As a rule one board stands open: nothing has to be known of others.
  const { data: known } = useBoards({ enabled: ids.some((id) => id !== front) });
  const boards = ids.flatMap((id) => known?.find((board) => board.id === id && !board.putAway) ?? []);
  return { ids, boards };
}

/** The boards that stand open; the one in front, if there is one, in its place among them. */
export function BoardTabs({ front }: { front: { id: string; tab: ReactNode } | undefined }) {
  const { ids, boards } = useTabs(front?.id);
  const { search } = useLocation();
  const panes = front ? panesIn(front.id, search) : [];
  const named = new Map(boards.map((board) => [board.id, board.name]));
  const shown = ids.filter((id) => id === front?.id || named.has(id));
  // It stands among them as soon as it is noted that it is open.
  if (front && !shown.includes(front.id)) shown.push(front.id);
  const items = shown.map((id) => ({
    id,
    node:
      id === front?.id ? (
        front.tab
      ) : (
        <span className="tab flex min-w-0 items-center max-md:hidden">
          <Link
            data-tab-of={id}
            data-name={named.get(id)}
            draggable
            onDragStart={(event) => {
              event.dataTransfer.clearData();
              event.dataTransfer.setData(TAB_DRAG, id);
              event.dataTransfer.effectAllowed = 'link';
            }}
            to={panes.includes(id) ? addressOfPanes(id, panes) : `/boards/${id}`}
            className="max-w-40 truncate px-1.5 py-1 font-serif text-[15px] text-muted hover:text-ink"
          >
            {named.get(id)}
          </Link>
          <CloseTab id={id} name={named.get(id)!} />
        </span>
      ),
  }));
  if (items.length === 0) return <span className="flex-1" />;
  return (
    <>
      <span className={`h-4 w-px shrink-0 bg-line ${front ? '' : 'max-md:hidden'}`} aria-hidden />
      <nav aria-label="Open boards" className="flex min-w-0 flex-1">
        <FittingRow
          items={items}
          {...(front ? { kept: front.id } : {})}
          moreWords={(count) => `${count} more`}
          label="More open boards"
          className="gap-1"
          side="bottom"
        />
      </nav>
    </>
  );
}

/** Takes a board from the open ones; nothing on it alters. */
export function CloseTab({ id, name, isCurrent = false }: { id: string; name: string; isCurrent?: boolean }) {
  const navigate = useNavigate();
  const { search } = useLocation();
  const close = () => {
    const ids = openBoards.ids();
    const panes = isCurrent ? panesIn(id, search) : [];
    const beside = besideAfter(panes, id);
    const next = ids[ids.indexOf(id) + 1] ?? ids[ids.indexOf(id) - 1];
    openBoards.close(id);
    if (beside)
      void navigate(
        addressOfPanes(
          beside,
          panes.filter((one) => one !== id),
        ),
      );
    else if (isCurrent) void navigate(next ? `/boards/${next}` : '/boards');
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
