import type { Board } from '@miradero/core/schema';
import { Link } from 'react-router';
import { momentWords } from '../history/index.ts';
import { type BoardActions, EditableName } from '../shell/index.ts';
import { briefWords } from './brief.ts';

const WORD = 'text-muted underline decoration-line underline-offset-3 hover:text-ink hover:decoration-ink';

/** One board: how it looks, its name, when it changed. */
export function BoardCard({ board, actions }: { board: Board; actions: BoardActions }) {
  const brief = briefWords(board);
  return (
    <li className="min-w-0" data-board={board.id}>
      <Link
        to={`/boards/${board.id}`}
        aria-label={`Open ${board.name}`}
        className="block aspect-[16/10] overflow-hidden border border-line bg-[#797979]"
      >
        {board.preview ? (
          <img
            src={`/api/levels/${board.preview}`}
            alt=""
            className="h-full w-full object-cover"
            draggable={false}
          />
        ) : (
          <span className="grid h-full place-items-center font-serif text-[16px] text-black italic">
            {board.pictures === 0 ? 'nothing stands here yet' : 'its picture is being made'}
          </span>
        )}
      </Link>
      <EditableName
        label="Name of the board"
        className="mt-2.5 block w-full text-[19px]"
        name={board.name}
        onRename={(name) => actions.patch(board.id, { name })}
      />
      {(board.question || brief) && (
        <p
          className="mt-0.5 line-clamp-3 break-words font-serif text-[15px] italic leading-snug"
          title={board.question}
        >
          <bdi>{board.question}</bdi>
          {brief && <span className="block text-[13px] text-muted not-italic">{brief}</span>}
        </p>
      )}
      <div className="mt-0.5 flex flex-wrap items-baseline gap-x-3 gap-y-0.5 text-[13px] text-muted">
        <span>
          {board.pictures === 1 ? '1 picture' : `${board.pictures} pictures`} ·{' '}
          {momentWords(new Date(board.changedAt))}
        </span>
        <span className="flex-1" />
        {board.revision > 0 && (
          <Link to={`/boards/${board.id}/history`} className={WORD}>
            History
          </Link>
        )}
        {!board.putAway && (
          <button type="button" className={WORD} onClick={() => actions.duplicate(board)}>
            Duplicate
          </button>
        )}
        <button
          type="button"
          className={WORD}
          onClick={() => actions.patch(board.id, { putAway: !board.putAway })}
        >
          {board.putAway ? 'Bring back' : 'Put away'}
        </button>
      </div>
    </li>
  );
}
