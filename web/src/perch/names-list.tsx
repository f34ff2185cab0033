import { boundsOf, isSeen, textMatcher } from '@miradero/core/board';
import { isBay, isCluster, isPlacement } from '@miradero/core/items';
import { useMemo, useState } from 'react';
import { membersOf, stageNow, stagesOf } from '../looking/index.ts';
import { openBoards, recentBoards, useBoards } from '../shell/index.ts';
import { useMade } from '../state/index.ts';
import type { ArrangementStore } from './arrangement.ts';
import type { PaneControls } from './pane-controls.ts';

interface Named {
  readonly key: string;
  readonly name: string;
  readonly go: () => void;
}
interface Chapter {
  readonly title: string;
  readonly of: readonly Named[];
}

/** So many of a chapter are listed; more are found by typing. */
const MOST_LISTED = 24;
const UNNAMED = 'without a title';

/** What the pane's own board has by name. */
function chaptersOf(controls: PaneControls, arrangement: ArrangementStore): Chapter[] {
  const { pane, open, view } = controls;
  const { desk, base } = open;
  const nameOf = (picture: string) => desk.sync.shelf.get(picture)?.name ?? 'a picture';
  const stage = base && stageNow(base.session);
  const wanted = base && stage && !open.part ? new Set(membersOf(base.session, stage)) : undefined;
  const pictures = desk.session.standing
    .filter(isPlacement)
    .filter(({ id }) => !wanted?.size || wanted.has(id))
    .map(
      (item): Named => ({
        key: item.id,
        name: nameOf(item.picture),
        go: () => {
          if (view.closeOn !== item.id) view.comeClose(item.id, boundsOf(item));
        },
      }),
    );
  if (!base) return [{ title: 'Pictures', of: pictures }];
  const { id: board, items } = base.session;
  const show = arrangement.show.bind(arrangement);
  const stages = stagesOf(base.session).map(
    (one): Named => ({
      key: one.id,
      name: one.title || UNNAMED,
      go: () => show({ kind: 'stage', board, stage: one.id }, pane),
    }),
  );
  const places = [...items.values()]
    .filter((item) => (isCluster(item) || isBay(item)) && item.title !== '' && isSeen(items, item))
    .map(
      (item): Named => ({
        key: item.id,
        name: 'title' in item ? item.title : '',
        go: () => show({ kind: 'board', board, at: item.id }, pane),
      }),
    )
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  return [
    { title: 'Stages', of: stages },
    { title: 'Pictures', of: pictures },
    { title: 'Clusters and bays', of: places },
  ];
}

/** The pictures of the working set, clusters, stages and boards, by name along the edge; typing jumps to one. */
export function NamesList({
  controls,
  arrangement,
}: {
  controls: PaneControls;
  arrangement: ArrangementStore;
}) {
  const [typed, setTyped] = useState('');
  const { data: boards } = useBoards();
  const { text } = useMade(controls.open.desk.watch, () => ({
    text: JSON.stringify(chaptersOf(controls, arrangement).map(({ of }) => of.map(({ name }) => name))),
  }));
  const chapters = useMemo(() => {
    const ids = [...new Set([...openBoards.ids(), ...recentBoards()])];
    const known = new Map((boards ?? []).map(({ id, name }) => [id, name]));
    const others = ids.flatMap((id): Named[] => {
      const name = known.get(id);
      const go = () => arrangement.show({ kind: 'board', board: id }, controls.pane);
      return name === undefined ? [] : [{ key: id, name, go }];
    });
    return [...chaptersOf(controls, arrangement), { title: 'Boards', of: others }];
  }, [controls, arrangement, boards, text]);
  const isMatch = textMatcher(typed);
  const shown = chapters
    .map(({ title, of }) => ({
      title,
      of: (typed.trim() ? of.filter(({ name }) => isMatch(name)) : of).slice(0, MOST_LISTED),
    }))
    .filter(({ of }) => of.length > 0);
  const go = (named: Named) => {
    named.go();
    controls.openNames(false);
  };
  return (
    <nav
      aria-label="By name"
      className="absolute inset-y-0 left-0 z-20 flex w-[220px] max-w-[86%] flex-col border-line border-r bg-raised text-[13px] text-ink"
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: it opens because the person asked for it
        autoFocus
        aria-label="Go to, by name"
        placeholder="a name"
        className="border-line border-b bg-transparent px-2.5 py-1.5 font-serif text-[15px] outline-none"
        value={typed}
        maxLength={200}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          event.stopPropagation();
          const first = shown[0]?.of[0];
          if (event.key === 'Escape') controls.openNames(false);
          if (event.key === 'Enter' && first) go(first);
        }}
      />
      <div className="min-h-0 flex-1 overflow-auto py-1">
        {shown.map(({ title, of }) => (
          <section key={title}>
            <h2 className="px-2.5 pt-1 text-[12px] text-muted">{title}</h2>
            {of.map((named) => (
              <button
                key={named.key}
                type="button"
                className="block w-full truncate px-2.5 py-0.5 text-left font-serif text-[15px] hover:bg-paper"
                onClick={() => go(named)}
              >
                <bdi>{named.name}</bdi>
              </button>
            ))}
          </section>
        ))}
        {shown.length === 0 && <p className="px-2.5 py-1 text-muted">Nothing has this name.</p>}
      </div>
    </nav>
  );
}
