/** What a pane of the perch shows. */
export type Shows =
  /** A board; `at` is an item of it (a cluster, a bay, a kept view) that is its whole. */
  | { readonly kind: 'board'; readonly board: string; readonly at?: string }
  /** Some items of a board, alone. */
  | { readonly kind: 'items'; readonly board: string; readonly items: readonly string[] }
  /** The working set of a stage, alone; without a name whichever stage its board is at. */
  | { readonly kind: 'stage'; readonly board: string; readonly stage?: string }
  /** Pictures, whatever boards they stand on. */
  | { readonly kind: 'pictures'; readonly pictures: readonly string[] };

/** More than so many pictures alone are no help: their board is. */
export const MOST_ITEMS = 200;
/** Of many pictures that are in front, so many are shown: few are looked at at once. */
export const MOST_SHOWN = 24;
const isId = (value: unknown): value is string =>
  typeof value === 'string' && /^[0-9A-Za-z_-]{1,40}$/.test(value);
const areIds = (value: unknown): value is readonly string[] =>
  Array.isArray(value) && value.length > 0 && value.length <= MOST_ITEMS && value.every(isId);
const isIdOrNone = (value: unknown) => value === undefined || isId(value);

/** Whether something read from a store or an address is such. */
export function isShows(value: unknown): value is Shows {
  if (typeof value !== 'object' || value === null) return false;
  const { kind, board, at, items, stage, pictures } = value as Record<string, unknown>;
  switch (kind) {
    case 'board':
      return isId(board) && isIdOrNone(at);
    case 'items':
      return isId(board) && areIds(items);
    case 'stage':
      return isId(board) && isIdOrNone(stage);
    case 'pictures':
      return areIds(pictures);
    default:
      return false;
  }
}

/** The same thing has the same key, whatever is looked at of it. */
export function keyOfShows(shows: Shows): string {
  switch (shows.kind) {
    case 'board':
      return `board ${shows.board} ${shows.at ?? ''}`;
    case 'items':
      return `items ${shows.board} ${shows.items.join(' ')}`;
    case 'stage':
      return `stage ${shows.board} ${shows.stage ?? ''}`;
    case 'pictures':
      return `pictures ${shows.pictures.join(' ')}`;
  }
}

/** The board that it is of; undefined for pictures without one. */
export const boardOfShows = (shows: Shows): string | undefined =>
  shows.kind === 'pictures' ? undefined : shows.board;
