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

/** Which one comes to the front when one is taken from beside the others, or closed. */
export function besideAfter(panes: readonly string[], gone: string): string | undefined {
  const at = panes.indexOf(gone);
  return panes[at + 1] ?? panes[at - 1];
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
