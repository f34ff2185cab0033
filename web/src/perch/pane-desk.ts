import { boundsOf } from '@miradero/core/board';
import type { Rectangle, Viewport } from '@miradero/core/geometry';
import type { Picture } from '@miradero/core/schema';
import { useEffect, useState } from 'react';
import { Desk, keepDesk, sourcesOf } from '../desk/index.ts';
import { membersOf, stageNow, stageStore, stagesOf } from '../looking/index.ts';
import { keyOfShows, type Shows, useSync } from '../shell/index.ts';
import { SceneFeed } from '../stage/index.ts';
import { watch } from '../state/index.ts';
import { ask, patchPicture, RefusedError, type Sync } from '../sync/index.ts';
import { LooseBoard } from './loose-board.ts';
import { PartBoard } from './part-board.ts';

/** What a pane works on: a desk of its own, so that what is selected, taken or looked through here stays here. */
export interface PaneDesk {
  readonly desk: Desk;
  /** Where it shows a few items alone. */
  readonly part: PartBoard | undefined;
  /** The whole board that it shows, or of which it shows a part; undefined for a picture alone. */
  readonly base: Desk | undefined;
  /** What is its whole in a view with so much room, where that is not everything that stands. */
  home(room: Viewport): Rectangle | undefined;
  /** What it shows, in words. */
  title(): string;
}

export type OpenedPane = PaneDesk | { readonly trouble: string } | undefined;

const AGAIN_MS = 1_500;
/** What is shown alone fills the view, however large it becomes. */
const allOfView = (room: Viewport): Rectangle => ({ x: 0, y: 0, ...room });

function paneOnBoard(base: Desk, at: string | undefined): { pane: PaneDesk; close: () => void } {
  const desk = new Desk(base.sync, base.session, base.feed);
  const itemAt = () => (at === undefined ? undefined : base.session.items.get(at));
  const pane: PaneDesk = {
    ...{ desk, base, part: undefined },
    home() {
      const item = itemAt();
      return item && !item.removed ? boundsOf(item) : undefined;
    },
    title() {
      const item = itemAt();
      return (item && 'title' in item && item.title) || base.session.board.name;
    },
  };
  return { pane, close: () => desk.close() };
}

function paneOfPart(base: Desk, shows: Extract<Shows, { kind: 'items' | 'stage' }>) {
  const { session, sync } = base;
  /** What was made here stays in sight, for as long as this is open. */
  const made: string[] = [];
  const stage = () =>
    shows.kind !== 'stage'
      ? undefined
      : shows.stage
        ? stagesOf(session).find(({ id }) => id === shows.stage)
        : stageNow(session);
  const choose = () => {
    if (shows.kind === 'items') return [...new Set([...shows.items, ...made])];
    const now = stage();
    // Before there is a working set what is made here stays in sight all the same.
    return now ? membersOf(session, now) : made;
  };
  const part = new PartBoard(session, choose);
  const feed = new SceneFeed(part, sourcesOf(sync.shelf), base.feed.painter);
  const desk = new Desk(sync, part, feed);
  part.onCreated = (ids) => {
    const now = stage();
    made.push(...ids);
    return now ? [{ item: now.id, set: { members: [...now.members, ...ids] } }] : [];
  };
  const endStage = stageStore.subscribe(() => part.chooseAgain());
  const pane: PaneDesk = {
    ...{ desk, base, part },
    home: allOfView,
    title() {
      const { name } = session.board;
      if (shows.kind === 'stage') return stage()?.title || name;
      const [only, ...others] = part.order;
      const item = only === undefined ? undefined : session.items.get(only);
      const known = item?.kind === 'placement' ? sync.shelf.get(item.picture)?.name : undefined;
      return known && others.length === 0 ? known : `${part.order.length} of ${name}`;
    },
  };
  return {
    pane,
    close() {
      endStage();
      desk.close();
      feed.close();
      part.close();
    },
  };
}

function paneOfPictures(sync: Sync, pictures: readonly Picture[]) {
  const loose = new LooseBoard(pictures, (picture, name) => void patchPicture(sync, picture, { name }));
  const part = new PartBoard(loose, () => pictures.map(({ id }) => id));
  const feed = new SceneFeed(part, sourcesOf(sync.shelf));
  const desk = new Desk(sync, part, feed);
  const [only, ...others] = pictures;
  const pane: PaneDesk = {
    ...{ desk, part, base: undefined, home: allOfView },
    title: () =>
      only && others.length === 0
        ? (sync.shelf.get(only.id)?.name ?? only.name)
        : `${pictures.length} pictures`,
  };
  return {
    pane,
    close() {
      desk.close();
      feed.close();
      part.close();
      loose.close();
    },
  };
}

/** Opens what a pane shows, and goes on trying while the server is away. @returns a function that closes it */
function openPane(sync: Sync, shows: Shows, tell: (opened: OpenedPane) => void): () => void {
  let close = () => {};
  let isHere = true;
  const open = (opened: { pane: PaneDesk; close: () => void }) => {
    close();
    close = opened.close;
    tell(opened.pane);
  };
  if (shows.kind !== 'pictures') {
    const end = keepDesk(sync, shows.board, (opened) => {
      if (!opened) return;
      if ('trouble' in opened) tell({ trouble: opened.trouble });
      else open(shows.kind === 'board' ? paneOnBoard(opened.desk, shows.at) : paneOfPart(opened.desk, shows));
    });
    return () => {
      close();
      end();
    };
  }
  let timer: ReturnType<typeof setTimeout> | undefined;
  const read = async () => {
    try {
      const asked = shows.pictures.map((id) => ask('GET /api/pictures/:id', { parameters: { id } }));
      const pictures = (await Promise.all(asked)).map(({ picture }) => picture);
      sync.shelf.want(shows.pictures);
      if (isHere) open(paneOfPictures(sync, pictures));
    } catch (error) {
      if (!isHere) return;
      const isGone = error instanceof RefusedError;
      tell({
        trouble: isGone ? 'A picture of these is gone.' : 'The pictures do not come. It is tried again.',
      });
      if (!isGone) timer = setTimeout(() => void read(), AGAIN_MS);
    }
  };
  void read();
  return () => {
    isHere = false;
    clearTimeout(timer);
    close();
  };
}

/** What a pane works on, opened anew when it shows something else. */
export function usePaneDesk(shows: Shows): OpenedPane {
  const sync = useSync();
  const key = keyOfShows(shows);
  const [opened, setOpened] = useState<{ readonly key: string; readonly pane: OpenedPane }>();
  useEffect(
    () => openPane(sync, shows, (pane) => setOpened({ key, pane })),
    // What it shows is the same as long as its key is.
    [sync, key],
  );
  return opened?.key === key ? opened.pane : undefined;
}

/** Calls back when what a pane is called may have altered. */
export const watchTitle = ({ desk, base }: PaneDesk, listener: () => void): (() => void) => {
  const ends = [
    desk.watch(listener),
    stageStore.subscribe(listener),
    ...(base ? [watch(base.session.store, ({ board }) => board.name, listener)] : []),
  ];
  return () => {
    for (const end of ends) end();
  };
};
