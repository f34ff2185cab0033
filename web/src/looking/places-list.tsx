import { boundsOf, compareStacking, isSeen } from '@miradero/core/board';
import { type Bay, type Cluster, isBay, isCluster } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';
import { EditableName } from '../shell/index.ts';
import { useMade, useStore } from '../state/index.ts';
import { viewsOf } from './views.ts';
import { goToStage, makeStage, membersOf, stageNow, stageStore, stagesOf } from './working-sets.ts';

/** Bays and clusters that are seen, by their titles; such as have none last. */
const groundsOf = (desk: Desk): (Bay | Cluster)[] =>
  [...desk.session.items.values()]
    .filter((item) => isBay(item) || isCluster(item))
    .filter((item) => isSeen(desk.session.items, item) && !(isCluster(item) && item.form === 'spares'))
    .sort(
      (a, b) =>
        Number(a.title === '') - Number(b.title === '') ||
        a.title.localeCompare(b.title, 'en', { numeric: true }) ||
        compareStacking(a, b),
    );

const UNNAMED = 'without a title';

/** The kept views, the clusters and the bays of a board: each flies there. */
export function PlacesList({ desk, onDone }: { desk: Desk; onDone: () => void }) {
  const { views, grounds } = useMade(desk.watch, () => ({
    views: viewsOf(desk),
    grounds: groundsOf(desk),
  }));
  if (views.length + grounds.length === 0)
    return (
      <p className="max-w-56 px-1.5 text-[13px] text-muted">
        No view is kept here, and there is neither cluster nor bay yet.
      </p>
    );
  return (
    <div className="flex flex-col gap-0.5">
      {views.map((view) => (
        <div key={view.id} className="flex items-baseline gap-2">
          <button
            type="button"
            className="word flex flex-none items-baseline gap-1.5 px-1.5 py-1 hover:bg-paper"
            aria-label={`Go to ${view.title}`}
            onClick={() => {
              onDone();
              desk.view?.show(boundsOf(view));
            }}
          >
            {view.number === null ? 'go' : <kbd className="key">Shift {view.number}</kbd>}
          </button>
          <EditableName
            label="Name of the view"
            className="mx-0 max-w-44 text-[15px]"
            name={view.title}
            onRename={(title) =>
              desk.session.commit([{ item: view.id, set: { title: title.slice(0, 200) } }])
            }
          />
          <button
            type="button"
            aria-label={`Forget ${view.title}`}
            className="px-1 text-muted hover:text-ink"
            onClick={() => desk.session.commit([{ item: view.id, set: { removed: true } }])}
          >
            ×
          </button>
        </div>
      ))}
      {grounds.map((ground) => (
        <button
          key={ground.id}
          type="button"
          className="word max-w-64 truncate px-1.5 py-1 text-left font-serif text-[15px] hover:bg-paper"
          onClick={() => {
            onDone();
            desk.view?.showPart(boundsOf(ground));
          }}
        >
          {ground.title || <span className="text-muted italic">{UNNAMED}</span>}
        </button>
      ))}
    </div>
  );
}

/** The stages of the work, each with the few pictures that are wanted for it: the perch shows those of the one that is lit. */
export function StagesList({ desk }: { desk: Desk }) {
  useStore(stageStore);
  const { stages, counts } = useMade(desk.watch, () => {
    const stages = stagesOf(desk.session);
    return { stages, counts: stages.map((stage) => membersOf(desk.session, stage).length) };
  });
  const now = stageNow(desk.session)?.id;
  return (
    <div className="flex flex-col gap-0.5">
      <h2 className="px-1.5 text-[12px] text-muted">Stages of the work</h2>
      {stages.map((stage, index) => (
        <div key={stage.id} className="flex items-baseline gap-2">
          <button
            type="button"
            aria-pressed={stage.id === now}
            aria-label={`Go to ${stage.title}`}
            className="word flex-none px-1.5 py-1 hover:bg-paper aria-pressed:text-verdigris"
            onClick={() => {
              goToStage(desk.session.id, stage.id);
              desk.select(membersOf(desk.session, stage));
            }}
          >
            {stage.id === now ? 'now' : 'go'}
          </button>
          <EditableName
            label="Name of the stage"
            className="mx-0 max-w-44 text-[15px]"
            name={stage.title}
            onRename={(title) =>
              desk.session.commit([{ item: stage.id, set: { title: title.slice(0, 200) } }])
            }
          />
          <span className="figures text-muted">{counts[index]}</span>
          <button
            type="button"
            aria-label={`Forget ${stage.title}`}
            className="px-1 text-muted hover:text-ink"
            onClick={() => desk.session.commit([{ item: stage.id, set: { removed: true } }])}
          >
            ×
          </button>
        </div>
      ))}
      <button
        type="button"
        className="word self-start px-1.5 py-1 hover:bg-paper"
        onClick={() => makeStage(desk)}
      >
        {stages.length === 0 ? 'a working set, for one stage of the work' : 'another stage'}
      </button>
    </div>
  );
}
