import { boundsOf, keysOnTop } from '@miradero/core/board';
import { createView, isSavedView, type SavedView } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';

const NUMBERS = [1, 2, 3, 4, 5, 6, 7, 8, 9] as const;

/** Views kept on a board, by their numbers; those without one last, by name. */
export const viewsOf = (desk: Desk): SavedView[] =>
  [...desk.session.items.values()]
    .filter(isSavedView)
    .filter(({ removed }) => !removed)
    .sort(
      (a, b) =>
        (a.number ?? 10) - (b.number ?? 10) || a.title.localeCompare(b.title, 'en', { numeric: true }),
    );

/** Goes to the view that is kept under a number. */
export function goToView(desk: Desk, number: number): void {
  const view = viewsOf(desk).find((one) => one.number === number);
  if (view) desk.view?.show(boundsOf(view));
  else
    desk.say(`No view is kept as ${number}.`, [
      '“Keep this view” keeps what you look at now, by the next free number.',
    ]);
}

/** Keeps what is looked at now under the first number that is free. @returns its id */
export function keepView(desk: Desk): string | undefined {
  if (!desk.view) return undefined;
  const { x, y, width, height } = desk.view.view;
  const taken = new Set(viewsOf(desk).map(({ number }) => number));
  const number = NUMBERS.find((one) => !taken.has(one)) ?? null;
  const create = createView({
    ...{ id: crypto.randomUUID(), stack: keysOnTop(desk.session.items.values(), 1)[0]! },
    ...{ centre: { x: x + width / 2, y: y + height / 2 }, width, height },
    ...{ title: number === null ? 'View' : `View ${number}`, number },
  });
  desk.session.commit([{ create }]);
  desk.say(
    number === null ? 'The view is kept; all nine keys are taken.' : `Kept: Shift ${number} comes back here.`,
    ['“look” lists it and gives it a name.'],
  );
  return create.id;
}
