import type { Board, Subject } from '@miradero/core/schema';
import { OWN_DRAG } from '../../gather/index.ts';
import { useBoards, useSubjects } from '../../shell/index.ts';

/** Where what is dragged can go: boards, and parts of subjects. Shown while something is dragged, or when asked for. */
export function Berths({
  onBoard,
  onPart,
  onClose,
}: {
  onBoard: (board: Board, ids: readonly string[]) => void;
  onPart: (subject: Subject, part: { id: string; name: string }, ids: readonly string[]) => void;
  onClose: () => void;
}) {
  const { data: boards = [] } = useBoards();
  const { data: subjects = [] } = useSubjects();
  const berth = (key: string, words: string, take: (ids: readonly string[]) => void, isInner = false) => (
    <button
      key={key}
      type="button"
      className={`berth w-full truncate border border-line bg-raised px-2.5 py-1 text-left font-serif text-[14px] ${isInner ? 'ml-3' : ''}`}
      onClick={() => take([])}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(OWN_DRAG)) event.preventDefault();
      }}
      onDrop={(event) => {
        const ids = event.dataTransfer.getData(OWN_DRAG);
        if (!ids) return;
        event.preventDefault();
        take(ids.split(','));
      }}
    >
      {words}
    </button>
  );
  return (
    <aside
      aria-label="Where it can go"
      className="flex w-72 shrink-0 flex-col gap-1.5 overflow-y-auto border-line border-l bg-paper px-4 py-3"
    >
      <div className="flex items-baseline justify-between">
        <h2 className="font-serif text-[18px]">To a board</h2>
        <button
          type="button"
          className="text-[13px] text-muted underline underline-offset-3"
          onClick={onClose}
        >
          close
        </button>
      </div>
      {boards
        .filter(({ putAway }) => !putAway)
        .map((board) => berth(board.id, board.name, (ids) => onBoard(board, ids)))}
      {subjects.map((subject) => (
        <section key={subject.id} className="mt-2 grid gap-1.5 pr-3">
          <h2 className="font-serif text-[18px]">{subject.name}</h2>
          {berth(subject.id, 'as a whole', (ids) => onPart(subject, subject, ids))}
          {subject.parts.flatMap((part) => [
            berth(part.id, part.name, (ids) => onPart(subject, part, ids)),
            ...part.parts.map((inner) =>
              berth(inner.id, inner.name, (ids) => onPart(subject, inner, ids), true),
            ),
          ])}
        </section>
      ))}
    </aside>
  );
}
