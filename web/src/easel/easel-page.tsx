import { pixelsOfSheet, sheetWords, verdictWords } from '@miradero/core/easel';
import type { Board } from '@miradero/core/schema';
import { useEffect, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { GatherLine } from '../gather/index.ts';
import { momentWords } from '../history/index.ts';
import {
  type BoardActions,
  EditableName,
  Lintel,
  useBoardActions,
  useBoards,
  useTheme,
} from '../shell/index.ts';
import { NewSheet, type SheetFrom } from './new-sheet.tsx';

const WORD = 'text-muted underline decoration-line underline-offset-3 hover:text-ink hover:decoration-ink';
/** Longest side of a sheet on this page, px. */
const SIDE = 240;

/** A sheet as it lies on its desk, in its own proportions, with its figures. */
function SheetCard({
  board,
  sheet,
  actions,
}: {
  board: Board;
  sheet: NonNullable<Board['sheet']>;
  actions: BoardActions;
}) {
  const { trimmed } = pixelsOfSheet(sheet.setup);
  const verdict = verdictWords(sheet.setup, sheet.need);
  const scale = SIDE / Math.max(trimmed.width, trimmed.height);
  return (
    <li className="min-w-0" data-board={board.id}>
      <Link
        to={`/boards/${board.id}`}
        aria-label={`Open ${board.name}`}
        className="grid h-64 place-items-center overflow-hidden border border-line bg-[#797979]"
      >
        {board.preview ? (
          <img
            src={`/api/levels/${board.preview}`}
            alt=""
            className="max-h-full max-w-full object-contain"
            draggable={false}
          />
        ) : (
          <span
            className="block bg-white"
            style={{ width: trimmed.width * scale, height: trimmed.height * scale }}
          />
        )}
      </Link>
      <EditableName
        label="Name of the sheet"
        className="mt-2.5 block w-full text-[19px]"
        name={board.name}
        onRename={(name) => actions.patch(board.id, { name })}
      />
      <p className="figures text-[13px]">{sheetWords(sheet.setup)}</p>
      <p className={`text-[13px] ${verdict.startsWith('enough') ? 'text-muted' : 'text-vermilion'}`}>
        {verdict}
      </p>
      <div className="mt-0.5 flex flex-wrap items-baseline gap-x-3 text-[13px] text-muted">
        <span>{momentWords(new Date(board.changedAt))}</span>
        <span className="flex-1" />
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

function Grid({ boards, actions }: { boards: readonly Board[]; actions: BoardActions }) {
  return (
    <ul className="grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-x-7 gap-y-9">
      {boards.map(
        (board) =>
          board.sheet && <SheetCard key={board.id} board={board} sheet={board.sheet} actions={actions} />,
      )}
    </ul>
  );
}

/** What was handed over by the page one came from. */
interface Given {
  readonly isSettingUp?: boolean;
  readonly from?: SheetFrom;
}

/** Every sheet: what is drawn, on paper of which size, and whether that is enough. */
export function EaselPage() {
  useTheme(undefined);
  const { data, error, refetch } = useBoards();
  const { actions, trouble } = useBoardActions();
  const navigate = useNavigate();
  const { state } = useLocation();
  const given = state as Given | null;
  const [isAwayShown, setAwayShown] = useState(false);
  useEffect(() => {
    document.title = 'Easel · Miradero';
  }, []);
  const sheets = data?.filter(({ sheet }) => sheet !== null);
  const shown = sheets?.filter(({ putAway }) => !putAway) ?? [];
  const away = sheets?.filter(({ putAway }) => putAway) ?? [];
  const setUp = (next: Given | null) => void navigate('/easel', { replace: true, state: next });
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} />
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto max-w-6xl px-6 py-9">
          <div className="mb-7 flex flex-wrap items-end gap-x-6 gap-y-4">
            <h1 className="font-serif text-[34px] leading-none tracking-[-0.015em]">Easel</h1>
            <span className="flex-1" />
            <button
              type="button"
              className="border border-ink bg-ink px-3 py-1.5 text-paper"
              onClick={() => setUp({ isSettingUp: true })}
            >
              Set up a sheet
            </button>
          </div>
          {trouble && (
            <p role="alert" className="mb-4 text-vermilion">
              {trouble}
            </p>
          )}
          {error && !data && (
            <p role="alert" className="border-line border-t py-8">
              The sheets do not come: {error.message}{' '}
              <button type="button" className="underline underline-offset-3" onClick={() => void refetch()}>
                Ask again
              </button>
            </p>
          )}
          {sheets && shown.length === 0 && (
            <p className="max-w-xl border-line border-t py-8 font-serif text-[18px] text-muted italic">
              No sheet stands here yet. Set one up for what you draw in another program, on paper, or here:
              its references stand beside or over it, and it is seen whole while you work close.
            </p>
          )}
          <Grid boards={shown} actions={actions} />
          {away.length > 0 && (
            <section className="mt-10 border-line border-t pt-4">
              <button
                type="button"
                aria-expanded={isAwayShown}
                className="mb-4 text-[13px] text-muted underline underline-offset-3"
                onClick={() => setAwayShown(!isAwayShown)}
              >
                {isAwayShown ? 'Hide' : 'Show'} what is put away ({away.length})
              </button>
              {isAwayShown && <Grid boards={away} actions={actions} />}
            </section>
          )}
        </div>
      </div>
      {given?.isSettingUp && <NewSheet from={given.from} onClose={() => setUp(null)} />}
    </main>
  );
}
