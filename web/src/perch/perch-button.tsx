import { isBay, isCluster } from '@miradero/core/items';
import { PERCHABLE, useKeyWords, usePlace, useRun } from '../commands/index.ts';
import type { Desk } from '../desk/index.ts';
import { MOST_ITEMS, type Shows } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { perch } from './open-perch.ts';

/** What the perch shows of a board: the cluster, the bay or the pictures that are selected, else all of it. */
export function shownOf({ session, selected }: Desk): Shows {
  const board = session.id;
  const [only, ...others] = selected;
  if (!only || others.length >= MOST_ITEMS) return { kind: 'board', board };
  if (others.length === 0 && (isCluster(only) || isBay(only))) return { kind: 'board', board, at: only.id };
  return { kind: 'items', board, items: selected.map(({ id }) => id) };
}

/** Lets the perch show this board, or what is selected on it. */
export const usePerchable = (deskNow: () => Desk): void =>
  usePlace(PERCHABLE, { shows: () => shownOf(deskNow()) });

/** Opens the perch with what is in front, and closes it. */
export function PerchButton() {
  const run = useRun();
  const isShown = useStore(perch.store, ({ window }) => window !== undefined);
  const key = useKeyWords()('perch');
  return (
    <button
      type="button"
      aria-pressed={isShown}
      className="flex items-center gap-1.5 bg-ink px-3 py-1 text-paper aria-pressed:bg-verdigris"
      onClick={() => run('perch')}
    >
      {key && <kbd className="font-mono text-[12px] opacity-80">{key}</kbd>}
      perch
    </button>
  );
}
