import { cleanName } from '@miradero/core/picture';
import type { NamedState, PutNamedState } from '@miradero/core/schema';
import { cutText, storableText } from '@miradero/core/text';
import { boardAt, type Sync } from '../sync/index.ts';

const PATH = '/api/named-states/';

/** What is on its way to names of states: the state itself, where it is known, is the server's. */
type OwnName = Partial<Omit<PutNamedState, 'board'>> & Pick<PutNamedState, 'board'>;

/** Names of a board's states as they will be once the server knows what this browser said of them, by revision. */
export function withOwnNames(
  named: readonly NamedState[],
  board: string,
  own: ReadonlyMap<string, readonly object[]>,
): NamedState[] {
  const byId = new Map(named.map((one) => [one.id, one]));
  for (const [path, bodies] of own) {
    const said: OwnName = Object.assign({}, ...bodies);
    const id = path.slice(PATH.length);
    if (said.board !== board) continue;
    const { revision, name, isPutAway } = said;
    const known = byId.get(id);
    if (isPutAway) byId.delete(id);
    else if (known) byId.set(id, { ...known, ...(name === undefined ? {} : { name }) });
    // One that was put away and comes back is not known here until the server tells it.
    else if (revision !== undefined && name !== undefined) byId.set(id, { id, revision, name, namedAt: '' });
  }
  return [...byId.values()].sort((a, b) => a.revision - b.revision);
}

export const ownNames = ({ patches }: Pick<Sync, 'patches'>): ReadonlyMap<string, readonly object[]> =>
  patches.under(PATH);
export const isPathOfName = (path: string): boolean => path.startsWith(PATH);

/** Says something of a state's name: kept and sent like everything else, and taken back by undo. */
function say(
  sync: Sync,
  board: string,
  id: string,
  {
    before,
    after,
    words,
    at,
  }: { before: object; after: Omit<PutNamedState, 'board'>; words: string; at: number | undefined },
): void {
  const path = `${PATH}${id}`;
  sync.steps.record(
    { kind: 'facts', path, before: { ...before }, after: { ...after }, key: { board } },
    { at: at === undefined ? boardAt(board) : `${boardAt(board)}/history?at=${at}`, words },
  );
  void sync.outbox.put({ kind: 'patch', path, body: { board, ...after } });
}

const MOST_LETTERS = 200;
/** As it is kept; '' for what is no name. */
const keptName = (given: string): string => cutText(cleanName(storableText(given)), MOST_LETTERS);

/**
 * Gives a state a name.
 *
 * @param revision - undefined: the state at which the board is when this reaches the server, after all that was done before
 * @returns the name as it is kept; '' where that is none, and nothing was said
 */
export function nameState(sync: Sync, board: string, given: string, revision?: number): string {
  const name = keptName(given);
  if (name === '') return name;
  say(sync, board, crypto.randomUUID(), {
    before: { isPutAway: true },
    after: { name, isPutAway: false, ...(revision === undefined ? {} : { revision }) },
    words: `State named “${name}”`,
    at: revision,
  });
  return name;
}

export function renameState(
  sync: Sync,
  board: string,
  { id, name, revision: at }: NamedState,
  to: string,
): void {
  say(sync, board, id, { before: { name }, after: { name: to }, words: `State renamed “${to}”`, at });
}

export function forgetName(sync: Sync, board: string, { id, name, revision: at }: NamedState): void {
  say(sync, board, id, {
    ...{ before: { isPutAway: false }, after: { isPutAway: true } },
    words: `Name “${name}” taken away`,
    at,
  });
}
