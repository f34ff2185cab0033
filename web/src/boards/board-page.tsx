import { boundsOf, isSeen } from '@miradero/core/board';
import { unionOf } from '@miradero/core/geometry';
import { startTransition, useEffect, useState } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { FINDS, type Shown, usePlace } from '../commands/index.ts';
import { BOARD, type Desk, useDesk, ZoomFigure } from '../desk/index.ts';
import { ExportLine, ExportRoom } from '../exporting/index.ts';
import { GatherLine, GatherRoom } from '../gather/index.ts';
import { fetchAhead } from '../items/index.ts';
import { startFinding } from '../looking/index.ts';
import { PerchButton, usePerchKey } from '../perch/index.ts';
import { CloseTab, EditableName, Lintel, Message, openBoards, useTheme } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { briefWords } from './brief.ts';
import { BriefSheet } from './brief-sheet.tsx';
import { BOARD_TAB } from './commands.ts';
import { NoticeCard } from './notice-card.tsx';
import { Sill } from './sill.tsx';
import { StageSurface } from './stage-surface.tsx';
import { useCensus } from './use-census.ts';
import { ValueRail } from './value-rail.tsx';

/** What the rail and the sill fill, while they are not there yet: nothing jumps. */
const RAIL = <div className="w-[34px] border-line border-r bg-paper" />;
const SILL = <div className="h-11 shrink-0 border-line border-t bg-paper" />;

/** The page's frame while nothing is there yet. */
function BoardFrame() {
  return (
    <div className="flex h-full flex-col">
      <Lintel isBare />
      <div className="flex min-h-0 flex-1">
        {RAIL}
        <div className="flex-1 bg-[#797979]" />
      </div>
      {SILL}
    </div>
  );
}

/** What stands around the stage waits so long for it, ms. */
const PATIENCE_MS = 400;

/** Whether the stage has shown something: what stands around it is rendered after that, since the board is looked at first. */
function useFurnished(view: StageView | undefined): boolean {
  const [isFurnished, setFurnished] = useState(false);
  useEffect(() => {
    if (!view || isFurnished) return;
    let isHere = true;
    const furnish = () => isHere && startTransition(() => setFurnished(true));
    const timer = setTimeout(furnish, PATIENCE_MS);
    void view.shown.then(furnish);
    return () => {
      isHere = false;
      clearTimeout(timer);
    };
  }, [view, isFurnished]);
  return isFurnished;
}

export function BoardPage() {
  const { id = '' } = useParams();
  const opened = useDesk(id);
  if (opened === undefined) return <BoardFrame />;
  if ('trouble' in opened) {
    return (
      <Message title={opened.isGone ? 'This board cannot be opened' : 'The board does not come'}>
        {opened.trouble} {opened.isGone ? '' : 'It is tried again by itself; what you made is kept.'}
      </Message>
    );
  }
  return <OpenBoard desk={opened.desk} key={opened.desk.session.id} />;
}

/** Brings into view what was gone to by its name. */
function useShown(desk: Desk, view: StageView | undefined): void {
  const { state, key } = useLocation();
  useEffect(() => {
    const ids = ((state as Shown | null)?.items ?? []).filter((id) => desk.session.items.has(id));
    const bounds = unionOf(ids.map((id) => boundsOf(desk.session.items.get(id)!)));
    if (!view || !bounds) return;
    desk.select(ids.filter((id) => isSeen(desk.session.items, desk.session.items.get(id)!)));
    view.showPart(bounds);
  }, [desk, view, key]);
}

function BoardLintel({ desk }: { desk: Desk }) {
  const board = useStore(desk.session.store, ({ board }) => board);
  const { id, name } = board;
  const brief = [board.question, briefWords(board)].filter(Boolean).join(' · ');
  const { pictures, troubles } = useCensus(desk);
  return (
    <Lintel
      troubles={troubles}
      status={
        <>
          <GatherLine desk={desk} />
          <ExportLine />
        </>
      }
      front={{
        id,
        tab: (
          <span className="flex min-w-0 items-center border-verdigris border-b-2">
            <h1 className="sr-only">{name}</h1>
            <EditableName
              label="Name of the board"
              className="mx-0 text-[16px]"
              name={name}
              onRename={(to) => desk.session.patchBoard({ name: to })}
            />
            <span
              className="max-w-72 shrink truncate pl-1 font-serif text-[14px] text-muted italic max-lg:hidden"
              {...(brief && { title: brief })}
            >
              <bdi>{brief || (pictures === 1 ? '1 picture' : `${pictures} pictures`)}</bdi>
            </span>
            <CloseTab id={id} name={name} isCurrent />
          </span>
        ),
      }}
    />
  );
}

function OpenBoard({ desk }: { desk: Desk }) {
  const board = useStore(desk.session.store, ({ board }) => board);
  const isBare = useStore(desk.store, ({ areControlsHidden }) => areControlsHidden);
  const [view, setView] = useState<StageView | undefined>();
  useTheme(board.surround);
  useEffect(() => {
    document.title = `${board.name} · Miradero`;
    openBoards.open(board.id);
  }, [board.name, board.id]);

  const navigate = useNavigate();
  // Every key is there with the stage, whatever of the words that name them is not yet.
  usePlace(BOARD, desk);
  usePerchKey(desk);
  usePlace(FINDS, { find: () => startFinding(desk) });
  usePlace(BOARD_TAB, {
    close() {
      openBoards.close(board.id);
      void navigate('/boards');
    },
    brief: () => setBriefOpen(true),
    putAway() {
      desk.session.patchBoard({ putAway: true });
      openBoards.close(board.id);
      void navigate(`/boards?put-away=${board.id}`);
    },
  });
  useShown(desk, view);
  const [isBriefOpen, setBriefOpen] = useState(false);
  const isFurnished = useFurnished(view);
  useEffect(() => {
    if (isFurnished) fetchAhead();
  }, [isFurnished]);

  return (
    <main className="flex h-full flex-col">
      {!isBare && (isFurnished ? <BoardLintel desk={desk} /> : <Lintel isBare />)}
      <div className="relative flex min-h-0 flex-1">
        {!isBare &&
          (isFurnished ? (
            <ValueRail
              desk={desk}
              surround={board.surround}
              onSurround={(surround) => desk.session.patchBoard({ surround })}
            />
          ) : (
            RAIL
          ))}
        <StageSurface desk={desk} surround={board.surround} onView={setView} />
        {isFurnished && <NoticeCard desk={desk} />}
      </div>
      {isBriefOpen && (
        <BriefSheet
          board={board}
          onKeep={(brief) => desk.session.patchBoard(brief)}
          onClose={() => setBriefOpen(false)}
        />
      )}
      <GatherRoom desk={desk} />
      <ExportRoom />
      <div className={isBare ? 'hidden' : 'contents'}>
        {isFurnished ? (
          <Sill desk={desk} zoom={<ZoomFigure view={view} />} perch={<PerchButton desk={desk} />} />
        ) : (
          SILL
        )}
      </div>
    </main>
  );
}
