import { isShows, type Shows } from './shows.ts';

/** So many boards stand side by side. */
export const MOST_PANES = 3;
const PARAMETER = 'panes';

/**
 * Boards that an address shows side by side, from left to right; the one in front is always among them.
 *
 * @param search - query of the address
 */
export function panesIn(front: string, search: string): readonly string[] {
  const named = (new URLSearchParams(search).get(PARAMETER) ?? '').split(',').filter((id) => id !== '');
  const panes = [...new Set(named)].slice(0, MOST_PANES);
  return panes.includes(front) ? panes : [front];
}

/** The address of a board in front, with others beside it. */
export const addressOfPanes = (front: string, panes: readonly string[]): string =>
  panes.length > 1 && panes.includes(front)
    ? `/boards/${front}?${PARAMETER}=${panes.join(',')}`
    : `/boards/${front}`;

/** The board laid beside others, at their left or right end; one that is there already goes to that end. */
export function withPane(panes: readonly string[], id: string, side: 'left' | 'right'): readonly string[] {
  const others = panes.filter((one) => one !== id);
  return side === 'left' ? [id, ...others] : [...others, id];
}

/** Which board comes to the front when one is taken from beside the others, or closed. */
export function besideAfter(panes: readonly string[], gone: string): string | undefined {
  const boards = panes.filter((pane) => pane === gone || isBoardPane(pane));
  const at = boards.indexOf(gone);
  return boards[at + 1] ?? boards[at - 1];
}

const BETWEEN = '.';
/** Whether a pane shows a whole board, and is named by its id; else it shows something of one, alone. */
export const isBoardPane = (pane: string): boolean => !pane.includes(BETWEEN);

/** How a pane is named that shows something of a board. */
export function paneShowing(shows: Exclude<Shows, { kind: 'pictures' }>): string {
  if (shows.kind === 'items') return ['items', shows.board, ...shows.items].join(BETWEEN);
  if (shows.kind === 'stage')
    return ['stage', shows.board, ...(shows.stage ? [shows.stage] : [])].join(BETWEEN);
  return shows.at === undefined ? shows.board : ['at', shows.board, shows.at].join(BETWEEN);
}

/** What a pane shows by its name; undefined for what is no such name. */
export function shownIn(pane: string): Shows | undefined {
  const [kind, board, ...items] = pane.split(BETWEEN);
  const [at] = items;
  const shows = isBoardPane(pane)
    ? { kind: 'board', board: pane }
    : {
        items: { kind, board, items },
        stage: { kind, board, ...(at !== undefined && { stage: at }) },
        at: { kind: 'board', board, at },
      }[kind ?? ''];
  return isShows(shows) && (kind !== 'at' || at !== undefined) ? shows : undefined;
}

/** The address of a board as one goes to it: where it stands beside the present one, all stay as they are. */
export function amongPanes(
  path: string,
  here: { readonly pathname: string; readonly search: string },
): string {
  const [to, front] = [path, here.pathname].map((one) => /^\/boards\/([^/?]+)$/.exec(one)?.[1]);
  const panes = front === undefined ? [] : panesIn(front, here.search);
  return to !== undefined && panes.includes(to) ? addressOfPanes(to, panes) : path;
}
