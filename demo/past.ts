import { randomUUID } from 'node:crypto';
import { boardAfter } from '@miradero/core/board';
import { bringBackBoard } from '@miradero/core/history';
import { isPlacement } from '@miradero/core/items';
import type { Change, Item, Operation } from '@miradero/core/schema';
import { createConnection } from '../server/src/database/connection.ts';

/** One thing done to a board, so many days before the demo was loaded, at an hour and minute. */
interface Deed {
  readonly daysAgo: number;
  readonly at: `${string}:${string}`;
  readonly operations: readonly Operation[];
  /** The state it leads to is named so. */
  readonly name?: string;
}

export interface Past {
  readonly changes: readonly Change[];
  readonly deeds: readonly Deed[];
}

const created = (items: readonly Item[]): Operation[] => items.map((create) => ({ create }));
/** Minutes after nine in the morning, as an hour and minute. */
const clock = (minutes: number): Deed['at'] =>
  `${String(9 + Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/**
 * How a board came about: pictures row by row over some days, with two that were tried and taken out again, remarks as they
 * came to mind, and everything laid out in the end.
 *
 * @param first - items as they came, unsettled, pictures row by row
 * @param tried - pictures that are not there in the end
 * @param last - everything as it stands in the end
 */
export function pastOf(first: readonly Item[], tried: readonly Item[], last: readonly Item[]): Past {
  const pictures = first.filter(isPlacement);
  const others = first.filter((item) => !isPlacement(item));
  const third = Math.ceil(pictures.length / 3);
  const deeds: Deed[] = [];
  const oneByOne = (daysAgo: number, from: number, every: number, items: readonly Item[]) => {
    for (const [index, item] of items.entries())
      deeds.push({ daysAgo, at: clock(from + every * index), operations: created([item]) });
  };
  const nameLast = (name: string) => deeds.push({ ...deeds.pop()!, name });
  oneByOne(6, 12, 4, pictures.slice(0, third));
  nameLast('What I had at home');
  oneByOne(4, 95, 3, pictures.slice(third, 2 * third));
  oneByOne(4, 170, 2, tried);
  oneByOne(3, 20, 11, others);
  nameLast('With the lamps');
  const gone = tried.map(({ id }): Operation => ({ item: id, set: { removed: true } }));
  deeds.push({ daysAgo: 3, at: clock(210), operations: gone });
  oneByOne(1, 40, 2, pictures.slice(2 * third));
  let now: ReadonlyMap<string, Item> = new Map();
  for (const { operations } of deeds) now = boardAfter(now, operations);
  const then = new Map([...now, ...last.map((item) => [item.id, item] as const)]);
  for (const item of now.values()) if (!last.some(({ id }) => id === item.id)) then.set(item.id, item);
  deeds.push({ daysAgo: 1, at: clock(185), operations: bringBackBoard(now, then), name: 'Laid out' });
  return {
    deeds,
    changes: deeds.map(({ operations }) => ({ id: randomUUID(), operations: [...operations] })),
  };
}

/** When each was done, counted back from `now`. */
export function momentsOf({ deeds }: Past, now: Date): Date[] {
  return deeds.map(({ daysAgo, at }) => {
    const [hours, minutes] = at.split(':').map(Number) as [number, number];
    const date = new Date(now);
    date.setDate(date.getDate() - daysAgo);
    date.setHours(hours, minutes, 0, 0);
    return date;
  });
}

async function inDatabase(
  url: string,
  tell: (knex: ReturnType<typeof createConnection>) => Promise<unknown>,
): Promise<void> {
  const knex = createConnection(url, 1);
  try {
    await tell(knex);
  } finally {
    await knex.destroy();
  }
}

/** Says in the database of the demo when changes were made: a server takes every change as made now. */
export const spreadOut = (url: string, board: string, moments: readonly Date[]): Promise<void> =>
  inDatabase(url, async (knex) => {
    for (const [index, moment] of moments.entries())
      await knex('board_changes')
        .where({ board, revision: index + 1 })
        .update({ made_at: moment });
  });

/** Says in the database of the demo whose a change is. */
export const sayBy = (url: string, board: string, revision: number, by: string): Promise<void> =>
  inDatabase(url, (knex) => knex('board_changes').where({ board, revision }).update({ made_by: by }));
