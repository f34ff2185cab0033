import { keysOnTop } from '@miradero/core/board';
import {
  createWorkingSet,
  GENTLE_LIMIT,
  isPlacement,
  isWorkingSet,
  MOST_MEMBERS,
  type WorkingSet,
} from '@miradero/core/items';
import { type Desk, NOTHING_HERE } from '../desk/index.ts';
import { createStore, type Readable, recall, remember } from '../state/index.ts';
import type { OpenBoard } from '../sync/index.ts';
import { LeavingOne } from './leaving-one.tsx';

type Items = Pick<OpenBoard, 'id' | 'items'>;

/** Stages of the work that a board begins with are named by the first of these that is free. */
const FIRST_TITLES = ['Start', 'Colour', 'Detail'] as const;
const MOST_STAGES = 12;

/** The working sets of a board, in the order of the stages. */
export const stagesOf = ({ items }: Items): WorkingSet[] =>
  [...items.values()]
    .filter(isWorkingSet)
    .filter(({ removed }) => !removed)
    .sort((a, b) => (a.stack < b.stack ? -1 : a.stack > b.stack ? 1 : a.id < b.id ? -1 : 1));

/** Those of its pictures that still stand. */
export const membersOf = ({ items }: Items, { members }: WorkingSet): string[] =>
  members.filter((id) => items.get(id)?.removed === false);

const keyOf = (board: string) => `miradero-stage-${board}`;
const chosen = createStore<Readonly<Record<string, string | undefined>>>(() => ({}));

/** Which stage each board is at, in this browser; altered by every window of it. */
export const stageStore: Readable<Readonly<Record<string, string | undefined>>> = chosen;
globalThis.window?.addEventListener('storage', ({ key, newValue }) => {
  const [, board] = key?.split('miradero-stage-') ?? [];
  if (board) chosen.setState({ [board]: newValue ?? undefined });
});

function chosenOn(board: string): string | undefined {
  try {
    return chosen.getState()[board] ?? recall(keyOf(board)) ?? undefined;
  } catch {
    return undefined;
  }
}

/** The stage that a board is at: the one gone to last, else its first; undefined where it has none. */
export function stageNow(board: Items): WorkingSet | undefined {
  const stages = stagesOf(board);
  const id = chosenOn(board.id);
  return stages.find((stage) => stage.id === id) ?? stages[0];
}

export function goToStage(board: string, stage: string): void {
  chosen.setState({ [board]: stage });
  try {
    remember(keyOf(board), stage);
  } catch {
    // Kept for this window alone.
  }
}

/** Goes on to the next stage, around. @returns it */
export function nextStage(board: Items, by: 1 | -1 = 1): WorkingSet | undefined {
  const stages = stagesOf(board);
  const now = stageNow(board);
  const next = now && stages[(stages.indexOf(now) + by + stages.length) % stages.length];
  if (next) goToStage(board.id, next.id);
  return next;
}

/** Makes a stage after those there are, and goes to it. */
export function makeStage(desk: Desk, members: readonly string[] = []): void {
  const stages = stagesOf(desk.session);
  if (stages.length >= MOST_STAGES) {
    desk.say('There are twelve stages already.', ['Forget one before another is made.']);
    return;
  }
  const taken = new Set(stages.map(({ title }) => title));
  const title = FIRST_TITLES.find((one) => !taken.has(one)) ?? `Stage ${stages.length + 1}`;
  const stack = keysOnTop(desk.session.items.values(), 1)[0]!;
  const create = createWorkingSet({ id: crypto.randomUUID(), stack, title, members: [...members] });
  desk.session.commit([{ create }]);
  goToStage(desk.session.id, create.id);
}

export function setMembers(desk: Desk, stage: WorkingSet, members: readonly string[]): void {
  desk.session.commit([{ item: stage.id, set: { members: [...members] } }]);
}

const counted = (count: number) => (count === 1 ? '1 picture' : `${count} pictures`);

/** Takes pictures into the working set of the stage, or out of it where all of them are in it; more than a few, and it is asked which one leaves. */
export function toggleInSet(desk: Desk): void {
  const ids = desk.targets.filter(isPlacement).map(({ id }) => id);
  if (ids.length === 0) {
    desk.say('Nothing to take into the working set.', [NOTHING_HERE]);
    return;
  }
  const stage = stageNow(desk.session);
  const before = stage ? membersOf(desk.session, stage) : [];
  const isOut = ids.every((id) => before.includes(id));
  const after = isOut ? before.filter((id) => !ids.includes(id)) : [...new Set([...before, ...ids])];
  if (after.length > MOST_MEMBERS) {
    desk.say(`A working set holds ${MOST_MEMBERS} pictures at most, and three are better.`);
    return;
  }
  if (!isOut && after.length > GENTLE_LIMIT) {
    desk.take(
      new LeavingOne(stage?.title ?? FIRST_TITLES[0], after, (kept) => {
        if (stage) setMembers(desk, stage, kept);
        else makeStage(desk, kept);
      }),
      desk.selection,
    );
    return;
  }
  if (stage) setMembers(desk, stage, after);
  else makeStage(desk, after);
  const { title } = stageNow(desk.session)!;
  desk.say(`“${title}”: ${counted(after.length)}.`, [
    isOut ? 'S takes it in again.' : 'S takes it out again; Alt S goes to the next stage.',
  ]);
}

/** Goes to the next stage of the work and says which it is. */
export function goOnToStage(desk: Desk, by: 1 | -1): void {
  const next = nextStage(desk.session, by);
  if (next) desk.say(`“${next.title}”: ${counted(membersOf(desk.session, next).length)}.`);
  else desk.say('This board has no working set yet.', ['S takes what is selected into one.']);
}
