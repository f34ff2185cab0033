import { boundsOf, isSeen } from '@miradero/core/board';
import { unionOf } from '@miradero/core/geometry';
import { isPlacement, SHEET_ID } from '@miradero/core/items';
import { startTransition, useCallback, useEffect, useState } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { ColourRoom } from '../colour/index.ts';
import { FINDS, type Shown, usePlace, usePlaceOf } from '../commands/index.ts';
import { BOARD, type Desk, type Opened, POINTED, useDesks, ZoomFigure } from '../desk/index.ts';
import { takeUpPainted } from '../easel/index.ts';
import { ExportLine, ExportRoom } from '../exporting/index.ts';
import { GatherLine, GatherRoom } from '../gather/index.ts';
import { tellNews } from '../history/index.ts';
import { fetchAhead } from '../items/index.ts';
import { stageNow, startFinding } from '../looking/index.ts';
import { takeUpStrokes } from '../marks/index.ts';
import { PerchButton, shownOf, usePerchable } from '../perch/index.ts';
import {
  addressOfPanes,
  besideAfter,
  CloseTab,
  EditableName,
  isBoardPane,
  Lintel,
  later,
  Message,
  MOST_PANES,
  MOST_SHOWN,
  openBoards,
  paneShowing,
  type Shows,
  useTheme,
  withPane,
} from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { BoardPanes, MOST_BESIDE } from './board-panes.tsx';
import { briefWords } from './brief.ts';
import { BriefSheet } from './brief-sheet.tsx';
import { BOARD_TAB } from './commands.ts';
import { linkViews, mirrorAll } from './linked-views.ts';
import { NameStateSheet } from './name-state-sheet.tsx';
import { NoticeCard } from './notice-card.tsx';
import { usePaneShares } from './pane-shares.ts';
import { Sill } from './sill.tsx';
import { useCensus } from './use-census.ts';
import { deskOf, useFrontNow, usePanes, usePointedNow } from './use-panes.ts';
import { ValueRail } from './value-rail.tsx';

