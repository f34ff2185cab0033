import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { usePlaceOf } from '../../commands/index.ts';
import { BOARD, POINTED } from '../../desk/index.ts';
import { GatherLine, GatherRoom } from '../../gather/index.ts';
import { useHistory } from '../../history/index.ts';
import { Lintel, Message, useTheme } from '../../shell/index.ts';
import type { StageView } from '../../stage/index.ts';
import { NoticeCard } from '../notice-card.tsx';
import { StageSurface } from '../stage-surface.tsx';
import { ValueRail } from '../value-rail.tsx';
import { PastFooter } from './past-footer.tsx';
import { type OpenedPast, useHome, usePast, usePastDesk, usePastFacts } from './use-past.ts';

/** Whether the stage has shown something: what tells of the past is asked for after that. */
function useIsShown(view: StageView | undefined): boolean {
  const [isShown, setShown] = useState(false);
  useEffect(() => {
    if (!view) return;
    let isHere = true;
    void view.shown.then(() => isHere && setShown(true));
    return () => {
      isHere = false;
    };
  }, [view]);
  return isShown;
}

function OpenPast({ desk, past }: OpenedPast) {
  const { at: asked, shown, show, trouble } = usePast(desk, past);
  const { home, view, setView } = useHome(desk);
  const isShown = useIsShown(view);
  const { history, trouble: historyTrouble } = useHistory(past.id, isShown);
  const { id, name, surround } = usePastFacts(past, isShown);
  usePlaceOf(BOARD, () => desk);
  usePlaceOf(POINTED, () => desk);
  useTheme(surround);
  useEffect(() => {
    document.title = `${name}, as it was · Miradero`;
  }, [name]);
  const latest = history?.line.end ?? 0;
  const at = Math.min(asked ?? latest, latest);
  return (
    <main className="flex h-full flex-col" data-shown={shown}>
      <Lintel
        status={<GatherLine />}
        front={{
          id,
          tab: (
            <span className="flex min-w-0 items-baseline gap-2 border-verdigris border-b-2">
              <h1 className="truncate font-serif text-[16px]">
                <bdi>{name}</bdi>
              </h1>
              <span className="whitespace-nowrap font-serif text-[14px] text-muted italic max-md:hidden">
                as it was
              </span>
            </span>
          ),
        }}
      />
      <GatherRoom />
      <div className="relative flex min-h-0 flex-1">
        <ValueRail
          desk={desk}
          surround={surround}
          onSurround={(value) => past.patchBoard({ surround: value })}
        />
        <StageSurface desk={desk} isFront home={home} onView={setView} />
        <NoticeCard desk={desk} isWhole />
      </div>
      {history ? (
        <PastFooter {...{ history, desk, past, at, show, trouble }} />
      ) : (
        <div className="h-[84px] shrink-0 border-line border-t bg-paper px-3.5 py-2" role="alert">
          {historyTrouble && `What was done does not come: ${historyTrouble.message}`}
        </div>
      )}
    </main>
  );
}

/** How a board was, at any moment since it was made. */
export function PastPage() {
  const { id = '' } = useParams();
  const opened = usePastDesk(id);
  if (opened && 'trouble' in opened)
    return <Message title="The past of this board does not come">{opened.trouble}</Message>;
  if (opened) return <OpenPast key={id} {...opened} />;
  return (
    <main className="flex h-full flex-col">
      <Lintel isBare />
      <div className="flex-1 bg-[#797979]" />
    </main>
  );
}