const LinksSheet = later(async () => (await import('../links/index.ts')).LinksSheet, { isSheet: true });

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
  const panes = usePanes(id);
  const opened = useDesks(panes.filter(isBoardPane));
  const front = opened.get(id);
  if (front === undefined) return <BoardFrame />;
  if ('trouble' in front) {
    return (
      <Message title={front.isGone ? 'This board cannot be opened' : 'The board does not come'}>
        {front.trouble} {front.isGone ? '' : 'It is tried again by itself; what you made is kept.'}
      </Message>
    );
  }
  // Side by side another comes to the front and all stay as they are; alone, what stands around it begins anew with it.
  return (
    <OpenBoards
      key={panes.length > 1 ? 'side by side' : id}
      desk={front.desk}
      panes={panes}
      opened={opened}
    />
  );
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
  const isSheet = useStore(desk.session.store, ({ items }) => items.has(SHEET_ID));
  return (
    <Lintel
      at={isSheet ? '/easel' : undefined}
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

const NONE_BESIDE = 'No board stands beside this one.';
const HOW_BESIDE = 'Drag a tab to its left or right edge.';

/** What the tab of the front board, and its commands, do. */
function useBoardTab(
  desk: Desk,
  panes: readonly string[],
  {
    openBrief,
    openNaming,
    openLinks,
    turnPanes,
    linkPanes,
    mirrorPanes,
  }: Readonly<
    Record<'openBrief' | 'openNaming' | 'openLinks' | 'turnPanes' | 'linkPanes' | 'mirrorPanes', () => void>
  >,
): void {
  const navigate = useNavigate();
  const { id } = desk.session;
  const leave = (otherwise: string) => {
    openBoards.close(id);
    const next = besideAfter(panes, id);
    const left = panes.filter((one) => one !== id);
    void navigate(next ? addressOfPanes(next, left) : otherwise);
  };
  const lay = (shows: Shows) => {
    const pane = shows.kind === 'pictures' ? id : paneShowing(shows);
    const next = withPane(panes, pane, 'right');
    if (pane === id) desk.say('Select what is to stand beside this board.');
    else if (shows.kind === 'items' && shows.items.length > MOST_SHOWN)
      desk.say(`${MOST_SHOWN} things stand beside a board at most.`);
    else if (next.length > MOST_PANES) desk.say(MOST_BESIDE);
    else void navigate(addressOfPanes(id, next));
  };
  usePlace(BOARD_TAB, {
    close: () => leave('/boards'),
    brief: openBrief,
    history: () => void navigate(`/boards/${id}/history`),
    nameState: openNaming,
    links: openLinks,
    sheetLike() {
      const picture = desk.targets.find(isPlacement);
      if (!picture) {
        desk.say('Select a picture first: the sheet takes its proportions over.');
        return;
      }
      const { trim, pictureWidth, pictureHeight } = picture;
      const from = {
        name: desk.sync.shelf.get(picture.picture)?.name ?? 'a picture',
        width: trim.width * pictureWidth,
        height: trim.height * pictureHeight,
      };
      void navigate('/easel', { state: { isSettingUp: true, from } });
    },
    turnPanes() {
      if (panes.length > 1) turnPanes();
      else desk.say(NONE_BESIDE, [HOW_BESIDE]);
    },
    linkPanes() {
      if (panes.length > 1) linkPanes();
      else desk.say(NONE_BESIDE, [HOW_BESIDE]);
    },
    mirrorPanes,
    besideSelected: () => lay(shownOf(desk)),
    besideStage() {
      if (stageNow(desk.session)) lay({ kind: 'stage', board: id });
      else desk.say('This board has no working set yet.', ['S takes what is selected into one.']);
    },
    putAway() {
      desk.session.patchBoard({ putAway: true });
      leave(`/boards?put-away=${id}`);
    },
    alone() {
      if (panes.length > 1) void navigate(`/boards/${id}`);
      else desk.say('This board stands alone already.');
    },
    next() {
      const boards = panes.filter(isBoardPane);
      const next = boards[(boards.indexOf(id) + 1) % boards.length]!;
      if (next === id) desk.say(NONE_BESIDE, [HOW_BESIDE]);
      else void navigate(addressOfPanes(next, panes), { replace: true });
    },
  });
}

/** Every key is there with the stage, whatever of the words that name them is not yet; another board in front is told as another. */
function BoardKeys({ frontNow, pointedNow }: Record<'frontNow' | 'pointedNow', () => Desk>): null {
  usePlaceOf(BOARD, frontNow);
  usePlaceOf(POINTED, pointedNow);
  usePerchable(frontNow);
  usePlace(FINDS, { find: () => startFinding(frontNow()) });
  return null;
}

function OpenBoards({
  desk,
  panes,
  opened,
}: {
  desk: Desk;
  panes: readonly string[];
  opened: ReadonlyMap<string, Opened>;
}) {
  const board = useStore(desk.session.store, ({ board }) => board);
  const isBare = useStore(desk.store, ({ areControlsHidden }) => areControlsHidden);
  const [views, setViews] = useState<ReadonlyMap<string, StageView>>(new Map());
  const onView = useCallback((id: string, view: StageView | undefined) => {
    setViews((all) => new Map([...all].filter(([one]) => one !== id).concat(view ? [[id, view]] : [])));
  }, []);
  const { frontNow, onPressed, onDesk, inFront, parts, partInFront } = useFrontNow(desk, opened);
  const { pointedNow, onPointed } = usePointedNow(
    frontNow,
    (pane) => parts.get(pane) ?? deskOf(opened, pane),
  );
  const view = views.get(board.id);
  const viewInFront = views.get(partInFront ?? board.id);
  useTheme(board.surround);
  useEffect(() => {
    document.title = `${board.name} · Miradero`;
    openBoards.open(board.id);
  }, [board.name, board.id]);

  const room = usePaneShares(panes.length);
  const [isLinked, setLinked] = useState(false);
  useEffect(() => {
    if (!isLinked || views.size < 2) return;
    desk.say('The boards look around together.', ['Shift+S lets each look for itself.']);
    return linkViews([...views.values()]);
  }, [isLinked, views]);
  const [isBriefOpen, setBriefOpen] = useState(false);
  const [isNaming, setNaming] = useState(false);
  const [isLinking, setLinking] = useState(false);
  useBoardTab(desk, panes, {
    openBrief: () => setBriefOpen(true),
    openNaming: () => setNaming(true),
    openLinks: () => setLinking(true),
    turnPanes: room.turn,
    linkPanes: () => setLinked(!isLinked),
    mirrorPanes: () => mirrorAll(panes.flatMap((pane) => parts.get(pane) ?? deskOf(opened, pane) ?? [])),
  });
  useShown(desk, view);
  const isFurnished = useFurnished(view);
  useEffect(() => {
    if (isFurnished) fetchAhead();
  }, [isFurnished]);
  useEffect(() => {
    if (!isFurnished) return;
    void takeUpStrokes(desk);
    void takeUpPainted(desk);
    return tellNews(desk);
  }, [isFurnished, desk]);
  const deskAt = (target: Element) => {
    const id = target.closest<HTMLElement>('[data-tab-of]')?.dataset.tabOf ?? '';
    return parts.get(id) ?? deskOf(opened, id);
  };

  return (
    <main className="flex h-full flex-col">
      <BoardKeys key={`keys ${board.id}`} {...{ frontNow, pointedNow }} />
      {!isBare && (isFurnished ? <BoardLintel key={`lintel ${board.id}`} desk={desk} /> : <Lintel isBare />)}
      <div className="relative flex min-h-0 flex-1">
        {!isBare &&
          (isFurnished ? (
            <ValueRail
              key={`rail ${board.id}`}
              desk={desk}
              surround={board.surround}
              onSurround={(surround) => desk.session.patchBoard({ surround })}
            />
          ) : (
            RAIL
          ))}
        <BoardPanes
          {...{ panes, opened, onView, onDesk, onPressed, onPointed, room, partInFront }}
          front={board.id}
        />
        {isFurnished && (
          <NoticeCard key={`notice ${partInFront ?? board.id}`} desk={inFront} isWhole={!partInFront} />
        )}
      </div>
      {isBriefOpen && (
        <BriefSheet
          board={board}
          onKeep={(brief) => desk.session.patchBoard(brief)}
          onClose={() => setBriefOpen(false)}
        />
      )}
      {isLinking && <LinksSheet desk={desk} onClose={() => setLinking(false)} />}
      {isNaming && <NameStateSheet desk={desk} onClose={() => setNaming(false)} />}
      <GatherRoom desk={desk} deskAt={deskAt} />
      <ExportRoom />
      <ColourRoom />
      <div className={isBare ? 'hidden' : 'contents'}>
        {isFurnished ? (
          <Sill
            key={`sill ${partInFront ?? board.id}`}
            desk={inFront}
            zoom={<ZoomFigure view={viewInFront} />}
            perch={<PerchButton />}
          />
        ) : (
          SILL
        )}
      </div>
    </main>
  );
}
